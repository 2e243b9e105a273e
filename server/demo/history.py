"""Two years before today: odometers, visits and rechecks, so that trend and due list have something to show."""

import math
import random
import uuid
from datetime import date, datetime, time, timedelta

from cases.models import Case
from cases.services import close_case, open_case
from django.utils import timezone
from garage.models import Vehicle
from jobs.services import proof
from logbook.schemas import LineIn
from logbook.written import write
from people.models import User
from upkeep import services as upkeep
from upkeep.models import Recheck
from verdicts.services import accept

from demo.entering import measured, observe, tick
from demo.years import HISTORY

NOON = time(12, 0)
BECAUSE = "Driven away; nuts and warmth were looked at half an hour later."


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
    """Open a case of the past, enter what was found and done, close it, and date all of it back."""
    day = first + timedelta(days=visit["day"])
    case = open_case(user, vehicle_id, visit["complaint"])
    for hub, kind, value in visit.get("found", []):
        observe(user, case, hub, kind, value)
    for hub, mm in visit.get("play", {}).items():
        measured(user, case, hub, _three(mm, dice))
    closing = _mend(user, case, visit, dice)
    close_case(user, case.id, visit["outcome"], closing=closing, because=BECAUSE if closing else "")
    _date_back(case, _when(day))
    for hub, number in visit.get("fitted", {}).items():
        line = LineIn(id=uuid.uuid4(), on=day, hub=hub, kind="fitted", part="bearing unit", number=number)
        write(user, vehicle_id, line.dict())


def _three(mm: float, dice: random.Random) -> list[float]:
    return [round(mm + dice.uniform(-0.01, 0.01), 2) for _ in range(3)]


def _mend(user: User, case: Case, visit: dict, dice: random.Random) -> str:
    """Decide as advised at each hub that is to be mended, do it, measure what came of it, and say what is proven."""
    mended = visit.get("mend", {})
    jobs = {hub: accept(user, case.id, hub=hub, choice=choice, reason="") for hub, choice in mended.items()}
    if jobs:
        tick(user, case)
    for hub, mm in visit.get("after_play", {}).items():
        measured(user, case, hub, _three(mm, dice), job=jobs[hub].id)
    return " ".join(f"{hub}: {proof(user, case.id, one.id)['closing'].words}" for hub, one in jobs.items())


def _date_back(case: Case, noon: datetime) -> None:
    """Let a case have been opened at noon of a day, decided, done and proven, and closed three hours later."""
    minutes = lambda many: noon + timedelta(minutes=many)  # noqa: E731
    Case.objects.filter(id=case.id).update(opened_at=noon, closed_at=minutes(180))
    case.verdicts.update(at=minutes(30))
    case.steps.update(at=minutes(120))
    case.observations.filter(job=None).update(at=noon, found_at=noon)
    case.observations.exclude(job=None).update(at=minutes(150), found_at=minutes(150))


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
