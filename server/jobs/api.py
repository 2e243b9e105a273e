"""Jobs, proofs and the two sums, asked for."""

from dataclasses import asdict
from uuid import UUID

from cases.shown import case_out
from django.http import HttpRequest
from django.utils import timezone
from hematite.families import FAINT
from hematite.jobs import Step
from hematite.play import hub_movement_mm
from hematite.proof import SoundProof
from hematite.setting import end_play_from_angle, shim_pack, shim_total_mm
from ninja import Router
from verdicts.shown import verdict_out

from jobs import services
from jobs.models import StepTick
from jobs.schemas import (
    FinishIn,
    FinishOut,
    JobOut,
    LeverIn,
    LeverOut,
    NutIn,
    NutOut,
    ProofOut,
    ShimsIn,
    ShimsOut,
    TickIn,
)

router = Router(tags=["jobs"])


def _step(step: Step, tick: StepTick | None) -> dict:
    return asdict(step) | {"done": bool(tick and tick.done), "note": tick.note if tick else ""}


def _job(request: HttpRequest, case_id: UUID, verdict: UUID | None) -> dict:
    work = services.job(request.user, case_id, verdict)
    if work is None:
        return {"verdict": None, "jobs": [], "steps": [], "usual_recheck": None, "recheck": None}
    return {
        "verdict": verdict_out(work["verdict"]),
        "jobs": [verdict_out(row) for row in work["jobs"]],
        "steps": [_step(step, tick) for step, tick in work["steps"]],
        "usual_recheck": services.usual_recheck(work["recheck"], timezone.localdate()),
        "recheck": work["kept"],
    }


@router.get("/cases/{uuid:case_id}/job", response=JobOut)
def get_job(request: HttpRequest, case_id: UUID, verdict: UUID | None = None):
    """Return the steps that follow from a verdict, else from the latest."""
    return _job(request, case_id, verdict)


@router.post("/cases/{uuid:case_id}/job/ticks", response=JobOut)
def tick(request: HttpRequest, case_id: UUID, payload: TickIn):
    """Tick a step, or take the tick back."""
    data = payload.dict(exclude={"id"})
    services.tick(request.user, case_id, tick_id=payload.id, **data)
    return _job(request, case_id, payload.verdict)


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


def _sound(sound: SoundProof | None) -> dict | None:
    if sound is None:
        return None
    lines = [asdict(line) | {"went": line.went, "stands": line.stands, "came": line.came} for line in sound.lines]
    return asdict(sound) | {"label": sound.label, "lines": lines}


@router.post("/cases/{uuid:case_id}/finish", response=FinishOut)
def finish(request: HttpRequest, case_id: UUID, payload: FinishIn):
    """Close a case with a recheck."""
    case = services.finish(request.user, case_id, **payload.dict())
    return {"case": case_out(request.user, case), "recheck": case.recheck}


@router.post("/sums/nut", response=NutOut)
def sum_nut(request: HttpRequest, payload: NutIn):
    """Return end play from a nut's angle, as a range."""
    return asdict(end_play_from_angle(**payload.dict(exclude_none=True)))


@router.post("/sums/shims", response=ShimsOut)
def sum_shims(request: HttpRequest, payload: ShimsIn):
    """Return the shim pack for a gap."""
    total = shim_total_mm(gap_mm=payload.gap_mm, end_play_mm=payload.end_play_mm, sides=payload.sides)
    packs = shim_pack(total_mm=total, **payload.dict(include={"stock_mm", "tolerance_mm"}, exclude_none=True))
    return {"total_mm": total, "packs": [asdict(pack) for pack in packs]}


@router.post("/sums/lever", response=LeverOut)
def sum_lever(request: HttpRequest, payload: LeverIn):
    """Return the movement at the hub for one seen at the tyre."""
    return {"hub_movement_mm": hub_movement_mm(**payload.dict())}
