"""Two years before today: odometers, visits and rechecks, so that trend and due list have something to show."""

import math
import random
import uuid
from datetime import date, datetime, time, timedelta

from cases.models import Case, Observation
from cases.services import close_case, observe, open_case
from django.utils import timezone
from garage.models import Vehicle
from people.models import User
from upkeep import services as upkeep
from upkeep.models import Recheck

from demo.world import HISTORY

NOON = time(12, 0)


def backdate(user: User, vehicles: dict[str, uuid.UUID]) -> None:
    """Enter each vehicle's past through the services that the screens call, and date it back afterwards."""
    for key, past in HISTORY.items():
        dice = random.Random(key)  # noqa: S311 - how evenly it is driven
        first = timezone.localdate() - timedelta(days=past["days"])
        _drive(user, vehicles[key], past, first, dice)
        for visit in past.get("visits", []):
            _visit(user, vehicles[key], visit, first, dice)
        for one in past.get("rechecks", []):
            _plan(user, vehicles[key], one)


def _when(day: date) -> datetime:
    return timezone.make_aware(datetime.combine(day, NOON))


def _drive(user: User, vehicle_id: uuid.UUID, past: dict, first: date, dice: random.Random) -> None:
    """Read the odometer every few weeks: more in summer, as libraries travel."""
    day, km = first, float(past["began_km"])
    while day <= timezone.localdate():
        upkeep.read(user, vehicle_id, {"id": uuid.uuid4(), "on": day, "km": round(km)})
        weeks = dice.randint(3, 8)
        season = 1 + 0.35 * math.cos((day.timetuple().tm_yday - 190) / 365 * 2 * math.pi)
        km += past["km_a_day"] * 7 * weeks * season * dice.uniform(0.7, 1.3)
        day += timedelta(weeks=weeks)


def _visit(user: User, vehicle_id: uuid.UUID, visit: dict, first: date, dice: random.Random) -> None:
    """Open a case of the past, enter what was measured, close it, and date all of it back."""
    day = first + timedelta(days=visit["day"])
    case = open_case(user, vehicle_id, visit["complaint"])
    for hub, mm in visit.get("play", {}).items():
        readings = [round(mm + dice.uniform(-0.01, 0.01), 2) for _ in range(3)]
        _entry(user, case, hub, "end_play", {"readings_mm": readings, "resolution_mm": 0.01})
    close_case(user, case.id, visit["outcome"])
    Case.objects.filter(id=case.id).update(opened_at=_when(day), closed_at=_when(day) + timedelta(hours=2))
    Observation.objects.filter(case=case).update(at=_when(day), found_at=_when(day))


def _entry(user: User, case: Case, hub: str, kind: str, value: dict) -> None:
    entry = {"hub": hub, "kind": kind, "value": value, "withdrawn": False, "waited_s": 0.0}
    observe(user, case.id, observation_id=uuid.uuid4(), data=entry)


def _plan(user: User, vehicle_id: uuid.UUID, one: dict) -> None:
    """Plan a recheck as it was planned some days ago."""
    vehicle = Vehicle.objects.get(id=vehicle_id)
    ago = timedelta(days=one["days_ago"])
    wanted = {name: one[name] for name in ("hub", "key", "label", "asks", "why")}
    number, due_on = uuid.uuid4(), timezone.localdate() - ago + timedelta(days=one["after_days"])
    far = {"after_km": one.get("after_km")}
    upkeep.plan(user, vehicle, [wanted | far | {"id": number, "due_on": max(due_on, timezone.localdate())}])
    Recheck.objects.filter(id=number).update(planned_at=timezone.now() - ago, due_on=due_on)
    upkeep.renew(vehicle)
