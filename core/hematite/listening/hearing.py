"""One recording heard: level, speed, bands, envelopes on the wheel's axis, fault families, road tests."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from hematite.bearings import Row, fault_orders
from hematite.envelopes import HIGHEST_ORDER, OrderSpectrum, Sound, order_spectrum, per_turn, swells
from hematite.families import (
    CLEAR,
    FAINT,
    WHOLE_SMEAR,
    Family,
    Scorer,
    Turning,
    bearing_families,
    combs,
    geared_tones,
    steady_tones_hz,
    tread_family,
    unknown_families,
    wheel_scale,
    whole_families,
)
from hematite.listening.along import PITCH_RATIO, along
from hematite.listening.heard import Drag, Heard, Tone
from hematite.listening.situation import Situation
from hematite.listening.taken import HUM_ORDERS, Taken
from hematite.recordings import Recording, assess_quality, usable
from hematite.spectra import heard_bands, level_db, plain_band_levels_db
from hematite.speed import FoundSpeed, WheelTurns, find_speed, follow, wheel_turns
from hematite.vehicles import Hub, Vehicle

Floats = npt.NDArray[np.float64]

KNOWN_SPREAD = 0.005  # what is left of the doubt about speed once the wheel's own orders are found; judgement
# How far a speed may be from what was stated, in its logarithm: a dial is read once, a log is late; judgement.
KEPT_TO = {"road": 0.75, "wheel": 0.75, "counted": 0.75, "profile": 0.12, "marks": 0.12, "unknown": 0.12}
FASTEST_SPUN = 9.0  # turns a second; an arm does no more
FASTEST_DRIVEN = 20.0
ABOVE_HUM_HZ = 1200.0  # a tyre's hum lies below; judgement
SPUN_SMEAR = 0.03  # a course found in a wheel that runs down is seldom better; judgement
STEADY_BELOW_HZ = 400.0
CHANGED = "; it was not kept to, and how it changed was read from the sound"
TAKEN_AS_EVEN = "as counted, taken as even: how it ran down was not found in the sound"


@dataclass(frozen=True)
class _Bearing:
    """A bearing that the sound may come from: rows, which ring turns, and the hubs that have it."""

    rows: tuple[Row, ...]
    rotating: str
    hubs: tuple[str, ...]


NEED_THE_TYRE = ("road", "profile")  # kinds of speed; a size that cannot be read hinders no other


def listen(recording: Recording, situation: Situation, *, vehicle: Vehicle) -> Heard:
    """Hear one recording of a vehicle. Raises `BadSpeed` when its stated speed cannot be used."""
    quality = assess_quality(recording)
    heard = Heard(
        situation=situation,
        duration_s=recording.duration,
        quality=quality,
        level_db=level_db(recording.samples),
        band_levels_db=plain_band_levels_db(recording.samples, rate=recording.rate),
    )
    speed = situation.effective_speed
    size = vehicle.circumference if speed.get("kind") in NEED_THE_TYRE else None
    stated = wheel_turns(speed, duration_s=recording.duration, circumference_m=size)
    if not usable(quality):
        return heard
    bearings = _bearings(situation.place, vehicle)
    return _heard(heard, recording, stated, bearings)


def _bearings(place: str, vehicle: Vehicle) -> tuple[_Bearing, ...]:
    """Return the different bearings that a recording at a place may be of: the hub's own, or all of the vehicle's."""
    hub = vehicle.hub(place)
    hubs = [hub] if hub else list(vehicle.hubs())
    alike: dict[tuple[tuple[Row, ...], str], list[Hub]] = {}
    for one in hubs:
        alike.setdefault((one.rows, one.rotating), []).append(one)
    return tuple(_Bearing(rows, ring, tuple(h.id for h in same)) for (rows, ring), same in alike.items())


def _heard(heard: Heard, recording: Recording, stated: WheelTurns | None, bearings: Sequence[_Bearing]) -> Heard:
    spun = heard.situation.situation == "stand_spin"
    counted = stated.count if stated and spun and heard.situation.effective_speed.get("kind") == "counted" else None
    even = stated if not counted else None  # turns counted say nothing of how a wheel let go shares them out
    fastest = even.fastest_rate if even else FASTEST_SPUN if spun else FASTEST_DRIVEN
    sound = Sound.of(recording.samples, rate=recording.rate)
    bands = heard_bands(recording.samples, rate=recording.rate)
    banded = swells(sound, bands, fastest_turns_per_s=fastest)
    taken = Taken(recording, sound, tuple(banded))
    heard = replace(heard, band=bands[0], third_octaves_db=sound.third_octaves_db())
    turns, words = even, "as stated"
    if turns is None:
        found = find_speed(banded, combs=_own_lines(bearings), spun=spun, counted=counted)
        heard, turns, words = _with_found(heard, found, spun=spun), found.turns, found.words
        if turns is None and stated:
            turns, words = stated, TAKEN_AS_EVEN
        if turns is None:
            return replace(heard, road=along(heard, taken, None, ()))
    kept_to = followed(taken, turns, heard.situation)
    words += CHANGED if kept_to is not turns else ""
    return _by_order(replace(heard, speed_words=words), taken, kept_to, bearings)


def followed(taken: Taken, turns: WheelTurns, situation: Situation) -> WheelTurns:
    """Return the turns with the changes that a stated speed left out; a wheel that was spun has its own course."""
    if situation.situation == "stand_spin":
        return turns
    return follow(taken.traces, turns, reach=KEPT_TO[str(situation.effective_speed.get("kind"))])


def _with_found(heard: Heard, found: FoundSpeed, *, spun: bool) -> Heard:
    return replace(
        heard,
        speed_words=found.words,
        rhythm_hz=found.rhythm.hz if found.rhythm else None,
        rhythm_side_hz=found.rhythm.side_hz if found.rhythm else 0.0,
        rhythm_stroke=not found.rhythm or found.rhythm.stroke,
        rhythm_sureness=found.course.sureness if found.course else 0.0,
        settled_by=found.settled_by,
        drag=_drag(found.turns, found.course.sureness) if found.turns and found.course and spun else None,
    )


def _by_order(heard: Heard, taken: Taken, turns: WheelTurns, bearings: Sequence[_Bearing]) -> Heard:
    heard = replace(heard, turns_per_s=turns.mean_rate)
    turning = _turning(taken, turns)
    if turning is None:
        return replace(heard, road=along(heard, taken, turns, ()))
    wheel, spread = _true_speed(turning, turns.spread)
    turning = turning.rescaled(wheel)
    geared = geared_tones(turning.hum)
    treads = tread_family(turning.hum, speed_varied=turns.speed_ratio >= PITCH_RATIO, geared=geared)
    of_wheel = (*whole_families(turning), treads)
    smear = SPUN_SMEAR if heard.situation.situation == "stand_spin" else WHOLE_SMEAR
    scorer = Scorer(turning.knocks, spread=spread, wheel=_of_wheel(of_wheel), smear=smear)
    families = (*_bearing_families(scorer, bearings, turns=turns.count * wheel), *of_wheel)
    return replace(
        heard,
        turns_per_s=turns.mean_rate * wheel,
        families=families,
        tones=_tones(geared, taken, turns, families),
        spectrum=_shown(turning.knocks, families),
        road=along(heard, taken, turns.scaled(wheel), families),
    )


def _tones(geared: Family, taken: Taken, turns: WheelTurns, families: Sequence[Family]) -> tuple[Tone, ...]:
    """Return the tones of engine and gears, named so that they are not taken for a bearing's."""
    found = []
    standing = [f.found_order for f in families if f.standing != "nothing"]
    own = any(abs(order / geared.order - k) < 0.02 * k for order in standing for k in (1, 2, 4) if geared.order)
    if geared.standing == "clear" and not own:
        words = f"Tones of an engine or gearbox, geared {geared.order:.2f} to one with the wheel; they do not count."
        found.append(Tone("geared", float(geared.order), words))
    low, rate = taken.sound.below(STEADY_BELOW_HZ)
    steady = steady_tones_hz(low, rate=rate, fastest_over_slowest=turns.speed_ratio)
    if steady:
        named = ", ".join(f"{hz:.0f}" for hz in steady[:3])
        words = f"Tones at {named} Hz keep their pitch whatever the wheel's speed; they do not count."
        found.append(Tone("steady", steady[0], words))
    return tuple(found)


def _of_wheel(families: Sequence[Family]) -> str:
    """Return what stands of the wheel itself: a tyre's 'hum', a 'scrape', or nothing."""
    kinds = {family.kind for family in families if family.standing != "nothing"}
    return "hum" if kinds & {"whole_orders", "tread"} else "scrape" if kinds else ""


def _turning(taken: Taken, turns: WheelTurns) -> Turning | None:
    """Return order spectra of every band's swells and of the low sound itself; None below four turns."""
    banded = taken.banded
    angled = [per_turn(swell.values, rate=swell.rate, turns=turns) for swell in banded]
    hum, rate = taken.hum(turns)
    low = per_turn(hum, rate=rate, turns=turns)
    length = min(len(values) for values in (*angled, low))
    knocks = []
    for swell, values in zip(banded, angled, strict=True):
        found = order_spectrum(values[:length])
        if found is None:
            return None
        knocks.append(OrderSpectrum(found.orders, found.ratio, found.power * swell.mean**2, found.blocks))
    hummed = order_spectrum(low[:length], highest=HUM_ORDERS)
    high = [spectrum for spectrum, swell in zip(knocks, banded, strict=True) if swell.band.low_hz >= ABOVE_HUM_HZ]
    return Turning(tuple(knocks), tuple(high or knocks), hummed) if hummed else None


def _true_speed(turning: Turning, spread: float) -> tuple[float, float]:
    """Return the wheel's speed over the stated one and what doubt is left: its whole orders tell, if they stand."""
    scale, sureness = wheel_scale(turning, spread=spread)
    return (scale, KNOWN_SPREAD) if sureness >= FAINT else (1.0, spread)


def _bearing_families(scorer: Scorer, bearings: Sequence[_Bearing], *, turns: float) -> tuple[Family, ...]:
    """Return the families of the bearings that may be heard; of unknown ones the best that stands anywhere."""
    found: list[Family] = []
    for bearing in bearings:
        own = bearing_families(scorer, bearing.rows, rotating=bearing.rotating, turns=turns) if bearing.rows else ()
        found += [replace(family, hubs=bearing.hubs) for family in own]
    blind = [bearing for bearing in bearings if not bearing.rows]
    known = max((family.strength for family in found), default=0.0)
    if blind and known < CLEAR:
        hubs = tuple(hub for bearing in blind for hub in bearing.hubs)
        found += [replace(f, hubs=hubs) for f in unknown_families(scorer, rotating=blind[0].rotating)]
    return tuple(sorted(found, key=lambda family: family.rank, reverse=True))


def _own_lines(bearings: Sequence[_Bearing]) -> list[tuple[str, Floats, Floats]]:
    """Return kind, orders and weights of every family that the known bearings could make, to settle a speed by."""
    lines = []
    for bearing in bearings:
        for row in bearing.rows:
            for comb in combs(fault_orders(row, rotating=bearing.rotating)):
                named = replace(comb, harmonics=8).lines(1.0, HIGHEST_ORDER)
                weights = [(1.0 if name.endswith("×") else 0.5) / float(name[0]) for name, _ in named]
                lines.append((comb.kind, np.array([order for _, order in named]), np.array(weights)))
    return lines


def _shown(knocks: Sequence[OrderSpectrum], families: Sequence[Family]) -> OrderSpectrum:
    """Return the band's spectrum in which the leading family stands highest: the one worth seeing."""
    lead = max(families, key=lambda family: family.strength, default=None)
    if lead is None or lead.standing == "nothing":
        return knocks[0]
    places = [order for _, order, _ in lead.lines]
    return max(knocks, key=lambda s: float(np.interp(places, s.orders, np.minimum(s.db(), 25.0)).mean()))


def _drag(turns: WheelTurns, sureness: float) -> Drag | None:
    """Return how long the wheel took from its speed a little after the start to half of it, where it got so far."""
    times = np.linspace(turns.times_s[0], turns.times_s[-1], 400)
    rates = turns.rate_at(times)
    below = np.flatnonzero(rates <= rates[0] / 2)
    return Drag(float(rates[0]), float(times[below[0]] - times[0]), sureness) if len(below) else None
