"""Sums, asked for and kept."""

from dataclasses import asdict
from uuid import UUID

from django.http import HttpRequest
from garage.services import get_vehicle
from hematite.play import hub_movement_mm
from hematite.sums import label_of
from ninja import Query, Router
from people.permissions import READ, May
from workshop.shape import Schema

from sums import services
from sums.models import Worked
from sums.schemas import HubSumsOut, KeepIn, LeverIn, LeverOut, SumAnswerOut, SumIn, TurnIn, TurnOut, WorkedOut

router = Router(tags=["sums"])


class Where(Schema):
    """A hub of a case, and the step that the sum is opened from."""

    hub: str
    step: str = ""


def _worked(row: Worked) -> dict:
    fields = ("id", "hub", "step", "sum", "values", "line", "level", "at")
    named = {"case": row.case_id, "label": label_of(row.sum), "person": row.person.shown_name}
    return {name: getattr(row, name) for name in fields} | named


@router.post("/sums/lever", auth=May(READ), response=LeverOut)
def sum_lever(request: HttpRequest, payload: LeverIn):
    """Return the movement at the hub for one seen at the tyre."""
    return {"hub_movement_mm": hub_movement_mm(**payload.dict())}


@router.post("/sums/{key}", auth=May(READ), response=SumAnswerOut)
def ask(request: HttpRequest, key: str, payload: SumIn):
    """Return what a sum comes to."""
    found = asdict(services.answer(request.user, key, payload.values, case_id=payload.case, hub=payload.hub))
    return found | {"working": [{"label": label, "words": words} for label, words in found["working"]]}


@router.get("/cases/{uuid:case_id}/sums", response=HubSumsOut)
def at_hub(request: HttpRequest, case_id: UUID, where: Query[Where]):
    """Return every sum at a hub, filled with what is known."""
    found = services.at_hub(request.user, case_id, where.hub, where.step)
    rows = [row | {"last": _worked(row["last"]) if row["last"] else None} for row in found["sums"]]
    return found | {"sums": rows, "worked": [_worked(row) for row in found["worked"]]}


@router.post("/cases/{uuid:case_id}/worked", response=WorkedOut)
def keep(request: HttpRequest, case_id: UUID, payload: KeepIn):
    """Keep what was worked out, with its step, case and vehicle."""
    return _worked(services.keep(request.user, case_id, payload.dict()))


@router.get("/vehicles/{uuid:vehicle_id}/worked", response=list[WorkedOut])
def of_vehicle(request: HttpRequest, vehicle_id: UUID):
    """Return what was worked out for a vehicle, the latest first."""
    get_vehicle(request.user, vehicle_id)
    return [_worked(row) for row in services.of_vehicle(request.user, vehicle_id)]


@router.post("/cases/{uuid:case_id}/simulated/nut", response=TurnOut)
def turn(request: HttpRequest, case_id: UUID, payload: TurnIn):
    """Return what the simulated gauge finds when a nut is turned."""
    return services.turn(request.user, case_id, payload.dict())
