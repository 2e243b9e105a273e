"""Doing, proving and coming back."""

from datetime import date, timedelta
from uuid import UUID

from cases.models import Case
from cases.services import all_standing, close_case, core_observation, get_case, open_case_of
from cases.work import Work, jobs_of, work_of
from django.db import transaction
from django.http import Http404
from django.utils import timezone
from hematite.assembly import library
from hematite.bundles import vehicle_from_json
from hematite.decision import UNTOUCHED
from hematite.doors import SHOWN, one_of
from hematite.errors import UnknownName
from hematite.jobs import is_step, ladder
from hematite.language import say
from hematite.proof import checks, choose_before, closing, prove_sound
from hematite.units import first_unit, from_si
from hematite.upkeep import Recheck, rechecks
from hematite.vehicles import Hub
from people.models import User
from recordings.services import heard_in
from upkeep import services as upkeep
from verdicts.models import Verdict
from workshop.refusals import Refusal

from jobs.models import StepEntry

MOST_NAMED = 3  # steps that closing names one by one; judgement
ENTRIES = ("done", "undone", "stuck", "note")


def case_work(case: Case) -> Work:
    """Return the work of a case: every job in one plan, and what was entered at its steps."""
    return work_of(case, case.verdicts.select_related("person"), case.steps.select_related("person"))


def job(user: User, case_id: UUID, verdict_id: UUID | None = None) -> dict | None:
    """Return the work of a case with the verdict that is asked for, else the latest; None before any verdict."""
    case = get_case(user, case_id)
    verdict = _chosen(case, verdict_id)
    if verdict is None:
        return None
    work = case_work(case)
    hub = work.vehicle.hub(verdict.hub)
    if hub is None:
        raise Http404
    return {
        "case": case,
        "verdict": verdict,
        "work": work,
        "hub": hub,
        "usual": usual_rechecks(case, timezone.localdate()),
        "planned": list(case.rechecks.select_related("vehicle", "planned_by", "done_by")),
    }


def _chosen(case: Case, verdict_id: UUID | None) -> Verdict | None:
    if verdict_id is None:
        return case.verdicts.select_related("person").last()
    found = case.verdicts.select_related("person").filter(id=verdict_id).first()
    if found is None:
        raise Http404
    return found


@transaction.atomic
def enter(user: User, case_id: UUID, data: dict) -> StepEntry:
    """Enter something at a step of a case's job: done, undone, stuck with the rung that is tried, a note or a figure.

    The same number sent again is the same entry. A step that the plan has not any more, as somebody decided anew while
    it was on its way, is kept all the same: it was done.
    """
    case = open_case_of(user, case_id)
    known = StepEntry.objects.filter(id=data["id"]).first()
    if known is not None and (known.case_id, known.step) != (case.id, data["step"]):
        raise Refusal("id_taken", say("This entry's number is taken by another. Enter it again."))
    if known is not None:
        return known
    work = case_work(case)
    if not work.rows:
        raise Refusal(
            "nothing_decided", say("Nothing is decided yet, so there is no job to enter this at."), status=422
        )
    one_of(data["kind"], ENTRIES, say("kind of entry"))
    if not is_step(data["step"], [hub.id for hub in work.vehicle.hubs()]):
        raise UnknownName(say("“{given}” is no step of any job at this vehicle.", given=data["step"][:SHOWN]))
    if data["kind"] == "stuck" and data["rung"]:
        _rung(work, data["step"], data["rung"])
    kept = {key: data[key] for key in ("id", "step", "kind", "rung", "note")}
    return StepEntry.objects.create(case=case, figure=_figure(data), person=user, **kept)


def _figure(data: dict) -> dict:
    """Return the figure of an entry, empty without one. Raises `Refusal` for one of nothing, `BadQuantity` for none."""
    quantity, value = data.get("quantity", ""), data.get("value")
    if value is None:
        return {}
    if not quantity:
        raise Refusal("figure_of_nothing", say("Say what the figure is of: a torque, a play, a warmth."), status=422)
    from_si(value, quantity=quantity, unit=first_unit(quantity))
    return {"quantity": quantity, "value": value}


def _rung(work: Work, step: str, rung: str) -> None:
    found = next((one for one in work.plan.steps if one.id == step and one.act == "off"), None)
    if found is None:
        raise Refusal("no_such_step", say("This step is not in the plan any more. Look at the job as it is now."))
    keys = [one.key for one in ladder(library()[found.part])]
    one_of(rung, keys, say("way of freeing it ({label})", label=library()[found.part].label))


def _hub_as_decided(case: Case, verdict: Verdict) -> Hub:
    """Return the hub as it was described when it was decided on: a correction meanwhile changes no job."""
    frozen = verdict.snapshot.get("vehicle")
    hub = (vehicle_from_json(frozen) if frozen else case.core).hub(verdict.hub)
    if hub is None:
        raise Http404
    return hub


def proof(user: User, case_id: UUID, verdict_id: UUID | None = None) -> dict | None:
    """Return what proves a job: its sound against before, every check beside what was found before, the closing words.

    None before any verdict.
    """
    case = get_case(user, case_id)
    verdict = _chosen(case, verdict_id)
    if verdict is None:
        return None
    vehicle = case.core
    hub = _hub_as_decided(case, verdict)
    heard = [h for h in heard_in(case) if h.situation.place == verdict.hub]
    after = next((h for h in reversed(heard) if h.situation.job == str(verdict.id)), None)
    before = choose_before([h for h in heard if not h.situation.job], after)
    sound = prove_sound(before, after) if after else None
    made = checks(hub, vehicle, _observed(case, None), _observed(case, verdict.id), weighed=_weighed(verdict))
    left = [step.do for step in case_work(case).left(verdict.hub)]
    if len(left) > MOST_NAMED:
        left = [say("{left} steps of the job", left=len(left))]
    return {
        "verdict": verdict,
        "sound": sound,
        "before": before.situation.id if before else None,
        "after": after.situation.id if after else None,
        "checks": made,
        "closing": closing(made, sound=sound.outcome if sound else "", open_steps=left),
        "untouched": verdict.choice in UNTOUCHED,
    }


def _weighed(verdict: Verdict) -> list[str]:
    """Return the witnesses that spoke for the fault when it was decided, the heaviest first."""
    said = verdict.assessment["hubs"].get(verdict.hub, {}).get("witnesses", [])
    return [one["witness"] for one in sorted(said, key=lambda one: -one["bits"]) if one["bits"] > 0]


def _observed(case: Case, job: UUID | None) -> list:
    return [core_observation(row) for row in all_standing(case) if row.job == job]


def usual_rechecks(case: Case, today: date) -> list[dict]:
    """Return the usual rechecks after a case's jobs, as dates and distances, the soonest first.

    Where somebody worked out what a wheel's place and load leave of a hub's life, that shortens what wears there.
    """
    decided = [(row.hub, row.choice) for row in jobs_of(case.verdicts.all())]
    worked = Case.worked.rel.related_model.objects.filter(case__vehicle=case.vehicle_id, sum="life").order_by("at")
    ratios = {hub: keep["life_ratio"] for hub, keep in worked.values_list("hub", "keep") if "life_ratio" in keep}
    return [_usual(one, today) for one in rechecks(case.core, decided, life_ratios=ratios)]


def _usual(one: Recheck, today: date) -> dict:
    fields = {name: getattr(one, name) for name in ("key", "hub", "label", "asks", "why", "shortened", "minutes")}
    return (
        fields
        | {"due_on": today + timedelta(days=one.days) if one.days else None}
        | {
            "after_km": one.km or None,
            "after_hours": one.hours or None,
        }
    )


@transaction.atomic
def finish(
    user: User,
    case_id: UUID,
    *,
    outcome: str,
    planned: list[dict],
    unproven_because: str = "",
    odometer: dict | None = None,
) -> Case:
    """Close a case with rechecks and with what was proven; what was not is closed with a reason, never in silence.

    `odometer`: what stood there when it was handed over, if somebody read it: distances count from it.
    """
    ended = get_case(user, case_id)
    if ended.closed_at and (ended.outcome, ended.closed_by_id) == (outcome, user.pk):
        return ended  # sent twice
    if not planned:
        raise Refusal(
            "recheck_needed", say("Keep one recheck at least: a date or a distance to look again."), status=422
        )
    closing_words = []
    for row in jobs_of(open_case_of(user, case_id).verdicts.all()):
        found = proof(user, case_id, row.id)
        if not found["untouched"]:
            closing_words.append(f"{row.hub}: {found['closing'].words}")
            if not found["closing"].complete and not unproven_because.strip():
                words = say(
                    "{hub} is not wholly proven. {words} Say why it is closed all the same.",
                    hub=row.hub,
                    words=found["closing"].words,
                )
                raise Refusal("unproven", words, status=422)
    case = close_case(user, case_id, outcome, closing=" ".join(closing_words), because=unproven_because)
    if odometer:
        upkeep.read(user, case.vehicle_id, odometer)
    upkeep.plan(user, case.vehicle, planned, case=case)
    return case
