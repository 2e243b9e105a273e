"""Jobs and proofs, asked for."""

from dataclasses import asdict
from typing import Literal
from uuid import UUID

from cases.models import Case
from cases.services import get_case
from cases.shown import case_out
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from hematite.families import FAINT
from hematite.language import say
from hematite.proof import SoundProof
from ninja import Field, Query, Router
from people.permissions import DECIDE, May
from upkeep.shown import recheck_out
from verdicts.shown import verdict_out
from workshop.paper import UNITS
from workshop.refusals import Refusal
from workshop.shape import Schema

from jobs import owner_paper, paper, services
from jobs.owner import for_the_owner
from jobs.schemas import (
    EntryIn,
    EntryOut,
    FinishIn,
    FinishOut,
    JobOut,
    OwnerOut,
    ProofOut,
)
from jobs.shown import Shown, entry_out, means_of

router = Router(tags=["jobs"])


class AsItIsNow(Schema):
    """What the screen knows of the day: its hour, the hands, and in how many hours parts and a press are there."""

    at_h: float | None = Field(None, ge=0, le=24)
    hands: int | None = Field(None, ge=1, le=6)
    parts_in_h: float = Field(0.0, ge=0, le=2000)
    press_in_h: float | None = Field(None, ge=0, le=2000)


def _job(request: HttpRequest, case_id: UUID, verdict: UUID | None, now: AsItIsNow) -> dict:
    found = services.job(request.user, case_id, verdict)
    if found is None:
        return {"verdict": None}
    policy = found["case"].policy
    return Shown(found["work"], policy, means_of(policy, **now.dict())).out() | {
        "verdict": verdict_out(found["verdict"]),
        "usual_rechecks": found["usual"],
        "rechecks": [recheck_out(row) for row in found["planned"]],
    }


@router.get("/cases/{uuid:case_id}/job", response=JobOut)
def get_job(request: HttpRequest, case_id: UUID, now: Query[AsItIsNow], verdict: UUID | None = None):
    """Return the one plan of a case's jobs, what of it is done, its lists and the order of the day."""
    return _job(request, case_id, verdict, now)


@router.get("/cases/{uuid:case_id}/job/sheet.pdf", response={200: None})
def get_sheet(request: HttpRequest, case_id: UUID, units: Literal["own", "metric", "imperial"] = "own"):
    """Return the job on paper, one step a line with room to tick by hand."""
    case, work = _on_paper(request, case_id)
    liked = request.user.preferences.get("units", {}) if units == "own" else UNITS[units]
    answer = HttpResponse(paper.sheet(case, work, liked), content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="job-sheet.pdf"'
    return answer


@router.get("/cases/{uuid:case_id}/job/lists.csv", response={200: None})
def get_lists(request: HttpRequest, case_id: UUID):
    """Return the job's lists as CSV."""
    answer = HttpResponse(paper.lists_csv(_on_paper(request, case_id)[1]), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="job-lists.csv"'
    return answer


def _on_paper(request: HttpRequest, case_id: UUID) -> tuple[Case, dict]:
    found = services.job(request.user, case_id)
    if found is None:
        raise Refusal("nothing_decided", say("Nothing is decided yet, so there is no job to print."), status=422)
    case = found["case"]
    return case, Shown(found["work"], case.policy, means_of(case.policy, **AsItIsNow().dict())).out()


@router.post("/cases/{uuid:case_id}/job/entries", response=EntryOut)
def enter(request: HttpRequest, case_id: UUID, payload: EntryIn):
    """Enter something at a step: done, not after all, it will not move, a note or a figure.

    The job is asked for apart: many entries on their way are one question.
    """
    return entry_out(services.enter(request.user, case_id, payload.dict()))


@router.get("/cases/{uuid:case_id}/proof", response=ProofOut)
def get_proof(request: HttpRequest, case_id: UUID, verdict: UUID | None = None):
    """Hold after against before: the sound, and every check by hand."""
    found = services.proof(request.user, case_id, verdict)
    if found is None:
        return {"ready": False}
    closing = found["closing"]
    return {
        "ready": True,
        "verdict": verdict_out(found["verdict"]),
        "stands_from": FAINT,
        "sound": _sound(found["sound"]),
        "before": found["before"],
        "after": found["after"],
        "checks": [asdict(check) for check in found["checks"]],
        "closing": asdict(closing) | {"complete": closing.complete, "words": closing.words},
        "untouched": found["untouched"],
    }


@router.get("/cases/{uuid:case_id}/owner", response=OwnerOut)
def get_owner(request: HttpRequest, case_id: UUID):
    """Return what the owner is told: what was found, done and proven, what is open, when to come back."""
    return for_the_owner(request.user, case_id)


@router.get("/cases/{uuid:case_id}/owner.pdf", response={200: None})
def get_owner_paper(request: HttpRequest, case_id: UUID, units: Literal["own", "metric", "imperial"] = "own"):
    """Return the owner's page on paper."""
    page = for_the_owner(request.user, case_id)
    liked = request.user.preferences.get("units", {}) if units == "own" else UNITS[units]
    rechecks = get_case(request.user, case_id).rechecks.all()
    answer = HttpResponse(owner_paper.pdf(page, rechecks, liked), content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="for-the-owner.pdf"'
    return answer


def _sound(sound: SoundProof | None) -> dict | None:
    if sound is None:
        return None
    lines = [asdict(line) | {"went": line.went, "stands": line.stands, "came": line.came} for line in sound.lines]
    return asdict(sound) | {"label": sound.label, "lines": lines}


@router.post("/cases/{uuid:case_id}/finish", auth=May(DECIDE), response=FinishOut)
def finish(request: HttpRequest, case_id: UUID, payload: FinishIn):
    """Close a case with what is to be looked at again."""
    given = payload.dict()
    read = given["odometer_km"]
    case = services.finish(
        request.user,
        case_id,
        outcome=given["outcome"],
        planned=given["rechecks"],
        unproven_because=given["unproven_because"],
        odometer=None if read is None else {"id": given["reading_id"], "on": timezone.localdate(), "km": read},
    )
    return {"case": case_out(request.user, case)}
