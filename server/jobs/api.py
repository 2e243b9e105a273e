"""Jobs, proofs and the two sums, asked for."""

from dataclasses import asdict
from uuid import UUID

from cases.shown import case_out
from django.http import HttpRequest
from django.utils import timezone
from hematite.families import FAINT
from hematite.jobs import Step
from hematite.play import hub_movement_mm
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


def _job(request: HttpRequest, case_id: UUID) -> dict:
    work = services.job(request.user, case_id)
    if work is None:
        return {"verdict": None, "steps": [], "usual_recheck": None, "recheck": None}
    return {
        "verdict": verdict_out(work["verdict"]),
        "steps": [_step(step, tick) for step, tick in work["steps"]],
        "usual_recheck": services.usual_recheck(work["verdict"].choice, timezone.localdate()),
        "recheck": work["kept"],
    }


@router.get("/cases/{uuid:case_id}/job", response=JobOut)
def get_job(request: HttpRequest, case_id: UUID):
    """Return the steps that follow from the latest verdict."""
    return _job(request, case_id)


@router.post("/cases/{uuid:case_id}/job/ticks", response=JobOut)
def tick(request: HttpRequest, case_id: UUID, payload: TickIn):
    """Tick a step, or take the tick back."""
    services.tick(request.user, case_id, tick_id=payload.id, step=payload.step, done=payload.done, note=payload.note)
    return _job(request, case_id)


@router.get("/cases/{uuid:case_id}/proof", response=ProofOut)
def get_proof(request: HttpRequest, case_id: UUID):
    """Hold after against before."""
    found = services.proof(request.user, case_id)
    if found is None:
        words = "Record the repaired hub again, in the same way as before."
        empty = {"outcome": "", "level_change_db": None, "lines": [], "before": None, "after": None}
        return {"ready": False, "stands_from": FAINT, "words": words, **empty}
    proof = found["proof"]
    lines = [asdict(line) | {"went": line.went, "stayed": line.stayed} for line in proof.lines]
    return {
        "ready": True,
        "stands_from": FAINT,
        **asdict(proof),
        "lines": lines,
        "before": found["before"],
        "after": found["after"],
    }


@router.post("/cases/{uuid:case_id}/finish", response=FinishOut)
def finish(request: HttpRequest, case_id: UUID, payload: FinishIn):
    """Close a case with a recheck."""
    case = services.finish(request.user, case_id, **payload.dict())
    return {"case": case_out(case), "recheck": case.recheck}


@router.post("/sums/nut", response=NutOut)
def sum_nut(request: HttpRequest, payload: NutIn):
    """Return end play from a nut's angle, as a range."""
    return asdict(end_play_from_angle(**payload.dict()))


@router.post("/sums/shims", response=ShimsOut)
def sum_shims(request: HttpRequest, payload: ShimsIn):
    """Return the shim pack for a gap."""
    total = shim_total_mm(gap_mm=payload.gap_mm, end_play_mm=payload.end_play_mm, sides=payload.sides)
    packs = shim_pack(total_mm=total, stock_mm=payload.stock_mm, tolerance_mm=payload.tolerance_mm)
    return {"total_mm": total, "packs": [asdict(pack) for pack in packs]}


@router.post("/sums/lever", response=LeverOut)
def sum_lever(request: HttpRequest, payload: LeverIn):
    """Return the movement at the hub for one seen at the tyre."""
    return {"hub_movement_mm": hub_movement_mm(**payload.dict())}
