"""What was done: repairs that came back too soon, and what each vehicle cost."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from typing import NamedTuple
from uuid import UUID

from django.db.models import Max
from django.utils import timezone
from garage.models import Hub, Vehicle
from hematite.beliefs.priors import duties
from hematite.decision import UNTOUCHED
from hematite.fleet import Group, Repair, comebacks
from hematite.policy.schools import schools
from logbook.models import Entry
from people.models import User
from upkeep.models import Reading, Recheck
from verdicts.models import Verdict

NO_REPAIR = (*UNTOUCHED, "top_up", "off_road")
LOOKED_BACK, A_YEAR = timedelta(days=3 * 365), timedelta(days=365)
NEAR_DAYS = 14  # between a closing and the line that says what was fitted: judgement


class Done(NamedTuple):
    """A repair that was closed, as it is read from the rows of verdicts."""

    vehicle: UUID
    hub: str
    at: datetime
    closed: datetime
    first_name: str
    last_name: str
    username: str
    brief: Mapping


COLUMNS = (
    "case__vehicle_id", "hub", "at", "case__closed_at",
    "person__first_name", "person__last_name", "person__username", "brief",
)  # fmt: skip


def came_back(user: User) -> list[Group]:
    """Return repairs of the last three years counted by part, person, road and way; a constant number of queries."""
    rows = _repairs(user)
    events, seen, parts, roads = _events(user, rows), _last_seen(user), _parts(user), _roads(user)
    made = []
    for row in rows:
        later = [at for at in events[row.vehicle, row.hub] if at > row.closed]
        by = {
            "Part": _part_of(parts.get((row.vehicle, row.hub), []), row.closed.date()),
            "Person": f"{row.first_name} {row.last_name}".strip() or row.username,
            "Road": roads.get(row.vehicle, ""),
            **_ways(row.brief.get("ways") or {}),
        }
        watched = (seen.get(row.vehicle, row.closed.date()) - row.closed.date()).days
        made.append(Repair(by, max(0.0, watched), (min(later) - row.closed).days if later else None))
    return comebacks(made)


def _repairs(user: User) -> list[Done]:
    """Return the repairs whose case was closed."""
    rows = Verdict.objects.seen_by(user).exclude(choice__in=NO_REPAIR)
    rows = rows.filter(case__closed_at__gte=timezone.now() - LOOKED_BACK)
    return [Done(*row) for row in rows.order_by("at").values_list(*COLUMNS)]


def _events(user: User, rows: Sequence[Done]) -> dict[tuple[UUID, str], list[datetime]]:
    """Return when something was amiss at each hub: decided on in a later case, or outside when looked at again."""
    found: dict[tuple[UUID, str], list[datetime]] = defaultdict(list)
    for row in rows:
        found[row.vehicle, row.hub].append(row.at)
    outside = Recheck.objects.seen_by(user).filter(outside=True, done_at__gte=timezone.now() - LOOKED_BACK)
    for vehicle, hub, at in outside.exclude(hub="").values_list("vehicle_id", "hub", "done_at"):
        found[vehicle, hub].append(at)
    return found


def _last_seen(user: User) -> dict[UUID, date]:
    """Return when each vehicle was seen last: of one that never came again nobody knows whether it held."""
    found: dict[UUID, date] = {}
    read = Reading.objects.seen_by(user).values_list("vehicle_id").annotate(Max("on")).order_by()
    cases = Vehicle.objects.seen_by(user).values_list("id").annotate(Max("cases__opened_at")).order_by()
    looked = Recheck.objects.seen_by(user).values_list("vehicle_id").annotate(Max("done_at")).order_by()
    for vehicle, last in (*read, *cases, *looked):
        if last is not None:
            day = timezone.localtime(last).date() if isinstance(last, datetime) else last
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
        vehicle: ", ".join(words[key] for key in duty if key in words) or "nothing special" for vehicle, duty in rows
    }


def _ways(ways: Mapping[str, str]) -> dict[str, str]:
    """Return how it was done, by difference of practice."""
    known = {key: school for key, school in schools().items() if key in ways}
    found = {school.label: school.option(ways[key]) for key, school in known.items()}
    return {label: option.label for label, option in found.items() if option}


def costs(user: User) -> list[dict]:
    """Return what each vehicle cost in the last year by what its verdicts said, the dearest first."""
    rows = Verdict.objects.seen_by(user).filter(case__closed_at__gte=timezone.now() - A_YEAR)
    found: dict[UUID, dict] = {}
    for vehicle, label, case, brief in rows.order_by("at").values_list(
        "case__vehicle_id", "case__vehicle__label", "case_id", "brief"
    ):
        row = found.setdefault(vehicle, {"vehicle": vehicle, "label": label, "cost": {}, "cases": set(), "unknown": 0})
        row["cases"].add(case)
        if "now" in brief:
            row["cost"][brief["currency"]] = row["cost"].get(brief["currency"], 0.0) + brief["now"]
        else:
            row["unknown"] += 1
    made = [row | {"cases": len(row["cases"])} for row in found.values()]
    return sorted(made, key=lambda row: (-max(row["cost"].values(), default=0.0), row["label"]))
