"""One recording on the wheel's own angle: what of a bearing, of the wheel and of gears keeps step with it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from hematite.bearings import Row
from hematite.envelopes import OrderSpectrum, order_spectrum, per_turn
from hematite.families import (
    CLEAR,
    FAINT,
    MARKS,
    SURE,
    WORN,
    Comb,
    Ear,
    Family,
    Turning,
    bearing_families,
    gear_family,
    geared_tones,
    hum_family,
    once_a_turn,
    song_of,
    steady_tones_hz,
    tread_family,
    unknown_families,
    wheel_scale,
    whole_families,
)
from hematite.language import say
from hematite.listening.along import PITCH_RATIO
from hematite.listening.heard import Heard, Tone
from hematite.listening.taken import HUM_ORDERS, Taken
from hematite.speed import WheelTurns
from hematite.vehicles import Hub, Vehicle

MAY_BE_WHOLE = 0.06  # orders from a whole one; judgement
OUTSTANDS = 2.25  # times the strokes' odds: at the same height so much more make a turning mark's nine lines than four
AS_WELL = 0.3  # of the strokes' odds as stated, that they must have at the speed read from them; judgement
KNOWN_SPREAD = 0.005  # what is left of the doubt about speed once the wheel's own orders are found; judgement
ABOVE_HUM_HZ = 1200.0  # a tyre's hum lies below; judgement
STEADY_BELOW_HZ = 400.0


@dataclass(frozen=True)
class Bearing:
    """A bearing that the sound may come from: rows, which ring turns, and the hubs that have it.

    `counts`: elements of rows of which no more is known.
    """

    rows: tuple[Row, ...]
    rotating: str
    hubs: tuple[str, ...]
    counts: tuple[int, ...] = ()


def bearings_at(place: str, vehicle: Vehicle) -> tuple[Bearing, ...]:
    """Return the different bearings that a recording at a place may be of: the hub's own, or all of the vehicle's."""
    hub = vehicle.hub(place)
    hubs = [hub] if hub else list(vehicle.hubs())
    alike: dict[tuple[tuple[Row, ...], str, tuple[int, ...]], list[Hub]] = {}
    for one in hubs:
        alike.setdefault((one.rows, one.rotating, one.counts), []).append(one)
    return tuple(Bearing(rows, ring, tuple(h.id for h in same), counts) for (rows, ring, counts), same in alike.items())


def by_order(heard: Heard, taken: Taken, turns: WheelTurns, bearings: Sequence[Bearing]) -> Heard:
    """Return what is heard on the wheel's own angle: families, tones and the spectrum worth seeing."""
    heard = replace(heard, turns_per_s=turns.mean_rate)
    turning = _turning(taken, turns)
    if turning is None:
        return heard
    alone = heard.situation.situation == "stand_spin"
    turning, ear, wheel, once = _at_true_speed(turning, turns.spread, alone=alone)
    geared = geared_tones(turning.hum)
    treads = tread_family(turning.hum, speed_varied=turns.speed_ratio >= PITCH_RATIO, geared=geared)
    of_wheel = (once, *whole_families(turning), treads)
    gears, whole = () if alone else (gear_family(turning.hum),), ear
    ear = ear.without(song_of(gears[0], ear.orders)) if gears and gears[0].standing != "nothing" else ear
    of_bearing = _bearing_families(ear, bearings, turns=turns.count * wheel)
    others = _deaf_to(ear, (*of_wheel, geared), of_bearing)
    if others is not ear:
        of_bearing = _bearing_families(others, bearings, turns=turns.count * wheel)
    of_bearing = tuple(_beside_strokes(family, once, turns.spread) for family in of_bearing)
    of_bearing = of_bearing if alone else tuple(_among_others(family, whole) for family in of_bearing)
    families = (*of_bearing, *of_wheel, *gears)
    return replace(
        heard,
        turns_per_s=turns.mean_rate * wheel,
        families=families,
        tones=_tones(geared, taken, turns, families),
        spectrum=_shown(turning, families),
    )


def _deaf_to(ear: Ear, others: Sequence[Family], own: Sequence[Family]) -> Ear:
    """Return an ear deaf to the wheel's whole orders and to gears, where they stand without a bearing's `own` lines.

    A mark whose order is nearly whole touches whole orders as well: what stands highest explains them.
    """
    others = [family for family in others if family.standing != "nothing"]
    if not others:
        return ear
    lead = max(own, key=lambda f: f.strength, default=None)
    rest = ear.without(ear.near([order for _, order, _ in lead.lines])) if lead else ear
    touching = once_a_turn(rest).standing != "nothing"
    for family in others:
        led = lead is not None and lead.strength > family.strength
        if led and not (touching and family.kind == "once_a_turn"):
            continue
        geared = family.kind == "geared_tones"
        ear = ear.without(ear.own_lines(Comb(family.kind, family.order / 2), 1.0) if geared else ear.whole_orders())
    return ear


def _among_others(family: Family, ear: Ear) -> Family:
    """Return a bearing's family as it is told where other things turn: with what speaks for something of theirs.

    A ball that strikes one race harder has lines at half its order by itself.
    """
    if family.strength < FAINT:
        return family
    return replace(family, halves=ear.at_halves(family.found_order, knocks=family.kind != "rolling_element"))


def _beside_strokes(family: Family, once: Family, spread: float) -> Family:
    """Return a family as strong as it is where its lines may be the wheel's own strokes, were the speed another."""
    off = abs(family.order - round(family.order)) - spread * family.order
    if once.standing == "nothing" or off > MAY_BE_WHOLE or family.strength > OUTSTANDS * once.strength:
        return family
    return replace(family, strength=min(family.strength, FAINT))


def _tones(geared: Family, taken: Taken, turns: WheelTurns, families: Sequence[Family]) -> tuple[Tone, ...]:
    """Return the tones of engine and gears, named so that they are not taken for a bearing's."""
    found = []
    standing = [f.found_order for f in families if f.kind in MARKS and f.standing == "clear"]
    own = any(abs(order / geared.order - k) < 0.02 * k for order in standing for k in (1, 2, 4) if geared.order)
    if geared.standing != "nothing" and not own:
        words = say(
            "Tones of an engine or gearbox, geared {order:.2f} to one with the wheel; they do not count.",
            order=geared.order,
        )
        found.append(Tone("geared", float(geared.order), words))
    low, rate = taken.sound.below(STEADY_BELOW_HZ)
    steady = steady_tones_hz(low, rate=rate, fastest_over_slowest=turns.speed_ratio)
    if steady:
        named = ", ".join(f"{hz:.0f}" for hz in steady[:3])
        words = say("Tones at {named} Hz keep their pitch whatever the wheel's speed; they do not count.", named=named)
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


def _at_true_speed(turning: Turning, spread: float, *, alone: bool) -> tuple[Turning, Ear, float, Family]:
    """Return the spectra at the speed that the wheel's own whole orders tell, where they do, and that over the stated.

    With them what touches once a turn. Side lines of a turning mark can meet high whole orders at another speed; then
    the lowest do not stand.
    """
    stated = Ear(turning.knocks, turning.tones, spread=spread, alone=alone)
    once = once_a_turn(stated)
    wheel, sureness = wheel_scale(turning, spread=spread)
    if sureness < SURE:
        return turning, stated, 1.0, once
    moved = turning.rescaled(wheel)
    ear = Ear(moved.knocks, moved.tones, spread=KNOWN_SPREAD, alone=alone)
    moved_once = once_a_turn(ear)
    stands = max(moved_once.strength, hum_family(moved.hum).strength)
    if stands < max(CLEAR, AS_WELL * once.strength):
        return turning, stated, 1.0, once
    return moved, ear, wheel, moved_once


def _bearing_families(ear: Ear, bearings: Sequence[Bearing], *, turns: float) -> tuple[Family, ...]:
    """Return the families of the bearings that may be heard; of unknown ones the best that stands anywhere."""
    found: list[Family] = []
    for bearing in bearings:
        own = bearing_families(ear, bearing.rows, rotating=bearing.rotating, counts=bearing.counts, turns=turns)
        found += [replace(family, hubs=bearing.hubs) for family in own]
    blind = [bearing for bearing in bearings if not bearing.rows]
    if blind:
        hubs = tuple(hub for bearing in blind for hub in bearing.hubs)
        anywhere = [replace(f, hubs=hubs) for f in unknown_families(ear, rotating=blind[0].rotating)]
        counted = all(bearing.counts for bearing in blind)  # then rings are due where they are due; a ball is not
        found += [family for family in anywhere if not counted or family.kind == "rolling_element"]
    return tuple(sorted(found, key=lambda family: family.strength, reverse=True))


def _shown(turning: Turning, families: Sequence[Family]) -> OrderSpectrum:
    """Return the band's spectrum in which the leading family stands highest: the one worth seeing."""
    knocks = turning.knocks
    lead = max(families, key=lambda family: family.strength, default=None)
    if lead is None or lead.standing == "nothing":
        return knocks[0]
    if lead.kind == WORN:
        return turning.tones
    places = [order for _, order, _ in lead.lines]
    return max(knocks, key=lambda s: float(np.interp(places, s.orders, np.minimum(s.db(), 25.0)).mean()))
