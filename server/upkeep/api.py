"""Rechecks, odometers and the calendar, asked for."""

from datetime import date
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from garage.services import get_vehicle
from hematite.language import say
from ninja import Query, Router
from people.permissions import RULE, May
from workshop.languages import speaking_to

from upkeep import road, services
from upkeep.calendar import calendar
from upkeep.schemas import (
    DropIn,
    DueListOut,
    EventIn,
    FeedOut,
    FeelIn,
    FeelOut,
    OdometerIn,
    OdometerOut,
    OnTheRoadOut,
    PlanIn,
    PlannedOut,
    RecheckAnswerIn,
    UpkeepOut,
)
from upkeep.shown import asks_out, rate_out, reading_out, recheck_out
from upkeep.sticker import sticker
from upkeep.usage import Usage

router = Router(tags=["upkeep"])


@router.get("/due", response=DueListOut)
def get_due(request: HttpRequest, page: int = Query(1, ge=1), until: date | None = None, all: bool = False):
    """Return a page of what is to be looked at again; what is due soon, or until a day, or `all`."""
    last = None if all else until or services.soon()
    found = services.due_list(request.user, page=page, until=last)
    rows = [recheck_out(row) for row in found]
    return {"rows": rows, "count": found.paginator.count, "pages": found.paginator.num_pages}


@router.get("/vehicles/{uuid:vehicle_id}/upkeep", response=UpkeepOut)
def get_upkeep(request: HttpRequest, vehicle_id: UUID):
    """Return a vehicle's readings, its rate and its rechecks."""
    _, known, rows = services.of_vehicle(request.user, vehicle_id)
    return _upkeep(known) | {"rechecks": [recheck_out(row) for row in rows], "asks": asks_out()}


def _upkeep(known: Usage) -> dict:
    return {
        "readings": [reading_out(row) for row in known.readings],
        "km_a_day": rate_out(known.rates.get("km")),
        "hours_a_day": rate_out(known.rates.get("hours")),
    }


@router.get("/vehicles/{uuid:vehicle_id}/road", response=OnTheRoadOut)
def get_road(
    request: HttpRequest, vehicle_id: UUID, km: float | None = Query(None, gt=0, le=100_000), worked_on: bool = False
):
    """Return what goes along, where to stop, and what each feeling at a stop means."""
    return road.road(request.user, vehicle_id, far_km=km, just_worked_on=worked_on)


@router.post("/vehicles/{uuid:vehicle_id}/feels", response=FeelOut)
def felt(request: HttpRequest, vehicle_id: UUID, payload: FeelIn):
    """Keep what a hand felt at a hub at a stop."""
    return road.feel(request.user, vehicle_id, payload.dict())


@router.post("/vehicles/{uuid:vehicle_id}/odometer", response=OdometerOut)
def read_odometer(request: HttpRequest, vehicle_id: UUID, payload: OdometerIn):
    """Keep what stood on the odometer."""
    return reading_out(services.read(request.user, vehicle_id, payload.dict()))


@router.post("/vehicles/{uuid:vehicle_id}/rechecks", response=PlannedOut)
def plan_recheck(request: HttpRequest, vehicle_id: UUID, payload: PlanIn):
    """Plan a look at a vehicle that no job asked for."""
    vehicle = get_vehicle(request.user, vehicle_id)
    services.plan(request.user, vehicle, [payload.dict()])
    return recheck_out(services.one(request.user, payload.id))


@router.post("/vehicles/{uuid:vehicle_id}/events", response=PlannedOut)
def happened(request: HttpRequest, vehicle_id: UUID, payload: EventIn):
    """Plan what is due at once after something that the vehicle went through."""
    return recheck_out(services.after_event(request.user, vehicle_id, payload.duty, recheck_id=payload.id))


@router.post("/rechecks/{uuid:recheck_id}/answer", response=PlannedOut)
def answer_recheck(request: HttpRequest, recheck_id: UUID, payload: RecheckAnswerIn):
    """Answer a recheck; what lies outside opens a case with it."""
    return recheck_out(services.answer(request.user, recheck_id, payload.dict()))


@router.post("/rechecks/{uuid:recheck_id}/drop", response=PlannedOut)
def drop_recheck(request: HttpRequest, recheck_id: UUID, payload: DropIn):
    """Let a recheck go, with the reason."""
    return recheck_out(services.drop(request.user, recheck_id, payload.because))


@router.get("/vehicles/{uuid:vehicle_id}/sticker.pdf", response={200: None})
def get_sticker(request: HttpRequest, vehicle_id: UUID):
    """Return the sticker with what is due next and a code that leads to the vehicle."""
    vehicle, _, rows = services.of_vehicle(request.user, vehicle_id)
    liked = request.user.preferences.get("units", {})
    left = [row for row in rows if row.done_at is None]
    address = request.build_absolute_uri(f"/vehicles/{vehicle.id}")
    answer = HttpResponse(sticker(vehicle, left, address=address, liked=liked), content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="sticker.pdf"'
    return answer


def _feed(request: HttpRequest, *, renew: bool) -> dict:
    row = services.feed_of(request.user, renew_it=renew)
    address = request.build_absolute_uri(f"/api/calendar/{row.secret}.ics")
    return {"address": address, "made_at": row.made_at, "person": row.person.shown_name}


@router.get("/calendar", response=FeedOut)
def get_feed(request: HttpRequest):
    """Return the address that a calendar is given."""
    return _feed(request, renew=False)


@router.post("/calendar/renew", auth=May(RULE), response=FeedOut)
def renew_feed(request: HttpRequest):
    """Return a new address; the old one ends."""
    return _feed(request, renew=True)


def _ics(request: HttpRequest, rows: list, name: str) -> HttpResponse:
    site = request.build_absolute_uri("/").rstrip("/")
    answer = HttpResponse(calendar(rows, name=name, site=site), content_type="text/calendar; charset=utf-8")
    answer["Cache-Control"] = "private, no-store"
    return answer


@router.get("/calendar.ics", response={200: None})
def get_calendar(request: HttpRequest):
    """Return the workshop's rechecks as a file."""
    rows = list(services.calendar_rows(request.user.workshop_id))
    answer = _ics(request, rows, say("Rechecks: {name}", name=request.user.workshop.name))
    answer["Content-Disposition"] = 'attachment; filename="rechecks.ics"'
    return answer


@router.get("/calendar/{secret}.ics", response={200: None}, auth=None)
def get_secret_calendar(request: HttpRequest, secret: str):
    """Return the workshop's rechecks to whoever knows the address: a calendar has no session."""
    workshop, rows = services.of_feed(secret)
    with speaking_to(workshop.language):
        return _ics(request, rows, say("Rechecks: {name}", name=workshop.name))
