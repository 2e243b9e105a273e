"""From marked runs to statements: what bends, coasting, braking and the surface tell of each side."""

from collections.abc import Mapping, Sequence

from hematite.evidence.statement import Statement
from hematite.evidence.tables import ALL_DRIVEN_SHARE
from hematite.listening import Heard, RoadTest
from hematite.vehicles import Vehicle

SURE_DEVIATIONS = 4.0  # a road test's difference is taken as certain from here on; judgement
LOAD_DB = 1.5  # a smaller difference between bends is within what the road does; judgement
FALLS_DB = 5.0  # quieter by this when coasting: what sounded was the engine's; judgement
CLICK_DB = 3.0
BRAKE_DB = 3.0
SURFACE_DB = 3.0  # twice the power; judgement
CLICKS = ("clicks_left", "clicks_right")
SIDES = ("left", "right", "centre")

Shares = Mapping[str, float]


def clicking(heard: Heard) -> bool:
    """Return whether a run clicks in one bend only, as a drive joint does."""
    return any(
        test.kind in CLICKS and test.db >= CLICK_DB and test.deviations >= SURE_DEVIATIONS for test in heard.road
    )


def road_statements(all_heard: Sequence[Heard], vehicle: Vehicle) -> list[Statement]:
    """Return what road tests tell. Each test speaks once: through the recording that shows it most surely."""
    tests = [(heard, test) for heard in all_heard for test in heard.road]
    said = []
    for kinds, say in SAYING:
        own = [(heard, test) for heard, test in tests if test.kind in kinds]
        if own:
            heard, test = max(own, key=lambda pair: abs(pair[1].deviations))
            said.append(say(test, heard.situation.id, vehicle))
    return said


def _sided(witness: str, source: str, vehicle: Vehicle, by_side: Mapping[str, Shares]) -> Statement:
    return Statement(witness, {hub.id: by_side[hub.side] for hub in vehicle.hubs()}, source)


def _probably(test: RoadTest, least_db: float) -> float:
    """Return how surely a difference is there: nothing below two deviations or `least_db`, all above four."""
    if abs(test.db) < least_db:
        return 0.0
    return float(min(max((abs(test.deviations) - 2.0) / (SURE_DEVIATIONS - 2.0), 0.0), 0.97))


def _load(test: RoadTest, source: str, vehicle: Vehicle) -> Statement:
    """Four driven wheels carry the noise along the driveline: there the test counts half."""
    sure = _probably(test, LOAD_DB) * (ALL_DRIVEN_SHARE if vehicle.all_driven else 1.0)
    even: Shares = {"even": 1.0}
    here, away = {"here": sure, "even": 1 - sure}, {"away": sure, "even": 1 - sure}
    left, right = (here, away) if test.db > 0 else (away, here)
    return _sided("load_test", source, vehicle, {"left": left, "right": right, "centre": even})


def _clicks(test: RoadTest, source: str, vehicle: Vehicle) -> Statement:
    """The outer joint of a side clicks when that side is inside the bend."""
    sure = _probably(test, CLICK_DB) if test.db > 0 else 0.0
    here, away = {"here": sure, "none": 1 - sure}, {"away": sure, "none": 1 - sure}
    left, right = (here, away) if test.kind == "clicks_left" else (away, here)
    return _sided("turn_clicks", source, vehicle, {"left": left, "right": right, "centre": {"none": 1.0}})


def _coast(test: RoadTest, source: str, vehicle: Vehicle) -> Statement:
    sure = _probably(test, FALLS_DB) if test.db < 0 else 0.0
    shares = {"falls": sure, "stays": 1 - sure}
    return _sided("coast_test", source, vehicle, dict.fromkeys(SIDES, shares))


def _brake(test: RoadTest, source: str, vehicle: Vehicle) -> Statement:
    sure = _probably(test, BRAKE_DB) if test.db > 0 else 0.0
    shares = {"changes": sure, "same": 1 - sure}
    return _sided("brake_test", source, vehicle, dict.fromkeys(SIDES, shares))


def _surface(test: RoadTest, source: str, vehicle: Vehicle) -> Statement:
    sure = _probably(test, SURFACE_DB)
    shares = {"changes": sure, "same": 1 - sure}
    return _sided("surface_test", source, vehicle, dict.fromkeys(SIDES, shares))


SAYING = (
    (("load",), _load),
    (("coast",), _coast),
    (("brake",), _brake),
    (CLICKS, _clicks),
    (("surface",), _surface),
)
