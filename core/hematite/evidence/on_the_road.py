"""From marked runs to statements: what bends, coasting, braking and the surface tell of each side."""

from collections.abc import Mapping, Sequence

from scipy import special, stats

from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import VEHICLE
from hematite.families import AS_LIKELY
from hematite.listening import Heard, RoadTest
from hematite.vehicles import Hub, Vehicle

SURE_DEVIATIONS = 4.0  # a road test's difference is taken as certain from here on; judgement
LOAD_DB = 1.5  # a smaller difference between bends is within what the road does; judgement
FALLS_DB = 5.0  # quieter by this when coasting: what sounded was the engine's; judgement
CLICK_DB = 3.0
LOUDER_DOUBT_DB = 2.0  # of how far clicks rise at one hub over another: each is another drive; judgement
BRAKE_DB = 3.0
SURFACE_DB = 3.0  # twice the power; judgement
CLICKS = ("clicks_left", "clicks_right")
LOADED_BY = {"left": 1, "right": -1}  # a right-hand bend, whose level less a left-hand one's is positive, loads left
OF_A_HUB = ("lines_in_bends", "hum_in_bends")  # what a noise's own lines do in bends, as each hub would have them

# Whose turns lines keep in bends: a bearing's, and a tyre's hum; a beat has too few and too low lines to tell.
KEPT_BY = {
    "lines_turn": ("outer_race", "inner_race", "rolling_element", "cage", "many"),
    "hum_turns": ("whole_orders",),
}

Shares = Mapping[str, float]


def bend_statements(all_heard: Sequence[Heard], vehicle: Vehicle) -> list[Statement]:
    """Return what lines and hum do in bends, of every hub that may make them, by the recording that shows it best."""
    said = []
    for hub in vehicle.hubs():
        for kind in OF_A_HUB if hub.side in LOADED_BY else ():
            own = [(heard, test) for heard in all_heard for test in heard.road if test.kind == kind]
            own = [(heard, test) for heard, test in own if hub.id in _may_be_of(heard, test, vehicle)]
            if own:
                heard, test = max(own, key=lambda pair: abs(pair[1].deviations))
                said.append(Statement(kind, hub.id, _certain(_in_bends(test, hub)), heard.situation.id))
    return said


def turn_statements(all_heard: Sequence[Heard], vehicle: Vehicle) -> list[Statement]:
    """Return with which side's wheels lines turn in bends, of every hub that may make them; from the cabin only.

    Of each hub the lines speak that stand highest, if they stand about as high as any.
    """
    said = []
    for witness, kinds in KEPT_BY.items():
        found = [(f, heard) for heard in all_heard for f in heard.families if f.kind in kinds and f.leftward]
        found.sort(key=lambda pair: pair[0].strength, reverse=True)
        near = [(f, heard) for f, heard in found if f.strength > found[0][0].strength - AS_LIKELY]
        for hub in vehicle.hubs():
            own = [(f, heard) for f, heard in near if not f.hubs or hub.id in f.hubs]
            if own and hub.side in LOADED_BY:
                here = float(special.expit(own[0][0].leftward * LOADED_BY[hub.side]))
                said.append(Statement(witness, hub.id, {"here": here, "away": 1 - here}, own[0][1].situation.id))
    return said


def click_statements(all_heard: Sequence[Heard], vehicle: Vehicle) -> list[Statement]:
    """Return at which driven hub clicks in bends are loudest, where they were heard at one hub of several recorded."""
    at_hubs = [(heard, t) for heard in all_heard for t in heard.road if t.kind in CLICKS and _place(heard, vehicle)]
    if not any(_clicks(test)["none"] < 1 for _, test in at_hubs):
        return []
    sharpest = {_place(heard, vehicle): (heard, t.db) for heard, t in sorted(at_hubs, key=lambda pair: pair[1].db)}
    said = []
    for place, (heard, rise_db) in sharpest.items():
        others = [other_db for other, (_, other_db) in sharpest.items() if other != place]
        if others and vehicle.drives(place):
            here = float(stats.norm.cdf((rise_db - max(others)) / LOUDER_DOUBT_DB))
            said.append(Statement("clicks_loudest", place, {"here": here, "away": 1 - here}, heard.situation.id))
    return said


def _place(heard: Heard, vehicle: Vehicle) -> str:
    """Return the hub that a recording was made at, '' where it was made at none."""
    return heard.situation.place if vehicle.hub(heard.situation.place) else ""


def _may_be_of(heard: Heard, test: RoadTest, vehicle: Vehicle) -> tuple[str, ...]:
    """Return the hubs that what was followed in bends may come from: those that the lines fit, or all."""
    at = vehicle.hub(heard.situation.place)
    if test.kind == "hum_in_bends":
        return () if at else tuple(hub.id for hub in vehicle.hubs())
    return (at.id,) if at else test.hubs


def _in_bends(test: RoadTest, hub: Hub) -> Shares:
    sure = _probably(test, LOAD_DB)
    here = (test.db > 0) == (LOADED_BY[hub.side] > 0)
    return {"here" if here else "away": sure, "even": 1 - sure}


def road_statements(all_heard: Sequence[Heard], vehicle: Vehicle) -> list[Statement]:
    """Return what road tests tell. Each test speaks once: through the recording that shows it most surely.

    Which side's load the whole noise follows tells only where all wheels are heard alike: a pickup at a hub hears its
    own tyre, and that always follows the load on its own side; nor where what swells is known by its own lines.
    """
    tests = [(heard, test) for heard in all_heard for test in heard.road]
    told = any(_probably(test, LOAD_DB) > 0 for _, test in tests if test.kind in OF_A_HUB)
    tests = [(h, test) for h, test in tests if test.kind != "load" or not (told or vehicle.hub(h.situation.place))]
    said = []
    for kinds, witness, say in SAYING:
        own = [(heard, test) for heard, test in tests if test.kind in kinds]
        if own:
            heard, test = max(own, key=lambda pair: abs(pair[1].deviations))
            said.append(Statement(witness, VEHICLE, _certain(say(test)), heard.situation.id))
    return said


def _certain(shares: Shares) -> Shares:
    return {name: share for name, share in shares.items() if share > 0}


def _probably(test: RoadTest, least_db: float) -> float:
    """Return how surely a difference is there: nothing below two deviations or `least_db`, all above four."""
    if abs(test.db) < least_db:
        return 0.0
    return float(min(max((abs(test.deviations) - 2.0) / (SURE_DEVIATIONS - 2.0), 0.0), 0.97))


def _load(test: RoadTest) -> Shares:
    """Louder in right-hand bends, where the left side carries the load, is a positive difference."""
    sure = _probably(test, LOAD_DB)
    return {"right" if test.db > 0 else "left": sure, "even": 1 - sure}


def _clicks(test: RoadTest) -> Shares:
    sure = _probably(test, CLICK_DB) if test.db > 0 else 0.0
    return {"left" if test.kind == "clicks_left" else "right": sure, "none": 1 - sure}


def _coast(test: RoadTest) -> Shares:
    sure = _probably(test, FALLS_DB) if test.db < 0 else 0.0
    return {"falls": sure, "stays": 1 - sure}


def _brake(test: RoadTest) -> Shares:
    sure = _probably(test, BRAKE_DB) if test.db > 0 else 0.0
    return {"changes": sure, "same": 1 - sure}


def _surface(test: RoadTest) -> Shares:
    sure = _probably(test, SURFACE_DB)
    return {"changes": sure, "same": 1 - sure}


SAYING = (
    (("load",), "load_test", _load),
    (("coast",), "coast_test", _coast),
    (("brake",), "brake_test", _brake),
    (CLICKS, "turn_clicks", _clicks),
    (("surface",), "surface_test", _surface),
)
