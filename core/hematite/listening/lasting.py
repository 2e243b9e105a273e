"""What lasts: on stands a mark is heard all along, a burst of an air tool or a knock only in a part of a recording."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import scipy.fft

from hematite.envelopes import Swell
from hematite.families import CLEAR, FAINT, MARKS, Family
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
# Times the power at one pitch. On another author's simulator nine true marks had 1.2 to 3.8; of 23 beside an air tool
# 22 had 0.9 to 1.1, two of them at a wheel that has such a mark, too faint.
SLOWS = 1.15
OFF = np.arange(-0.03, 0.0301, 0.004)  # of the speed, by which a course or a pitch may be off


def lasting(found: Heard, taken: Taken, turns: WheelTurns, bearings: Sequence[Bearing]) -> Heard:
    """Return what was found on the wheel's angle, marks as far as they stand without the part that holds most of them.

    Those of a wheel that was spun count in full where they slow with it even there: a tool holds its pitch. A driven
    wheel must show them without the third that holds most of them: at one speed engine or gears may lie where they are
    due. What is too weak to tell from such luck is not asked, and on the road nothing: a bend may bring out a mark.
    """
    if found.situation.situation == "road":
        return found
    spun = found.situation.situation == "stand_spin"
    standing = [one for one in found.families if one.kind in MARKS and one.strength >= (FAINT if spun else CLEAR)]
    if not standing:
        return found
    lead = max(standing, key=lambda f: f.strength)
    part = _fullest_part(taken, turns, lead, longest_s=BURST_S if spun else np.inf)
    if spun and _slows(taken, turns, lead, part):
        return found
    rest = by_order(found, _without(taken, *part), turns, bearings)
    return replace(found, families=tuple(_as_left(f, rest) if f in standing else f for f in found.families))


def _as_left(family: Family, rest: Heard) -> Family:
    left = max((f.strength for f in rest.families if f.kind == family.kind), default=0.0)
    return replace(family, strength=min(family.strength, LASTS * max(left, 0.0)))


def _fullest_part(taken: Taken, turns: WheelTurns, family: Family, *, longest_s: float) -> tuple[float, float]:
    """Return start and end, in s, of the part in which a family's lines carry most power of the swells."""
    first, last = float(turns.times_s[0]), float(turns.times_s[-1])
    length = min(longest_s, MOST_OF_IT * (last - first))
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


def _slows(taken: Taken, turns: WheelTurns, family: Family, part: tuple[float, float]) -> bool:
    """Return whether lines carry clearly more in a part when it is taken on the wheel's course than at one pitch."""
    orders = np.array([order for _, order, _ in family.lines])
    on_course, at_one_pitch = np.zeros(len(OFF)), np.zeros(len(OFF))
    for swell in taken.banded:
        inside = slice(int(part[0] * swell.rate), int(part[1] * swell.rate))
        values = swell.values[inside].astype(np.float64) - 1
        angle = turns.at(np.arange(len(swell.values))[inside] / swell.rate)
        even = np.linspace(angle[0], angle[-1], len(angle))
        each_turn = (len(angle) - 1) / (angle[-1] - angle[0])  # samples
        on_course += _carried(np.interp(even, angle, values), orders / each_turn)
        at_one_pitch += _carried(values, orders / each_turn)
    return bool(on_course.max() > SLOWS * at_one_pitch.max())


def _carried(values: Floats, per_sample: Floats) -> Floats:
    """Return the power of lines at so many periods a sample, for each of `OFF` of the speed; shape (offs,)."""
    padded = scipy.fft.next_fast_len(4 * len(values), real=True)
    power = np.square(np.abs(scipy.fft.rfft(values * np.hanning(len(values)), padded)))
    places = np.rint(per_sample[:, None] * (1 + OFF) * padded).astype(np.int64)
    return np.asarray(power[np.minimum(places, len(power) - 1)].sum(axis=0))


def _without(taken: Taken, start_s: float, end_s: float) -> Taken:
    """Return a recording with nothing but their mean in all bands' swells for a part of it."""
    rest = replace(taken, banded=tuple(_even(one, start_s, end_s) for one in taken.banded))
    vars(rest)["traces"] = taken.traces  # they are of the sound, which stays: made once
    return rest


def _even(swell: Swell, start_s: float, end_s: float) -> Swell:
    inside = slice(int(start_s * swell.rate), int(end_s * swell.rate))
    values, loud = swell.values.copy(), swell.loud.copy()
    values[inside], loud[inside] = values.mean(), loud.mean()
    return replace(swell, values=values, loud=loud)
