"""From what was heard to statements: fault lines, loudness, and what the road tests tell of each side."""

from collections.abc import Mapping, Sequence

from hematite.evidence.weighing import Statement
from hematite.families import CLEAR, FAINT, SOFT, Family
from hematite.listening import Corner, Heard, RoadTest
from hematite.vehicles import Hub, Vehicle

RAISED_DB, LOUD_DB, VERY_LOUD_DB = 3.0, 6.0, 12.0  # twice, four and sixteen times the power; judgement
WHEEL_KINDS = ("once_a_turn", "swell", "whole_orders", "tread")
SLOWEST_SPUN_HZ = 2.2  # turns a second; a wheel spun to be heard turns faster, its cage slower; judgement
TOO_QUICK_HZ = 9.0  # more than an arm can turn a wheel, so no brake scrapes so often; common practice
FAINT_RHYTHM, SURE_RHYTHM = 10.0, 25.0  # deviations of a found course; hiss alone reaches 8, see docs/method.md
SKIRT_SHARE = 0.5  # of the whole orders' height; lower lines may be their skirts; judgement
SURE_DEVIATIONS = 4.0  # a road test's difference is taken as certain from here on; judgement
LOAD_DB = 1.5  # a smaller difference between bends is within what the road does; judgement
FALLS_DB = 5.0  # quieter by this when coasting: what sounded was the engine's; judgement
CLICK_DB = 3.0
BRAKE_DB = 3.0

Shares = Mapping[str, float]


def heard_statements(corners: Sequence[Corner], vehicle: Vehicle) -> list[Statement]:
    """Return what all usable recordings say: of each hub its lines and level, of the sides what road tests tell.

    Several listens to one noise are one witness: at each place the listen that stands out most speaks.
    """
    fit = [corner for corner in corners if corner.heard.usable]
    said: list[Statement] = []
    for place in dict.fromkeys(corner.heard.situation.place for corner in fit):
        own = [corner for corner in fit if corner.heard.situation.place == place]
        hub = vehicle.hub(place)
        said += _of_hub(own, hub) if hub else _of_cabin(own, vehicle)
    near = {hub for s in said if s.witness == "fault_lines" and len(s.said) == 1 for hub in s.said}
    # What a pickup heard at the hub itself the cabin hears again: one noise is one witness.
    said = [s for s in said if s.witness != "fault_lines" or len(s.said) == 1 or not near >= set(s.said)]
    return said + _road_statements([corner.heard for corner in fit], vehicle)


def _of_hub(own: Sequence[Corner], hub: Hub) -> list[Statement]:
    said = []
    with_lines = [corner for corner in own if corner.heard.families]
    rhythmic = [corner.heard for corner in own if not corner.heard.families and corner.heard.speed_words]
    if with_lines:
        loudest = max(with_lines, key=_standing_out)
        said.append(Statement.at(hub.id, "fault_lines", _line_shares(loudest), loudest.heard.situation.id))
    elif rhythmic:
        surest = max(rhythmic, key=lambda heard: heard.rhythm_sureness)
        said.append(Statement.at(hub.id, "rhythm", _rhythm_shares(surest, hub), surest.situation.id))
    levels = [corner for corner in own if corner.relative_db is not None]
    if levels:
        loudest = max(levels, key=lambda corner: corner.relative_db or 0.0)
        said.append(Statement.at(hub.id, "level", {_level(loudest): 1.0}, loudest.heard.situation.id))
    return said


def _of_cabin(own: Sequence[Corner], vehicle: Vehicle) -> list[Statement]:
    """A recording at no hub speaks of every hub that its lines fit; of the others it says that they are silent."""
    speaking = [corner for corner in own if corner.heard.families]
    if not speaking:
        return []
    loudest = max(speaking, key=_standing_out)
    shares = _line_shares(loudest)
    lead = max(shares, key=lambda name: shares[name])
    fits = {hub for f in loudest.heard.families if f.kind == lead for hub in f.hubs if f.standing != "nothing"}
    hubs = fits or {hub.id for hub in vehicle.hubs()}
    return [Statement("fault_lines", dict.fromkeys(sorted(hubs), shares), loudest.heard.situation.id)]


def _standing_out(corner: Corner) -> float:
    strongest = corner.heard.strongest
    return strongest.strength if strongest else 0.0


def _line_shares(corner: Corner) -> Shares:
    """State the leading family, with the doubt that its strength leaves; a neighbour's noise convicts nobody."""
    if _clicking(corner.heard):  # a joint's clicks come several times a turn and look like lines of their own
        return {"nothing": 1.0}
    kind, sureness = _leading([f for f in corner.heard.families if f.kind not in corner.echoes])
    return {kind: sureness, "nothing": 1 - sureness} if kind != "nothing" else {"nothing": 1.0}


def _clicking(heard: Heard) -> bool:
    return any(test.kind in CLICKS and test.db >= CLICK_DB and test.deviations >= 4 for test in heard.road)


def _rhythm_shares(heard: Heard, hub: Hub) -> Shares:
    """A rhythm whose wheel speed could not be settled still tells: quick ones are balls passing a mark.

    Side lines spaced as an arm turns a wheel mean the ring that turns, closer ones the cage that carries a ball.
    """
    share = (heard.rhythm_sureness - FAINT_RHYTHM) / (SURE_RHYTHM - FAINT_RHYTHM)
    sureness = min(max(share, 0.0), 0.97)
    if not heard.rhythm_hz or not sureness:
        return {"none": 1.0}
    return {_rhythm_kind(heard.rhythm_hz, heard.rhythm_side_hz, hub): sureness, "none": 1 - sureness}


def _rhythm_kind(hz: float, side_hz: float, hub: Hub) -> str:
    if hz < TOO_QUICK_HZ:
        return "slow"
    turning, standing = ("outer_race", "inner_race") if hub.rotating == "outer" else ("inner_race", "outer_race")
    if not side_hz:
        return standing
    return turning if side_hz >= SLOWEST_SPUN_HZ else "rolling_element"


def _leading(families: Sequence[Family]) -> tuple[str, float]:
    """Return the kind that speaks and how sure it is: a bearing's own lines come before fainter whole orders.

    A mark on a turning ring passes the load once a turn and so makes whole orders too: where its own lines stand clear,
    they count; a swell counts only where no bearing line stands at all.
    """
    standing = [f for f in families if f.strength >= FAINT]
    # A cage carries every damaged ball past its mark: its own lines count only where no ring or ball stands.
    bearing = max(
        (f for f in standing if f.kind not in WHEEL_KINDS), key=lambda f: (f.kind != "cage", f.strength), default=None
    )
    wheel = max((f for f in standing if f.kind in WHEEL_KINDS), key=lambda f: f.strength, default=None)
    if wheel and (not bearing or not _over(bearing, wheel)):
        return wheel.kind, _sureness(wheel.strength)
    if bearing:
        rings = [f for f in standing if f.kind not in WHEEL_KINDS and f.kind != "cage"]
        return ("many" if rings and _soft(rings) else bearing.kind), _sureness(bearing.strength)
    return "nothing", 1.0


def _over(bearing: Family, wheel: Family) -> bool:
    if bearing.kind == "cage":  # its lines stand so close to the whole orders that a scrape's skirts reach them
        return False
    if wheel.kind == "swell":
        return True
    if bearing.strength < CLEAR:
        return bearing.strength >= wheel.strength
    return bearing.score_db >= SKIRT_SHARE * wheel.score_db


def _soft(bearing: Sequence[Family]) -> bool:
    """Wear all round swells with every ball and knocks with none: a ring stands without its higher harmonics."""
    return SOFT in max(bearing, key=lambda f: f.strength).note


def _sureness(strength: float) -> float:
    """Return 0.3 at the faint limit, 0.7 at the clear one, 0.99 well above it; judgement."""
    return min(0.99, 0.3 + 0.4 * (strength - FAINT) / (CLEAR - FAINT))


def _level(corner: Corner) -> str:
    above = corner.relative_db or 0.0
    if above < RAISED_DB:
        return "quiet"
    if corner.overheard:
        return "overheard"
    return "raised" if above < LOUD_DB else "loud" if above < VERY_LOUD_DB else "very_loud"


def _road_statements(all_heard: Sequence[Heard], vehicle: Vehicle) -> list[Statement]:
    """Return what road tests tell. Each test speaks once: through the recording that shows it most surely."""
    tests = [(heard, test) for heard in all_heard for test in heard.road]
    said = []
    for kinds, say in ((("load",), _load), (("coast",), _coast), (("brake",), _brake), (CLICKS, _clicks)):
        own = [(heard, test) for heard, test in tests if test.kind in kinds]
        if own:
            heard, test = max(own, key=lambda pair: abs(pair[1].deviations))
            said.append(say(test, heard.situation.id, vehicle))
    return said


CLICKS = ("clicks_left", "clicks_right")
SIDES = ("left", "right", "centre")


def _sided(witness: str, source: str, vehicle: Vehicle, by_side: Mapping[str, Shares]) -> Statement:
    return Statement(witness, {hub.id: by_side[hub.side] for hub in vehicle.hubs()}, source)


def _probably(test: RoadTest, least_db: float) -> float:
    """Return how surely a difference is there: nothing below two deviations or `least_db`, all above four."""
    if abs(test.db) < least_db:
        return 0.0
    return float(min(max((abs(test.deviations) - 2.0) / (SURE_DEVIATIONS - 2.0), 0.0), 0.97))


def _load(test: RoadTest, source: str, vehicle: Vehicle) -> Statement:
    """Four driven wheels carry the noise along the driveline: there the test counts half."""
    all_driven = len(vehicle.axles) > 1 and all(axle.driven for axle in vehicle.axles)
    sure = _probably(test, LOAD_DB) * (0.5 if all_driven else 1.0)
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
