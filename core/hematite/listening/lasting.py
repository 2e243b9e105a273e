"""What lasts: on stands a mark is heard all along, a burst of an air tool or a knock only in a part of a recording."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from hematite.envelopes import Swell
from hematite.families import FAINT, MARKS, Family
from hematite.listening.by_order import Bearing, by_order
from hematite.listening.heard import Heard
from hematite.listening.taken import Taken
from hematite.speed import WheelTurns

PARTS = 3
# How many times what is left without the part that holds most of it a mark may count for: of a steady wheel a third of
# the odds is gone then, of one that runs down as far as two thirds. Judgement.
LASTS = 2.5


def heard_lasting(heard: Heard, taken: Taken, turns: WheelTurns, bearings: Sequence[Bearing]) -> Heard:
    """Return what is heard on the wheel's angle, a bearing's marks as far as they stand without any one part as well."""
    found = by_order(heard, taken, turns, bearings)
    if not _standing(found):
        return found
    edges = np.interp(np.linspace(turns.turns[0], turns.turns[-1], PARTS + 1), turns.turns, turns.times_s)
    for start, end in zip(edges, edges[1:], strict=False):
        rest = by_order(heard, _without(taken, start, end), turns, bearings)
        left = {f.kind: max((g.strength for g in rest.families if g.kind == f.kind), default=0.0) for f in _standing(found)}
        found = replace(found, families=tuple(_as_left(f, left.get(f.kind)) for f in found.families))
        if not _standing(found):
            break
    return found


def _standing(found: Heard) -> list[Family]:
    return [f for f in found.families if f.kind in MARKS and f.strength >= FAINT]


def _as_left(family: Family, left: float | None) -> Family:
    return family if left is None else replace(family, strength=min(family.strength, LASTS * max(left, 0.0)))


def _without(taken: Taken, start_s: float, end_s: float) -> Taken:
    """Return a recording with nothing but their mean in all bands' swells for a part of it."""
    return replace(taken, banded=tuple(_even(one, start_s, end_s) for one in taken.banded))


def _even(swell: Swell, start_s: float, end_s: float) -> Swell:
    inside = slice(int(start_s * swell.rate), int(end_s * swell.rate))
    values, loud = swell.values.copy(), swell.loud.copy()
    values[inside], loud[inside] = values.mean(), loud.mean()
    return replace(swell, values=values, loud=loud)
