"""The song of a final drive: its teeth's order and twice that, each with lines one pinion turn beside it.

The crown wheel turns as fast as the wheels do in the mean, so its teeth are a whole order; the pinion's turns are none,
since pinion and crown wheel share no divisor, that every tooth may meet every other (common practice, no source). In a
bend a hub's own turns are not the crown wheel's: the lines are wide then. A tyre's tread is as high up, but its lines
lie one turn apart without a valley between; so it is the valleys that are asked for.
"""

import math

import numpy as np
from scipy import ndimage

from hematite.envelopes import OrderSpectrum
from hematite.families.combs import Family
from hematite.odds import Floats, Mask

CROWNS, PINIONS = range(28, 57), range(5, 18)  # teeth; common practice, no source
RATIOS = (2.3, 6.5)
SKIRT = 0.4  # orders either way that a line takes in bends; judgement
SIDES = 4  # pinion turns beside the teeth's order that are its own
NAMES = ("1×−", "1×", "1×+", "2×")
LINES = np.array([[1.0, -1.0], [1.0, 0.0], [1.0, 1.0], [2.0, 0.0]])  # of the teeth's order and of the pinion's
VALLEYS = np.array([[[1, -1.5], [1, -0.5]], [[1, -0.5], [1, 0.5]], [[1, 0.5], [1, 1.5]], [[2, -0.5], [2, 0.5]]])
# dB that the lines stand over the higher valley beside them, in the mean: of nothing the best pair of wheels has four.
BY_CHANCE_DB = 4.0  # measured on runs of vehicles without gears
GEARS = "gears"
PAIRS = np.array(
    [(c, c / z) for c in CROWNS for z in PINIONS if RATIOS[0] <= c / z <= RATIOS[1] and math.gcd(c, z) == 1]
).T


def gear_family(hum: OrderSpectrum) -> Family:
    """Return how a final drive's song stands in the sound itself; a dB over what chance makes counts as a nat."""
    width = 2 * int(SKIRT / hum.step) + 1
    carried = ndimage.uniform_filter1d(hum.power, width) * width * hum.step
    db = 10 * np.log10(carried + 1e-30)
    tops = _at(db, hum.step, LINES)
    over = tops - _at(db, hum.step, VALLEYS).max(axis=1)
    stands = np.where(over.min(axis=0) > 0, over.mean(axis=0), 0.0)
    best = int(stands.argmax())
    crown = float(PAIRS[0, best])
    orders = LINES @ PAIRS[:, best]
    lines = tuple((name, float(o), float(h)) for name, o, h in zip(NAMES, orders, over[:, best], strict=True))
    power_db = float(10 * np.log10(np.power(10, tops[:, best] / 10).sum()))
    height = float(stands[best])
    return Family(GEARS, crown, crown, height, max(height - BY_CHANCE_DB, 0.0), lines, power_db)


def song_of(gears: Family, orders: Floats) -> Mask:
    """Return what lies so near a final drive's lines that it may be its song, shape (n,)."""
    below, crown, *_ = (order for _, order, _ in gears.lines)
    pinion = crown - below
    own = [pinion, 2 * pinion, *(k * crown + m * pinion for k in (1, 2) for m in range(-SIDES, SIDES + 1))]
    return np.asarray(np.min([np.abs(orders - order) for order in own], axis=0) <= SKIRT)


def _at(db: Floats, step: float, of_both: Floats) -> Floats:
    """Return the height at multiples of both wheels' orders, shape (…, 2), for every pair: shape (…, pairs)."""
    return np.asarray(db[np.minimum(np.rint(of_both @ PAIRS / step).astype(np.int64), len(db) - 1)])
