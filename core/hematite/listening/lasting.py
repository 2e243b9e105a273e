"""What lasts: on stands a mark is heard all along, a burst of an air tool or a knock only in a part of a recording."""

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np

from hematite.envelopes import Swell
from hematite.families import FAINT, MARKS, Family
from hematite.listening.by_order import Bearing, by_order
from hematite.listening.heard import Heard
from hematite.listening.taken import Taken
from hematite.odds import Floats
from hematite.speed import WheelTurns

BURST_S, MOST_OF_IT = 2.5, 1 / 3  # how long a burst lasts at most, and what part of a recording is left out at most
# How many times what is left without the part that holds most of it a mark may count for: what lasts loses about as
# much as was left out, of a wheel that runs down more. Judgement.
LASTS = 2.5
STEPS_PER_PART = 4


def heard_lasting(heard: Heard, taken: Taken, turns: WheelTurns, bearings: Sequence[Bearing]) -> Heard:
    """Return what is heard on the wheel's angle, marks as far as they stand without the part that holds most of them.

    A driven wheel must show them without any third of it: at one speed engine or gears may lie where they are due.
    """
    found = by_order(heard, taken, turns, bearings)
    standing = [family for family in found.families if family.kind in MARKS and family.strength >= FAINT]
    if not standing:
        return found
    lead = max(standing, key=lambda f: f.strength)
    parts = _thirds(turns) if heard.situation.situation == "stand_driven" else [_fullest_part(taken, turns, lead)]
    rests = [by_order(heard, _without(taken, *part), turns, bearings) for part in parts]
    return replace(found, families=tuple(_as_left(f, rests) if f in standing else f for f in found.families))


def _as_left(family: Family, rests: Sequence[Heard]) -> Family:
    each = [max((f.strength for f in rest.families if f.kind == family.kind), default=0.0) for rest in rests]
    return replace(family, strength=min(family.strength, LASTS * max(min(each), 0.0)))


def _thirds(turns: WheelTurns) -> list[tuple[float, float]]:
    edges = np.linspace(turns.times_s[0], turns.times_s[-1], 4)
    return list(pairwise(edges.tolist()))


def _fullest_part(taken: Taken, turns: WheelTurns, family: Family) -> tuple[float, float]:
    """Return start and end, in s, of the part in which a family's lines carry most power of the swells."""
    first, last = float(turns.times_s[0]), float(turns.times_s[-1])
    length = min(BURST_S, MOST_OF_IT * (last - first))
    starts = np.arange(first, last - length, length / STEPS_PER_PART)
    orders = np.array([order for _, order, _ in family.lines])
    power = sum(_power_in(one, turns, orders, starts, length) for one in taken.banded)
    start = float(starts[int(np.argmax(power))])
    return start, start + length


def _power_in(swell: Swell, turns: WheelTurns, orders: Floats, starts: Floats, length: float) -> Floats:
    """Return the power of lines in each part of a swell that begins at one of some starts, shape (parts,)."""
    angle = turns.at(np.arange(len(swell.values)) / swell.rate)
    low = np.clip((starts * swell.rate).astype(np.int64), 0, len(angle))
    high = np.clip(((starts + length) * swell.rate).astype(np.int64), 0, len(angle))
    total = np.zeros(len(starts))
    for order in orders:
        turned = np.cumsum(np.append(0.0, (swell.values - 1) * np.exp(-2j * np.pi * order * angle)))
        total += np.square(np.abs(turned[high] - turned[low]))
    return total


def _without(taken: Taken, start_s: float, end_s: float) -> Taken:
    """Return a recording with nothing but their mean in all bands' swells for a part of it."""
    return replace(taken, banded=tuple(_even(one, start_s, end_s) for one in taken.banded))


def _even(swell: Swell, start_s: float, end_s: float) -> Swell:
    inside = slice(int(start_s * swell.rate), int(end_s * swell.rate))
    values, loud = swell.values.copy(), swell.loud.copy()
    values[inside], loud[inside] = values.mean(), loud.mean()
    return replace(swell, values=values, loud=loud)
