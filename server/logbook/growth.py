"""How what was measured at each hub grew over its visits."""

from collections.abc import Sequence
from dataclasses import asdict
from datetime import UTC, datetime, timedelta

from cases.models import Observation
from garage.core import core_vehicle
from garage.models import Vehicle
from garage.services import get_vehicle
from hematite.decision import UNTOUCHED
from hematite.listening import compare, heard_from_json
from hematite.upkeep import Trend, Visit
from hematite.upkeep.measures import beside_its_mate, follow, limit_of, measures, of_observation, of_sound
from hematite.vehicles import Hub
from hematite.vehicles import Vehicle as CoreVehicle
from people.models import User
from policies.services import policy_of
from recordings.models import Recording
from verdicts.models import Verdict

from logbook.models import Entry
from logbook.rows import noon
from logbook.written import CHANGES, lines

PLAY = "play"  # of the core's measures: what a line of the book says of a play
A_DAY = timedelta(days=1).total_seconds()
# By hub and quantity: when, how much, and in which case; None where it was written by hand.
Series = dict[tuple[str, str], list[tuple[datetime, float, str | None]]]


def growth(user: User, vehicle_id) -> dict:
    """Return every series of a vehicle's hubs with its growth; a constant number of queries."""
    vehicle = get_vehicle(user, vehicle_id)
    core = core_vehicle(vehicle, policy_of(user.workshop_id))
    by_hand = [row for row, off in lines(vehicle) if row.hub and not off]
    series = _series(vehicle, by_hand)
    breaks = _breaks(vehicle, by_hand)
    trends = {(hub, key): _trend(key, rows, core, hub, breaks.get(hub, [])) for (hub, key), rows in series.items()}
    return {
        "vehicle_label": vehicle.label,
        "series": [_out(place, series, trends, core, breaks) for place in _in_order(series, core)],
    }


def _in_order(series: Series, core: CoreVehicle) -> list[tuple[str, str]]:
    hubs = [hub.id for hub in core.hubs()]
    return [(hub, key) for key in measures() for hub in hubs if (hub, key) in series]


def _day(at: datetime) -> float:
    return at.timestamp() / A_DAY


def _series(vehicle: Vehicle, by_hand: Sequence[Entry]) -> Series:
    found: Series = {}
    replaced = Observation.objects.filter(case__vehicle=vehicle, supersedes__isnull=False).values("supersedes")
    kinds = {one.kind for one in measures().values()}
    rows = Observation.objects.filter(case__vehicle=vehicle, kind__in=kinds, withdrawn=False).exclude(id__in=replaced)
    for row in rows.order_by("found_at"):
        for key, value in of_observation(row.kind, row.value).items():
            found.setdefault((row.hub, key), []).append((row.found_at, value, str(row.case_id)))
    for row, figures in _sounds(vehicle):
        for key, value in figures.items():
            found.setdefault((row.place, key), []).append((row.made_at, value, str(row.case_id)))
    for entry in by_hand:
        if entry.play_mm is not None:
            found.setdefault((entry.hub, PLAY), []).append((noon(entry.on), entry.play_mm, None))
    for points in found.values():
        points.sort(key=lambda point: point[0])
    return found


def _sounds(vehicle: Vehicle) -> list[tuple[Recording, dict[str, float]]]:
    """Return what each recording at a hub gives; loudness within the recordings of one case made alike."""
    rows = Recording.objects.filter(case__vehicle=vehicle, withdrawn=False, analysis__state="done")
    sets: dict[tuple, list[Recording]] = {}
    for row in rows.select_related("analysis").order_by("made_at"):
        sets.setdefault((row.case_id, row.after_repair), []).append(row)
    found = []
    for alike in sets.values():
        heard = [heard_from_json(row.analysis.heard) for row in alike]
        for row, one, corner in zip(alike, heard, compare(heard), strict=True):
            found.append((row, of_sound(one, corner.relative_db)))
    return found


def _breaks(vehicle: Vehicle, by_hand: Sequence[Entry]) -> dict[str, list[datetime]]:
    """Return when something was done at each hub: what was measured before says nothing of what stands there now."""
    found: dict[str, list[datetime]] = {}
    rows = Verdict.objects.filter(case__vehicle=vehicle).exclude(choice__in=(*UNTOUCHED, "top_up", "off_road"))
    for hub, at, closed in rows.values_list("hub", "at", "case__closed_at"):
        if closed:  # decided and not yet done changes nothing
            found.setdefault(hub, []).append(at)
    for entry in by_hand:
        if entry.kind in CHANGES:
            found.setdefault(entry.hub, []).append(noon(entry.on))
    return found


def _trend(key: str, rows: list, core: CoreVehicle, hub_id: str, breaks: list[datetime]) -> Trend | None:
    hub = core.hub(hub_id)
    if not isinstance(hub, Hub):
        return None
    visits = [Visit(_day(at), value) for at, value, _ in rows]
    return follow(key, visits, hub, core, [_day(at) for at in breaks])


def _out(place: tuple[str, str], series: Series, trends: dict, core: CoreVehicle, breaks: dict) -> dict:
    (hub, key), found = place, trends[place]
    measure = measures()[key]
    own, mate = core.hub(hub), core.mate(hub)
    beside = trends.get((mate.id, key)) if mate else None
    last = series[hub, key][-1][0]
    return {
        "hub": hub,
        "key": key,
        "label": measure.label,
        "unit": measure.unit,
        "source": measure.source,
        "limit": limit_of(key, own, core),
        "grows": measure.grows,
        "points": [{"at": at, "value": value, "case": case} for at, value, case in series[hub, key]],
        "breaks": breaks.get(hub, []),
        "trend": _trend_out(found, last, measure.grows) if found else None,
        "mate": mate.id if mate else "",
        "beside_mate": beside_its_mate(found, beside) if found and beside else "",
    }


def _trend_out(found: Trend, last: datetime, way: int) -> dict:
    """Return a trend in the quantity's own direction, its dates as dates."""
    plain = asdict(found) | {"since": datetime.fromtimestamp(found.since * A_DAY, UTC)}
    ends = [None if one is None else way * one for one in (found.low, found.high)]
    plain["slope"] = None if found.slope is None else way * found.slope
    plain["low"], plain["high"] = ends if way > 0 else reversed(ends)
    for name in ("soonest", "expected", "latest"):
        days = getattr(found, name)
        plain[f"{name}_on"] = None if days is None else (last + timedelta(days=days)).date()
        del plain[name]
    return plain
