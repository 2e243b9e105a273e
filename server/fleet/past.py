"""What was done: repairs that came back too soon, and what each vehicle cost."""

import hashlib
import json
from collections import defaultdict
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from functools import lru_cache
from typing import NamedTuple
from uuid import UUID

import hematite
from cases.models import Case
from django.core.cache import cache
from django.db.models import Count, Max, Sum
from django.db.models.fields.json import KT
from django.utils import timezone
from garage.models import Hub, Vehicle
from hematite.beliefs.priors import duties
from hematite.fleet import NO_REPAIR, NO_SIGN, Group, Repair, comebacks
from hematite.jobs import followed_by
from hematite.language import say, spoken
from hematite.policy.schools import schools
from logbook.models import Entry
from people.models import User
from upkeep.models import Reading, Recheck
from verdicts.models import Verdict

LOOKED_BACK, A_YEAR = timedelta(days=3 * 365), timedelta(days=365)
A_DAY_S = 24 * 60 * 60
NEAR_DAYS = 14  # between a closing and the line that says what was fitted: judgement


class Decided(NamedTuple):
    """What was decided last at one hub of a case, as it is read from the rows of verdicts."""

    case: UUID
    vehicle: UUID
    hub: str
    at: datetime
    closed: datetime | None
    person: int
    choice: str
    repair: str
    ways: str | None
    design: str | None

    @property
    def work(self) -> str:
        """Return what is done at the hub: of what was taken off the road, its repair."""
        return self.repair or self.choice


COLUMNS = (
    "case_id",
    "case__vehicle_id",
    "hub",
    "at",
    "case__closed_at",
    "person_id",
    "choice",
    "repair",
    "ways",
    "design",
)


def past(user: User) -> dict:
    """Return what came back and what each vehicle cost; counted anew only where something was added, or on a new day.

    To count three years takes a second where there are thousands of cases, to see that nothing was added does not.
    """
    name = f"past:{user.workshop_id}:{spoken()}:{_state(user)}"  # there are words in it
    found = cache.get(name)
    if found is None:
        found = {"comebacks": came_back(user), "costs": costs(user)}
        cache.set(name, found, timeout=A_DAY_S)
    return found


def _state(user: User) -> str:
    """Return a word that is another one after every change of what is counted: rows are only ever added."""
    counted = [
        rows.objects.seen_by(user).aggregate(Count("pk"), **more)
        for rows, more in (
            (Case, {"closed": Count("closed_at"), "last": Max("closed_at")}),
            (Verdict, {}),
            (Recheck, {"done": Count("done_at"), "last": Max("done_at")}),
            (Reading, {}),
            (Entry, {}),
            (Vehicle, {"changes": Sum("revision")}),
        )
    ]
    people = list(User.objects.filter(workshop=user.workshop_id).values_list("id", "first_name", "last_name"))
    facts = (hematite.__version__, timezone.localdate(), counted, people)
    return hashlib.sha256(repr(facts).encode()).hexdigest()


def came_back(user: User) -> list[Group]:
    """Return repairs of the last three years counted by part, person, road and way; a constant number of queries."""
    rows, now, zone = _decided(user), timezone.now(), timezone.get_current_timezone()
    events, seen, parts, roads = _events(user, rows), _last_seen(user), _parts(user), _roads(user)
    people = {one.id: one.shown_name for one in User.objects.filter(workshop=user.workshop_id)}
    made = []
    for row in rows:
        if row.closed is None or row.work in NO_REPAIR:
            continue
        closed = row.closed.astimezone(zone).date()
        by = {
            "All": say("All repairs"),
            "Part": _part_of(parts.get((row.vehicle, row.hub), []), closed),
            "Person": people[row.person],
            "Road": roads[row.vehicle],
            **_ways(row.ways, row.design, row.work, spoken()),
        }
        back = next((at for at in events.get((row.vehicle, row.hub), ()) if at > row.closed), None)
        seen_days = max(0, (seen.get(row.vehicle, closed) - closed).days)
        made.append(Repair(by, (now - row.closed).days, seen_days, (back - row.closed).days if back else None))
    return comebacks(made)


def _decided(user: User) -> list[Decided]:
    """Return what was decided last at each hub of the cases of three years, in the order in which it was."""
    rows = Verdict.objects.seen_by(user).filter(at__gte=timezone.now() - LOOKED_BACK)
    read = rows.annotate(ways=KT("brief__ways"), design=KT("brief__design")).order_by("at").values_list(*COLUMNS)
    return list({(row[0], row[2]): Decided(*row) for row in read}.values())


def _events(user: User, rows: Sequence[Decided]) -> dict[tuple[UUID, str], list[datetime]]:
    """Return when something was amiss at each hub: set right, renewed or stopped, or outside when looked at again."""
    found: dict[tuple[UUID, str], list[datetime]] = defaultdict(list)
    for row in rows:
        if row.work not in NO_SIGN:
            found[row.vehicle, row.hub].append(row.at)
    outside = Recheck.objects.seen_by(user).filter(outside=True, done_at__gte=timezone.now() - LOOKED_BACK)
    for vehicle, hub, at in outside.exclude(hub="").values_list("vehicle_id", "hub", "done_at"):
        found[vehicle, hub].append(at)
    return {place: sorted(moments) for place, moments in found.items()}


def _last_seen(user: User) -> dict[UUID, date]:
    """Return when each vehicle was seen last: of one that never came again nobody knows whether it held."""
    found: dict[UUID, date] = {}
    read = Reading.objects.seen_by(user).values_list("vehicle_id").annotate(Max("on")).order_by()
    cases = Vehicle.objects.seen_by(user).values_list("id").annotate(Max("cases__opened_at")).order_by()
    looked = Recheck.objects.seen_by(user).exclude(done_at=None).values_list("vehicle_id").annotate(Max("done_at"))
    for vehicle, last in (*read, *cases, *looked.order_by()):
        if last is not None:
            day = timezone.localdate(last) if isinstance(last, datetime) else last
            found[vehicle] = max(day, found.get(vehicle, day))
    return found


def _parts(user: User) -> dict[tuple[UUID, str], list[tuple[date | None, str]]]:
    """Return what was fitted at each hub with its day; without a day what the hub's bearings are called."""
    found: dict[tuple[UUID, str], list[tuple[date | None, str]]] = defaultdict(list)
    lines = Entry.objects.seen_by(user).filter(kind="fitted", withdrawn=False, superseded_by=None).exclude(hub="")
    for vehicle, hub, on, part, number in lines.values_list("vehicle_id", "hub", "on", "part", "number"):
        found[vehicle, hub].append((on, number or part))
    hubs = Hub.objects.filter(axle__vehicle__workshop=user.workshop_id)
    for vehicle, hub, bearings in hubs.values_list("axle__vehicle_id", "name", "bearings"):
        names = " + ".join(row["designation"] for row in bearings if row.get("designation"))
        if names:
            found[vehicle, hub].append((None, names))
    return found


def _part_of(known: Sequence[tuple[date | None, str]], closed: date) -> str:
    """Return what was fitted about a day, else what the bearings are called, '' where nobody said either."""
    near = [name for on, name in known if on is not None and abs((on - closed).days) <= NEAR_DAYS]
    return next(iter(near), next((name for on, name in known if on is None), ""))


def _roads(user: User) -> dict[UUID, str]:
    """Return what each vehicle goes through, in words."""
    words = duties()
    rows = Vehicle.objects.seen_by(user).values_list("id", "duty")
    return {
        vehicle: ", ".join(words[key] for key in duty if key in words) or say("nothing special")
        for vehicle, duty in rows
    }


@lru_cache(maxsize=1000)
def _ways(said: str | None, design: str | None, work: str, _language: str) -> dict[str, str]:
    """Return how it was done, by the differences of practice that such a job follows; of a brief's `ways`.

    What is kept is of one language.
    """
    ways = json.loads(said or "{}")
    follows = followed_by(design, work) if design else ()
    known = {key: school for key, school in schools().items() if key in ways and key in follows}
    found = {school.label: school.option(ways[key]) for key, school in known.items()}
    return {label: option.label for label, option in found.items() if option}


def costs(user: User) -> list[dict]:
    """Return what each vehicle cost in the last year by what its verdicts said, the dearest first."""
    rows = Verdict.objects.seen_by(user).filter(case__closed_at__gte=timezone.now() - A_YEAR).order_by("at")
    rows = rows.annotate(now=KT("brief__now"), currency=KT("brief__currency"))
    names = dict(Vehicle.objects.seen_by(user).values_list("id", "label"))
    found: dict[UUID, dict] = {}
    for vehicle, case, now, currency in rows.values_list("case__vehicle_id", "case_id", "now", "currency"):
        row = found.setdefault(vehicle, {"vehicle": vehicle, "label": names[vehicle], "cost": {}, "cases": set()})
        row["cases"].add(case)
        if now is None:
            row["unknown"] = row.get("unknown", 0) + 1
        else:
            row["cost"][currency] = row["cost"].get(currency, 0.0) + float(now)
    made = [{"unknown": 0} | row | {"cases": len(row["cases"])} for row in found.values()]
    return sorted(made, key=lambda row: (-max(row["cost"].values(), default=0.0), row["label"]))
