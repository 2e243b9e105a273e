"""From what was heard to statements: fault lines, loudness, and what the road tests tell of each side."""

from collections.abc import Mapping, Sequence

import numpy as np
from scipy import stats

from hematite.evidence.on_the_road import clicking, road_statements
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import VEHICLE
from hematite.families import CLEAR, FAINT, SOFT, Family
from hematite.listening import Corner, Heard
from hematite.vehicles import Hub, Vehicle

RAISED_DB, LOUD_DB, VERY_LOUD_DB = 3.0, 6.0, 12.0  # twice, four and sixteen times the power; judgement
LEVEL_DOUBT_DB = 1.0
SPUN_DOUBT_DB = 4.0  # a third more or less of speed, at 30 dB a decade; judgement
RING_KINDS = ("outer_race", "inner_race", "rolling_element")
WHEEL_KINDS = ("once_a_turn", "swell", "whole_orders", "tread")
SLOWEST_SPUN_HZ = 2.2  # turns a second; a wheel spun to be heard turns faster, its cage slower; judgement
TOO_QUICK_HZ = 9.0  # more than an arm can turn a wheel, so no brake scrapes so often; common practice
FAINT_RHYTHM, SURE_RHYTHM = 13.0, 28.0  # deviations of a found course; hiss alone reaches 5 to 12, see docs/method.md
HUMP_DB = 3.0  # twice the power of the whole orders around, in both of the first two lines; judgement
HUMP_SURE = 0.9  # whole orders of one stroke scatter by some 1.5 dB: two of them 3 dB up are rare; judgement
SKIRT_SHARE = 0.5  # of the whole orders' height; lower lines may be their skirts; judgement

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
    near = {one.place for one in said if one.witness == "fault_lines" and one.place}
    # What a pickup heard at the hub itself the cabin hears again: one noise is one witness.
    said = [one for one in said if not (one.witness == "fault_lines" and one.of_vehicle and near >= one.hubs)]
    return said + _tones(fit) + road_statements([corner.heard for corner in fit])


def _of_hub(own: Sequence[Corner], hub: Hub) -> list[Statement]:
    said = []
    with_lines = [corner for corner in own if corner.heard.families]
    rhythmic = [corner.heard for corner in own if not corner.heard.families and corner.heard.speed_words]
    if with_lines:
        loudest = max(with_lines, key=_standing_out)
        said.append(Statement("fault_lines", hub.id, _line_shares(loudest), loudest.heard.situation.id))
    elif rhythmic:
        surest = max(rhythmic, key=lambda heard: heard.rhythm_sureness)
        said.append(Statement("rhythm", hub.id, _rhythm_shares(surest, hub), surest.situation.id))
    levels = [corner for corner in own if corner.relative_db is not None]
    if levels:
        loudest = max(levels, key=lambda corner: corner.relative_db or 0.0)
        said.append(Statement("level", hub.id, _level_shares(loudest), loudest.heard.situation.id))
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
    return [Statement("fault_lines", VEHICLE, shares, loudest.heard.situation.id, hubs=frozenset(hubs))]


def _standing_out(corner: Corner) -> float:
    strongest = corner.heard.strongest
    return strongest.strength if strongest else 0.0


def _line_shares(corner: Corner) -> Shares:
    """State the leading family, with the doubt that its strength leaves; a neighbour's noise convicts nobody."""
    if clicking(corner.heard):  # a joint's clicks come several times a turn and look like lines of their own
        return {"nothing": 1.0}
    said = _leading([f for f in corner.heard.families if f.kind not in corner.echoes])
    return _with_course(said, corner.heard)


def _with_course(said: Shares, heard: Heard) -> Shares:
    """Where a family's own lines told the course of a wheel running down, the whole course speaks for them.

    The order spectrum of a few dozen turns is short and its chance wide; the course is read from all of it at once.
    """
    leads = next(iter(said))
    if heard.settled_by in RING_KINDS and leads == "once_a_turn":  # the course fits either: an arm's rhythm decides not
        return dict.fromkeys((leads, heard.settled_by), 0.5)
    if heard.settled_by not in RING_KINDS or not (heard.settled_by in said or leads in ("nothing", "cage")):
        return said
    sureness = max(said.get(heard.settled_by, 0.0), _rhythm_sureness(heard))
    rest = {kind: share for kind, share in said.items() if kind != heard.settled_by}
    left = sum(rest.values()) or 1.0
    return {heard.settled_by: sureness} | {kind: share / left * (1 - sureness) for kind, share in rest.items()}


def _rhythm_shares(heard: Heard, hub: Hub) -> Shares:
    """A rhythm whose wheel speed could not be settled still tells: quick ones are balls passing a mark.

    Side lines spaced as an arm turns a wheel mean the ring that turns, closer ones the cage that carries a ball.
    """
    sureness = _rhythm_sureness(heard)
    if not heard.rhythm_hz or not sureness:
        return {"none": 1.0}
    return {_rhythm_kind(heard, heard.rhythm_hz, hub): sureness, "none": 1 - sureness}


def _rhythm_sureness(heard: Heard) -> float:
    return min(max((heard.rhythm_sureness - FAINT_RHYTHM) / (SURE_RHYTHM - FAINT_RHYTHM), 0.0), 0.97)


def _rhythm_kind(heard: Heard, hz: float, hub: Hub) -> str:
    if hz < TOO_QUICK_HZ:
        return "slow" if heard.rhythm_stroke else "slow_swell"
    turning, standing = ("outer_race", "inner_race") if hub.rotating == "outer" else ("inner_race", "outer_race")
    if not heard.rhythm_side_hz:
        return standing
    return turning if heard.rhythm_side_hz >= SLOWEST_SPUN_HZ else "rolling_element"


def _leading(families: Sequence[Family]) -> Shares:
    """Return the kind that speaks and how sure it is: a bearing's own lines come before fainter whole orders.

    A mark on a turning ring passes the load once a turn and so makes whole orders too: where its own lines stand clear,
    they count; a swell counts only where no bearing line stands at all.
    """
    standing = [f for f in families if f.strength >= FAINT]
    # A cage carries every damaged ball past its mark: its own lines count only where no ring or ball stands.
    bearing = max(
        (f for f in standing if f.kind not in WHEEL_KINDS), key=lambda f: (f.kind != "cage", f.rank), default=None
    )
    wheel = max((f for f in standing if f.kind in WHEEL_KINDS), key=lambda f: f.strength, default=None)
    if wheel and (not bearing or not _over(bearing, wheel)):
        return _sure_of(wheel.kind, _sureness(wheel.strength), "nothing")
    if bearing:
        rings = [f for f in standing if f.kind not in WHEEL_KINDS and f.kind != "cage"]
        kind = "many" if rings and _soft(rings) else bearing.kind
        sureness = _sureness(bearing.strength)
        if bearing.hump_db is not None and bearing.hump_db >= HUMP_DB and bearing.row:
            sureness = max(sureness, HUMP_SURE)
        return _sure_of(kind, sureness, wheel.kind if wheel else "nothing")
    return {"nothing": 1.0}


def _sure_of(kind: str, sureness: float, otherwise: str) -> Shares:
    return {kind: sureness, otherwise: 1 - sureness}


def _over(bearing: Family, wheel: Family) -> bool:
    if bearing.kind == "cage":  # its lines stand so close to the whole orders that a scrape's skirts reach them
        return False
    if wheel.kind == "swell":
        return True
    if bearing.hump_db is not None:
        return bearing.hump_db >= HUMP_DB
    if bearing.strength < CLEAR:
        return bearing.strength >= wheel.strength
    return bearing.score_db >= SKIRT_SHARE * wheel.score_db


def _soft(bearing: Sequence[Family]) -> bool:
    """Wear all round swells with every ball and knocks with none: a ring stands without its higher harmonics."""
    return SOFT in max(bearing, key=lambda f: f.rank).note


def _sureness(strength: float) -> float:
    """Return 0.3 at the faint limit, 0.7 at the clear one, 0.99 well above it; judgement."""
    return min(0.99, 0.3 + 0.4 * (strength - FAINT) / (CLEAR - FAINT))


def _level_shares(corner: Corner) -> Shares:
    """State how loud a corner is, with the doubt that the wheels did not turn alike: an arm never spins two alike."""
    spun = corner.heard.situation.situation == "stand_spin"
    doubt = SPUN_DOUBT_DB if spun and not corner.heard.turns_per_s else LEVEL_DOUBT_DB
    edges = np.array([-np.inf, RAISED_DB, LOUD_DB, VERY_LOUD_DB, np.inf])
    below = stats.norm.cdf(edges, loc=corner.relative_db or 0.0, scale=doubt)
    shares = dict(zip(("quiet", "raised", "loud", "very_loud"), (float(s) for s in np.diff(below)), strict=True))
    if corner.overheard:
        return {"quiet": shares["quiet"], "overheard": 1 - shares["quiet"]}
    return shares


def _tones(fit: Sequence[Corner]) -> list[Statement]:
    """On the road an engine runs; what it sings is one noise, however many recordings hear it."""
    road = [corner.heard for corner in fit if corner.heard.situation.situation == "road" and corner.heard.turns_per_s]
    if not road:
        return []
    source = next((heard for heard in road if heard.tones), road[0])
    outcome = "heard" if source.tones else "none"
    return [Statement("tones", VEHICLE, {outcome: 1.0}, source.situation.id)]
