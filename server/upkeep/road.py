"""On the road: the kit of a vehicle, its stops, and what a hand felt at each hub."""

from dataclasses import asdict
from datetime import timedelta
from uuid import UUID

from django.db import transaction
from django.utils import timezone
from garage.core import core_vehicle
from garage.services import get_vehicle
from hematite.doors import one_of
from hematite.language import say
from hematite.upkeep import feelings, judge_stop, kit, stops
from hematite.vehicles import Vehicle as CoreVehicle
from people.models import User
from policies.services import policy_of
from workshop.refusals import Refusal

from upkeep.models import Feel

MOST_FELT = 300  # of the last trips


def road(user: User, vehicle_id: UUID, *, far_km: float | None, just_worked_on: bool) -> dict:
    """Return what goes along, where to stop, what each feeling means, what was felt: all that a phone needs away."""
    vehicle = get_vehicle(user, vehicle_id)
    policy = policy_of(user.workshop_id)
    core = core_vehicle(vehicle, policy)
    felt = vehicle.feels.select_related("person").order_by("-felt_at", "-id")[:MOST_FELT]
    return {
        "vehicle_label": vehicle.label,
        "kit": asdict(kit(core, policy)),
        "stops_km": list(stops(far_km, just_worked_on=just_worked_on)) if far_km else [],
        "feelings": [{"key": key, "words": words} for key, words in feelings().items()],
        "hubs": _hubs(core),
        "felt": [_out(row) for row in felt],
    }


def _hubs(core: CoreVehicle) -> list[dict]:
    """Return every hub with its mate, and what each feeling of both means: looked up, never worked out, on a phone."""
    found, spoken = [], core.spoken()
    for hub in core.hubs():
        mate = core.mate(hub.id)
        means = []
        for here in feelings():
            for beside in ("", *feelings()) if mate else ("",):
                said = {hub.id: here} | ({mate.id: beside} if mate and beside else {})
                one = next(row for row in judge_stop(core, said) if row.hub == hub.id)
                means.append({"here": here, "mate": beside, "level": one.level, "do": one.do, "why": one.why})
        found.append({"id": hub.id, "words": spoken[hub.id], "mate": mate.id if mate else "", "means": means})
    return found


def _out(row: Feel) -> dict:
    fields = ("id", "trip", "stop", "place", "hub", "felt", "felt_at")
    return {name: getattr(row, name) for name in fields} | {"person": row.person.shown_name}


@transaction.atomic
def feel(user: User, vehicle_id: UUID, data: dict) -> dict:
    """Keep what a hand felt at a hub; the same number sent again is the same feeling."""
    vehicle = get_vehicle(user, vehicle_id)
    known = Feel.objects.filter(id=data["id"]).select_related("person").first()
    if known is not None and known.vehicle_id != vehicle.id:
        raise Refusal("id_taken", say("This entry's number is taken by another. Enter it again."))
    if known is not None:
        return _out(known)
    one_of(
        data["hub"], [hub.name for axle in vehicle.axles.all() for hub in axle.hubs.all()], say("hub of this vehicle")
    )
    one_of(data["felt"], feelings(), "warmth")
    at = timezone.now() - timedelta(seconds=data["waited_s"])
    kept = {name: data[name] for name in ("id", "trip", "stop", "place", "hub", "felt")}
    return _out(Feel.objects.create(vehicle=vehicle, person=user, felt_at=at, **kept))
