"""The yard, cases and their log, asked for."""

from dataclasses import asdict
from uuid import UUID

from django.http import HttpRequest
from hematite.following import columns
from ninja import Query, Router

from cases import services, shown
from cases.schemas import CaseBrief, CaseIn, CaseOut, StateOut, YardOut

router = Router(tags=["cases"])


@router.get("/yard", response=YardOut)
def get_yard(
    request: HttpRequest,
    page: int = Query(1, ge=1),
    closed_page: int = Query(1, ge=1),
    search: str = Query("", max_length=80),
):
    """Return the day's board, a page of vehicles and one of closed cases."""
    found = services.yard(request.user, page=page, closed_page=closed_page, search=search)
    found["columns"] = [asdict(column) for column in columns()]
    found["vehicles"] = [shown.vehicle_brief(vehicle) for vehicle in found["vehicles"]]
    for name in ("open_cases", "closed_cases"):
        found[name] = [shown.case_brief(case) for case in found[name]]
    return found


@router.post("/cases", response={201: CaseOut})
def open_case(request: HttpRequest, payload: CaseIn):
    """Open a case."""
    case = services.open_case(request.user, payload.vehicle, payload.complaint, case_id=payload.id)
    return 201, shown.case_out(request.user, case)


@router.get("/vehicles/{uuid:vehicle_id}/cases", response=list[CaseBrief])
def list_cases(request: HttpRequest, vehicle_id: UUID):
    """Return a vehicle's cases, the latest first: its history."""
    return [shown.case_brief(case) for case in services.history_of(request.user, vehicle_id)]


@router.get("/cases/{uuid:case_id}/state", response=StateOut)
def get_state(request: HttpRequest, case_id: UUID):
    """Return a word that changes with every change of a case, to be asked for often."""
    return {"state": services.state_of(request.user, case_id)}


@router.get("/cases/{uuid:case_id}", response=CaseOut)
def get_case(request: HttpRequest, case_id: UUID):
    """Return a case with its vehicle and log."""
    return shown.case_out(request.user, services.get_case(request.user, case_id))
