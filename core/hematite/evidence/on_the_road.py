"""From marked runs to statements: what bends, coasting, braking and the surface tell of each side."""

from collections.abc import Mapping, Sequence

import numpy as np
from scipy import special, stats

from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import VEHICLE, outcomes, overall
from hematite.families import AS_LIKELY, BEARING_KINDS, TYRE_KINDS
from hematite.listening import Heard, RoadTest
from hematite.vehicles import Vehicle

SURE_DEVIATIONS = 4.0  # from here on a difference is told in words, and clicks are certain; judgement
CLICK_DB = 3.0
LOUDER_DOUBT_DB = 2.0  # of how far clicks rise at one hub over another: each is another drive; judgement
# What a road test measures where an answer is true, first where nothing changes: the usual difference and its spread in
# dB, to which its own doubt is added; judgement. Of several bands the one that differs most is told, so even where
# nothing changes it seldom reads nought; on the brake an engine and the road grow quieter.
DIFFERENCES = {
    "load_test": {"even": (0.0, 1.5), "right": (4.0, 2.5), "left": (-4.0, 2.5)},
    "lines_in_bends": {"even": (0.0, 1.0), "here": (3.0, 2.5), "away": (-3.0, 2.5)},
    "hum_in_bends": {"even": (0.0, 1.5), "here": (6.0, 3.0), "away": (-6.0, 3.0)},
    "coast_test": {"stays": (0.0, 3.0), "falls": (-9.0, 4.0)},
    "brake_test": {"same": (-2.0, 4.0), "changes": (6.0, 4.0)},
    "surface_test": {"same": (0.0, 1.5), "changes": (6.0, 4.0)},  # either way
}
# How far what was followed differs between bends where it is no bearing's and no worn tyre's. On another author's
# simulator (18 seeds) half of the lines at vehicles without a bearing fault did by 1.4 dB, half of the hums by 7.
OF_SOMETHING_ELSE_DB = {"lines_in_bends": 2.0, "hum_in_bends": 6.0}
UNFORESEEN = 0.003  # how likely any one decibel is for a reason that nobody thought of; judgement
CLICKS = ("clicks_left", "clicks_right")
EVEN_CHANCE = 0.5
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
                shares = _measured(kind, test.db * LOADED_BY[hub.side], test.doubt_db, sure=_stands(heard, test))
                said.append(Statement(kind, hub.id, shares, heard.situation.id))
    return said


def _stands(heard: Heard, test: RoadTest) -> float:
    """Return how likely what was followed in bends is a bearing's lines or a tyre's hum at all, and no luck."""
    kinds = BEARING_KINDS if test.kind == "lines_in_bends" else TYRE_KINDS
    followed = [f.odds for f in heard.families if f.kind in kinds and f.hubs == test.hubs]
    return float(special.expit(max(followed, default=0.0)))


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


def _measured(witness: str, db: float, doubt_db: float, *, sure: float = 1.0) -> Shares:
    """Return how likely each answer makes a difference, as shares that count how often each is given at all.

    What differs by more than is usual differs. `sure`: how likely what was followed is what is asked about at all.
    """
    means, spreads = np.array([DIFFERENCES[witness][name] for name in outcomes(witness)]).T
    nothing, _ = next(iter(DIFFERENCES[witness].values()))
    db = abs(db) if witness == "surface_test" else db
    beyond = (db - means) * (means - nothing) > 0
    likely = stats.norm.pdf(np.where(beyond, means, db), means, np.hypot(spreads, doubt_db))
    if sure < 1:
        likely = sure * likely + (1 - sure) * stats.norm.pdf(db, 0.0, np.hypot(OF_SOMETHING_ELSE_DB[witness], doubt_db))
    shares = (likely + UNFORESEEN) * overall(witness)
    return {name: float(share) for name, share in zip(outcomes(witness), shares / shares.sum(), strict=True)}


def road_statements(all_heard: Sequence[Heard], vehicle: Vehicle) -> list[Statement]:
    """Return what road tests tell. Each test speaks once: through the recording that shows it most surely.

    Which side's load the whole noise follows tells only where all wheels are heard alike: a pickup at a hub hears its
    own tyre, and that always follows the load on its own side; nor where what swells is known by its own lines.
    """
    tests = [(heard, test) for heard in all_heard for test in heard.road]
    told = any(_swells(test) for _, test in tests if test.kind in OF_A_HUB)
    tests = [(h, test) for h, test in tests if test.kind != "load" or not (told or vehicle.hub(h.situation.place))]
    said = []
    for kinds, witness in SAYING.items():
        own = [(heard, test) for heard, test in tests if test.kind in kinds]
        if own:
            heard, test = max(own, key=lambda pair: abs(pair[1].deviations))
            shares = _clicks(test) if kinds == CLICKS else _measured(witness, test.db, test.doubt_db)
            said.append(Statement(witness, VEHICLE, shares, heard.situation.id))
    return said


def _swells(test: RoadTest) -> bool:
    """Return whether it is likelier than not that bends bring out a noise's own lines."""
    return _measured(test.kind, test.db, test.doubt_db)["even"] < EVEN_CHANCE


def _clicks(test: RoadTest) -> Shares:
    """Return which bend brings out clicks: none below two deviations or `CLICK_DB`, and sure above four."""
    sure = 0.0
    if test.db >= CLICK_DB:
        sure = float(min(max((test.deviations - 2.0) / (SURE_DEVIATIONS - 2.0), 0.0), 0.97))
    side = "left" if test.kind == "clicks_left" else "right"
    return {name: share for name, share in {side: sure, "none": 1 - sure}.items() if share > 0}


SAYING = {
    ("load",): "load_test",
    ("coast",): "coast_test",
    ("brake",): "brake_test",
    CLICKS: "turn_clicks",
    ("surface",): "surface_test",
}
