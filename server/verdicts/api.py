"""Assessments and verdicts, asked for."""

from typing import Literal
from uuid import UUID

from cases import services as cases
from cases.schemas import ObservationIn
from cases.shown import observation_out
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from people.permissions import DECIDE, May
from workshop.paper import UNITS

from verdicts import paper, services, shown
from verdicts.schemas import (
    AcceptIn,
    AssessmentOut,
    DecidingOut,
    DepartIn,
    DepartureOut,
    LoggedOut,
    VerdictOut,
    VerdictPageOut,
)

router = Router(tags=["verdicts"])


@router.post("/cases/{uuid:case_id}/observations", response={201: LoggedOut})
def observe(request: HttpRequest, case_id: UUID, payload: ObservationIn, judged: bool = False):
    """Log what was found; sending it twice logs it once. `judged`: the answer carries the case, judged anew."""
    data = payload.dict(exclude={"id"})
    case = cases.observe_safely(request.user, case_id, observation_id=payload.id, data=data).case
    shown_anew = services.shown_anew(request.user, case) if judged else None
    row = next(row for row in case.log if row.id == payload.id)
    return 201, observation_out(row, case.core) | {"shown": shown_anew}


@router.get("/cases/{uuid:case_id}/assessment", response=AssessmentOut)
def get_assessment(request: HttpRequest, case_id: UUID, now: bool = False):
    """Judge the case by what was found before any job; or, with `now`, the vehicle as it stands after its jobs."""
    return services.assessment(request.user, case_id, now=now)


@router.get("/cases/{uuid:case_id}/deciding", response=DecidingOut)
def get_deciding(request: HttpRequest, case_id: UUID, hub: str = Query(max_length=8)):
    """Return what there is to decide with at a hub: prices, the workshop's ways, and where this case departs."""
    return shown.deciding_out(services.decision(request.user, case_id, hub))


@router.post("/cases/{uuid:case_id}/departures", auth=May(DECIDE), response={201: DepartureOut})
def depart(request: HttpRequest, case_id: UUID, payload: DepartIn):
    """Let this case go another way than the workshop, with a reason."""
    return 201, shown.departure_out(services.depart(request.user, case_id, **payload.dict()))


@router.get("/cases/{uuid:case_id}/verdicts", response=list[VerdictOut])
def list_verdicts(request: HttpRequest, case_id: UUID):
    """Return what was decided, and how much came since each."""
    rows = services.verdicts_of(request.user, case_id)
    now = services.inputs(request.user, case_id)
    return [shown.verdict_out(row, services.news_since(row, now)) for row in rows]


@router.post("/cases/{uuid:case_id}/verdicts", auth=May(DECIDE), response={201: VerdictOut})
def accept(request: HttpRequest, case_id: UUID, payload: AcceptIn):
    """Freeze a verdict."""
    row = services.accept(request.user, case_id, **payload.dict())
    return 201, shown.verdict_out(row)


@router.get("/verdicts/{uuid:verdict_id}", response=VerdictPageOut)
def get_verdict(request: HttpRequest, verdict_id: UUID):
    """Return one frozen verdict as its page shows it."""
    return _page(request, verdict_id).out()


@router.get("/verdicts/{uuid:verdict_id}/paper", response={200: None})
def get_paper(request: HttpRequest, verdict_id: UUID, units: Literal["own", "metric", "imperial"] = "own"):
    """Return a frozen verdict as a PDF, in metric, in imperial, or in the units that the asker likes."""
    page = _page(request, verdict_id)
    liked = request.user.preferences.get("units", {}) if units == "own" else UNITS[units]
    answer = HttpResponse(paper.pdf(page.out(), liked), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="verdict-{page.row.hub}-{page.row.at:%Y-%m-%d}.pdf"'
    return answer


def _page(request: HttpRequest, verdict_id: UUID) -> shown.VerdictPage:
    row = services.get_verdict(request.user, verdict_id)
    return shown.VerdictPage(row, services.news_since(row, services.inputs(request.user, row.case_id)))
