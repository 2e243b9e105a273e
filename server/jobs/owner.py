"""What the owner is told of a finished job: what was found, done and proven, what is open, when to come back."""

from uuid import UUID

from cases.models import Case
from cases.services import get_case
from cases.work import jobs_of
from hematite.bundles import vehicle_from_json
from hematite.jobs import lists
from hematite.language import say
from hematite.verdict import choices
from hematite.wording import wording
from people.models import User
from photos.models import Photo
from recordings.models import Recording
from upkeep.shown import recheck_out
from verdicts.models import Verdict
from workshop.refusals import Refusal

from jobs.services import case_work, proof

MOST_FOUND = 4  # witnesses: an owner wants the reason, not the weighing
MOST_PHOTOS = 4
TELLS = 1.0  # bits; what weighs less tells an owner nothing


def for_the_owner(user: User, case_id: UUID) -> dict:
    """Return the page of a case for its owner. Raises `Refusal` before anything is decided."""
    case = get_case(user, case_id)
    rows = jobs_of(case.verdicts.select_related("person"))
    if not rows:
        raise Refusal(
            "nothing_decided", say("Nothing is decided yet, so there is nothing to tell the owner."), status=422
        )
    parts = lists(case_work(case).plan, case.core).parts
    return {
        "workshop": case.workshop.name,
        "vehicle_label": case.vehicle.label,
        "plate": case.vehicle.plate,
        "complaint": case.complaint,
        "opened_at": case.opened_at,
        "closed_at": case.closed_at,
        "person": rows[-1].person.shown_name,
        "jobs": [_job(user, case, row, parts) for row in rows],
        "outcome": case.outcome,
        "unproven_because": case.unproven_because,
        "again": [recheck_out(row) for row in case.rechecks.select_related("vehicle", "planned_by", "done_by")],
        "photos": list(_photos(case).values_list("id", flat=True)),
        "nothing_above": wording()["nothing_above"],
    }


def _photos(case: Case):
    return Photo.objects.filter(case=case, withdrawn=False).order_by("at")[:MOST_PHOTOS]


def _job(user: User, case: Case, row: Verdict, parts: tuple) -> dict:
    found = proof(user, case.id, row.id)
    judged = row.assessment["hubs"][row.hub]
    frozen = row.snapshot.get("vehicle")
    vehicle = vehicle_from_json(frozen) if frozen else case.core
    done = [check for check in found["checks"] if check.answer in ("good", "bad")]
    return {
        "hub": row.hub,
        "where": vehicle.spoken().get(row.hub, row.hub),
        "decided": choices()[row.choice],
        "found": [_plain(one) for one in judged["witnesses"] if one["bits"] >= TELLS][:MOST_FOUND],
        "parts": [f"{item.label} {item.size}".strip() for item in parts if row.hub in item.hubs],
        "checks": [
            {
                "label": check.label,
                "before": list(check.before),
                "after": check.words[check.answer],
                "good": check.answer == "good",
            }
            for check in done
        ],
        "untouched": found["untouched"],
        "sound": found["sound"].words if found["sound"] else "",
        "before": found["before"],
        "after": found["after"],
        "open": [] if found["untouched"] else list(found["closing"].open),
    }


def _plain(one: dict) -> str:
    """Return a witness as a sentence for somebody who is not of the trade: what was looked at, and what it was like."""
    return f"{one['label']}: {one['words']}"


def curve(recording_id: UUID | None) -> tuple[list[float], list[float]] | None:
    """Return what repeats per wheel turn in a recording, in dB over the floor; None where nothing is known."""
    row = Recording.objects.filter(id=recording_id).select_related("analysis").first() if recording_id else None
    plot = row.analysis.plot if row is not None else {}
    return (plot["orders"], plot["db"]) if plot and plot.get("orders") else None
