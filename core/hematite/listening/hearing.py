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
    MARKS,
    SURE,
    WORN_HARMONICS,
    Comb,
    Ear,
    Family,
    Turning,
    bearing_families,
    combs,
    geared_tones,
    once_a_turn,
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
from hematite.speed import FoundSpeed, Lines, Spun, WheelTurns, find_speed, find_spun, follow, wheel_turns
from hematite.traces import Trace
from hematite.vehicles import Hub, Vehicle

Floats = npt.NDArray[np.float64]

KNOWN_SPREAD = 0.005  # what is left of the doubt about speed once the wheel's own orders are found; judgement
# How far a speed may be from what was stated, in its logarithm: a dial is read once, a log is late; judgement.
KEPT_TO = {"road": 0.75, "wheel": 0.75, "counted": 0.75, "profile": 0.12, "marks": 0.12, "unknown": 0.12}
FASTEST_SPUN = 9.0  # turns a second; an arm does no more
FASTEST_DRIVEN = 20.0
ABOVE_HUM_HZ = 1200.0  # a tyre's hum lies below; judgement
STEADY_BELOW_HZ = 400.0
WHOLE_LINES = 12
CHANGED = "; it was not kept to, and how it changed was read from the sound"
AS_STATED = "as stated"
SPUN_TIMED = "As timed; between the marks its run-down was found in the sound: {rate:.1f} turns a second at first."
SPUN_FOUND = "Found in the sound: {rate:.1f} turns a second at first."
SPUN_COUNTED = "Counted; its run-down found in the sound: {rate:.1f} turns a second at first."
NOT_FOUND = "Nothing repeats clearly enough to find the speed by."
NOT_FOUND_COUNTED = "Counted; nothing repeats clearly enough to tell how it ran down."
NOT_TOLD_BY = ("cage", "swell", "tread", "whole_orders")  # kinds by which no speed is told
SEARCHED = 3.4  # nats: some thirty courses that differ are tried; measured on hiss
AS_LIKELY = 5.0  # nats: speeds that explain so nearly as much are not told apart; judgement
PITCHED = 2.0  # a comb at one pitch has half as many lines as a fault's; judgement
RIVAL_SHARE = 0.1  # how likely a rival explanation is before anything is heard; judgement


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
    taken = Taken(recording, sound, tuple(swells(sound, bands, fastest_turns_per_s=fastest)))
    heard = replace(heard, band=bands[0], third_octaves_db=sound.third_octaves_db())
    if spun and (stated or any(bearing.rows for bearing in bearings)):
        return _spun(heard, taken, bearings, stated, counted)
    turns, words = stated, AS_STATED
    if turns is None:
        found = find_speed(taken.banded, combs=_own_lines(bearings), spun=spun)
        heard, turns, words = _with_found(heard, found, spun=spun), found.turns, found.words
        if turns is None:
            return replace(heard, road=along(heard, taken, None, ()))
    kept_to = followed(taken, turns, heard.situation)
    words += CHANGED if kept_to is not turns else ""
    return _by_order(replace(heard, speed_words=words), taken, kept_to, bearings)


def _spun(
    heard: Heard, taken: Taken, bearings: Sequence[_Bearing], stated: WheelTurns | None, counted: float | None
) -> Heard:
    """Return what is heard of a wheel let go, on the course and at the speed at which most is explained."""
    swelling = [Trace(one.values.astype(np.float64) - 1, one.rate) for one in taken.banded[1:]]
    timed = stated if not counted else None
    tried = find_spun([*swelling, *taken.traces], _laid_lines(bearings), counted=counted, timed=timed)
    at_each = [_less(_by_order(heard, taken, one.turns, bearings), SEARCHED) for one in tried]
    at_each += [_by_order(heard, taken, timed, bearings)] if timed else []
    if not at_each:
        return replace(heard, speed_words="The recording is too short to find the speed in it.")
    if timed:
        best = max(range(len(at_each)), key=lambda n: _told_by(at_each[n]))
        return _as_timed(at_each[best], tried[best] if best < len(tried) else None)
    return _as_found(at_each, tried, counted)


def _as_timed(found: Heard, course: Spun | None) -> Heard:
    """Return what was heard as it was timed, or on a course found near that."""
    if course is None:
        return replace(found, speed_words=AS_STATED)
    rate = _first_rate(found, course)
    families = _not_at_one_pitch(found.families, course)
    return replace(found, families=families, speed_words=SPUN_TIMED.format(rate=rate), drag=_slowed(rate, course))


def _as_found(at_each: Sequence[Heard], tried: Sequence[Spun], counted: float | None) -> Heard:
    """Return what was heard on the likeliest course beside what others would explain as well.

    Where nothing stands on it, nothing is known of the course, and no line is missing that would have been heard.
    """
    found, course = at_each[0], tried[0]
    if _told_by(found) < FAINT:
        unheard = tuple(replace(f, strength=max(min(f.strength, FAINT), 0.0)) for f in found.families)
        rate = counted / found.duration_s if counted else None
        words = NOT_FOUND_COUNTED if counted else NOT_FOUND
        return replace(found, families=unheard, turns_per_s=rate, speed_words=words, spectrum=None, road=())
    families = found.families
    for rival, other in zip(at_each[1:], tried[1:], strict=True):
        families = _beside_rival(families, rival, course.odds - other.odds)
    rate = _first_rate(found, course)
    return replace(
        found,
        families=_not_at_one_pitch(families, course),
        speed_words=(SPUN_COUNTED if counted else SPUN_FOUND).format(rate=rate),
        drag=_slowed(rate, course),
    )


def _first_rate(found: Heard, course: Spun) -> float:
    """Return the speed where a course begins, in turns a second, as the wheel's own whole orders have it."""
    return course.first_rate * (found.turns_per_s or 0.0) / course.turns.mean_rate


def _slowed(rate: float, course: Spun) -> Drag | None:
    return Drag(rate, course.halving_s, course.odds) if course.halving_s else None


def _not_at_one_pitch(families: Sequence[Family], course: Spun) -> tuple[Family, ...]:
    """Return families as strong as they are beside something that repeats at one pitch while the wheel slows."""
    most = max(course.odds - PITCHED * course.at_one_pitch, 0.0) - float(np.log(RIVAL_SHARE))
    return tuple(replace(f, strength=min(f.strength, most)) for f in families)


def _told_by(heard: Heard) -> float:
    """Return how strongly anything stands by which a course can be told."""
    return max((f.strength for f in heard.families if f.kind not in NOT_TOLD_BY), default=0.0)


def _less(heard: Heard, nats: float) -> Heard:
    """Return what was heard on a course that was searched for: among so many some would fit hiss."""
    return replace(heard, families=tuple(replace(f, strength=f.strength - nats) for f in heard.families))


def _beside_rival(families: tuple[Family, ...], rival: Heard, behind: float) -> tuple[Family, ...]:
    """Return families beside what else would explain the same sound, were the speed another, `behind` nats less well.

    Marks that would be another ring's are told too. A bearing's lines that may be a stroke once a turn, or the other
    way round, count for no more than how likely a rival is from the start leaves.
    """
    lead = max((f for f in rival.families if f.kind not in NOT_TOLD_BY), key=lambda f: f.strength, default=None)
    if lead is None or lead.standing == "nothing" or behind > AS_LIKELY:
        return families
    stroke = lead.kind == "once_a_turn"
    most = behind - float(np.log(RIVAL_SHARE))
    against = [(f.kind == "once_a_turn") != stroke and f.kind not in NOT_TOLD_BY for f in families]
    kept = tuple(
        replace(f, strength=min(f.strength, most)) if other else f for f, other in zip(families, against, strict=True)
    )
    if stroke or any(f.kind == lead.kind and f.standing != "nothing" for f in families):
        return kept
    note = f"were it at {rival.turns_per_s or 0.0:.1f} turns a second"
    top = max((f.strength for f in families if f.kind not in NOT_TOLD_BY), default=0.0)
    note = "; ".join(filter(None, (lead.note, note)))
    return (*kept, replace(lead, strength=min(lead.strength, top) - behind, note=note))


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
        drag=_drag(found.turns, found.course.sureness) if found.turns and found.course and spun else None,
    )


def _by_order(heard: Heard, taken: Taken, turns: WheelTurns, bearings: Sequence[_Bearing]) -> Heard:
    heard = replace(heard, turns_per_s=turns.mean_rate)
    turning = _turning(taken, turns)
    if turning is None:
        return replace(heard, road=along(heard, taken, turns, ()))
    turning, ear, wheel = _at_true_speed(turning, turns.spread)
    once = once_a_turn(ear)
    geared = geared_tones(turning.hum)
    treads = tread_family(turning.hum, speed_varied=turns.speed_ratio >= PITCH_RATIO, geared=geared)
    of_wheel = (once, *whole_families(turning), treads)
    if any(family.standing != "nothing" for family in of_wheel):
        ear = ear.without(ear.whole_orders())
    if geared.standing != "nothing":
        ear = ear.without(ear.own_lines(Comb("geared_tones", geared.order / 2), 1.0))
    families = (*_bearing_families(ear, bearings, turns=turns.count * wheel), *of_wheel)
    return replace(
        heard,
        turns_per_s=turns.mean_rate * wheel,
        families=families,
        tones=_tones(geared, taken, turns, families),
        spectrum=_shown(turning, families),
        road=along(heard, taken, turns.scaled(wheel), families),
    )


def _tones(geared: Family, taken: Taken, turns: WheelTurns, families: Sequence[Family]) -> tuple[Tone, ...]:
    """Return the tones of engine and gears, named so that they are not taken for a bearing's."""
    found = []
    standing = [f.found_order for f in families if f.kind in MARKS and f.standing == "clear"]
    own = any(abs(order / geared.order - k) < 0.02 * k for order in standing for k in (1, 2, 4) if geared.order)
    if geared.standing != "nothing" and not own:
        words = f"Tones of an engine or gearbox, geared {geared.order:.2f} to one with the wheel; they do not count."
        found.append(Tone("geared", float(geared.order), words))
    low, rate = taken.sound.below(STEADY_BELOW_HZ)
    steady = steady_tones_hz(low, rate=rate, fastest_over_slowest=turns.speed_ratio)
    if steady:
        named = ", ".join(f"{hz:.0f}" for hz in steady[:3])
        words = f"Tones at {named} Hz keep their pitch whatever the wheel's speed; they do not count."
        found.append(Tone("steady", steady[0], words))
    return tuple(found)


def _turning(taken: Taken, turns: WheelTurns) -> Turning | None:
    """Return order spectra of every band's swells and of the low sound itself; None below four turns."""
    fixed = taken.banded[1:] or taken.banded  # the first is the one that knocks most, and overlaps the others
    tones, (hum, rate) = taken.traces[-1], taken.hum(turns)
    swelling = [per_turn(one.values, rate=one.rate, turns=turns) for one in fixed]
    low = per_turn(hum, rate=rate, turns=turns)
    sung = per_turn(tones.values.astype(np.float32), rate=tones.rate, turns=turns)
    length = min(len(values) for values in (*swelling, low, sung))
    found = [order_spectrum(values[:length]) for values in (*swelling, sung)]
    hummed = order_spectrum(low[:length], highest=HUM_ORDERS)
    if hummed is None:
        return None
    *knocks, tonal = [one for one in found if one]
    loud = [replace(one, power=one.power * swell.mean**2) for one, swell in zip(knocks, fixed, strict=True)]
    high = [one for one, swell in zip(loud, fixed, strict=True) if swell.band.low_hz >= ABOVE_HUM_HZ]
    return Turning(tuple(loud), tuple(high or loud), hummed, tonal)


def _at_true_speed(turning: Turning, spread: float) -> tuple[Turning, Ear, float]:
    """Return the spectra at the speed that the wheel's own whole orders tell, where they do, and that over the stated.

    Side lines of a turning mark can meet high whole orders at another speed; then the lowest do not stand.
    """
    stated = Ear(turning.knocks, turning.tones, spread=spread)
    wheel, sureness = wheel_scale(turning, spread=spread)
    if sureness < SURE:
        return turning, stated, 1.0
    moved = turning.rescaled(wheel)
    ear = Ear(moved.knocks, moved.tones, spread=KNOWN_SPREAD)
    stands = max(once_a_turn(ear).strength, _hum_strength(moved))
    return (moved, ear, wheel) if stands >= max(CLEAR, once_a_turn(stated).strength) else (turning, stated, 1.0)


def _hum_strength(turning: Turning) -> float:
    return max(family.strength for family in whole_families(turning) if family.kind == "whole_orders")


def _bearing_families(ear: Ear, bearings: Sequence[_Bearing], *, turns: float) -> tuple[Family, ...]:
    """Return the families of the bearings that may be heard; of unknown ones the best that stands anywhere."""
    found: list[Family] = []
    for bearing in bearings:
        own = bearing_families(ear, bearing.rows, rotating=bearing.rotating, turns=turns) if bearing.rows else ()
        found += [replace(family, hubs=bearing.hubs) for family in own]
    blind = [bearing for bearing in bearings if not bearing.rows]
    if blind:
        hubs = tuple(hub for bearing in blind for hub in bearing.hubs)
        found += [replace(f, hubs=hubs) for f in unknown_families(ear, rotating=blind[0].rotating)]
    return tuple(sorted(found, key=lambda family: family.strength, reverse=True))


def _laid_lines(bearings: Sequence[_Bearing]) -> list[Lines]:
    """Return the combs by which a course is found: whole orders, and what the bearing's own faults would make."""
    found = [Lines(np.arange(1.0, WHOLE_LINES + 1), np.ones(WHOLE_LINES))]
    if not all(bearing.rows for bearing in bearings):
        found.append(Lines(np.arange(1.0, 5.0), np.ones(4), free=True))
        found.append(Lines(np.arange(1.0, 4.0), np.ones(3), tonal=True, free=True))
    for bearing in bearings:
        for row in bearing.rows:
            for comb in combs(fault_orders(row, rotating=bearing.rotating)):
                if comb.kind == "cage":
                    continue
                multiples, offsets, weights = comb.due()
                found.append(Lines(multiples * comb.order + offsets, weights))
                if comb.kind != "rolling_element":
                    worn = comb.order * np.arange(1.0, WORN_HARMONICS + 1)
                    found.append(Lines(worn, np.ones(WORN_HARMONICS), tonal=True))
    return found


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


def _shown(turning: Turning, families: Sequence[Family]) -> OrderSpectrum:
    """Return the band's spectrum in which the leading family stands highest: the one worth seeing."""
    knocks = turning.knocks
    lead = max(families, key=lambda family: family.strength, default=None)
    if lead is None or lead.standing == "nothing":
        return knocks[0]
    if lead.kind == "many":
        return turning.tones
    places = [order for _, order, _ in lead.lines]
    return max(knocks, key=lambda s: float(np.interp(places, s.orders, np.minimum(s.db(), 25.0)).mean()))


def _drag(turns: WheelTurns, sureness: float) -> Drag | None:
    """Return how long the wheel took from its speed a little after the start to half of it, where it got so far."""
    times = np.linspace(turns.times_s[0], turns.times_s[-1], 400)
    rates = turns.rate_at(times)
    below = np.flatnonzero(rates <= rates[0] / 2)
    return Drag(float(rates[0]), float(times[below[0]] - times[0]), sureness) if len(below) else None
