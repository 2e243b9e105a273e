"""Fault families: do the lines of a faulty ring, ball or cage stand out of this order spectrum?

The score of a family is the mean height, in dB over the floor, of its harmonics and side lines, each looked for in a
window that covers slip and the spread of the stated speed. What a score is worth is read from the same recording: the
same comb laid at hundreds of orders where nothing is due gives the spread of chance, and `strength` counts robust
standard deviations above its middle.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from hematite.bearings import FaultOrders, Row, fault_orders
from hematite.envelopes import OrderSpectrum

Floats = npt.NDArray[np.float64]

SLIP = 0.02  # real bearings slip by 1–2 %: Randall & Antoni, MSSP 25 (2011) 485–520
HARMONICS = 4
CEILING_DB = 25.0  # one giant line must not stand for a whole family; judgement
WHOLE_ORDER = 0.06  # lines this close to a whole order belong to wheel, tyre or brake first
CLEAR, FAINT = 6.0, 4.0  # robust standard deviations over chance, see docs/method.md
LEAST_SPREAD_DB = 0.5  # a short recording's chance may look narrower than it is; judgement
STANDS_DB = 6.0  # four times the floor's power: a line that stands; judgement
WHOLE_CEILING_DB = 10.0  # so that many middling whole orders tell the speed, not one giant line; judgement
LEAST_WHOLE_LINES = 4  # of the first twelve whole orders
SPARSE_ORDER = 1.5  # combs above it leave most of the spectrum untouched
BEST_OF_MANY = 2.5  # the best of some two hundred looks stands this much higher by chance alone
DECOYS = np.geomspace(1.6, 14.0, 240)


@dataclass(frozen=True)
class Family:
    """One family of lines and how far it stands out of chance.

    `order` is where it was expected, `found_order` where it stood best, `lines` the orders with their heights
    in dB; `power_db` is what its lines carry together, dB of full scale², to compare corners by.
    """

    kind: str
    order: float
    found_order: float
    score_db: float
    strength: float
    lines: tuple[tuple[str, float, float], ...]
    power_db: float = -300.0
    row: str = ""

    @property
    def standing(self) -> str:
        """Return 'clear', 'faint' or 'nothing'."""
        return "clear" if self.strength >= CLEAR else "faint" if self.strength >= FAINT else "nothing"


@dataclass(frozen=True)
class Comb:
    """Where a family's lines are due: harmonics of `order`, each with side lines at ±`side` when that is not zero."""

    kind: str
    order: float
    side: float = 0.0
    harmonics: int = HARMONICS

    def lines(self, scale: float, highest: float) -> list[tuple[str, float]]:
        """Return (name, order) of every line up to `highest`, with the fundamental moved by `scale`."""
        named: list[tuple[str, float]] = []
        for k in range(1, self.harmonics + 1):
            centre = k * self.order * scale
            named.append((f"{k}×", centre))
            if self.side:
                named += [(f"{k}×−", centre - self.side), (f"{k}×+", centre + self.side)]
        return [(name, order) for name, order in named if 0.2 < order < highest]


def combs(orders: FaultOrders) -> tuple[Comb, ...]:
    """Return the four combs of one row. The turning ring's faults carry side lines one wheel turn apart.

    Source: Randall & Antoni (2011), section 2: a defect that passes through the load zone is amplitude-modulated.
    """
    outer_side = 1.0 if orders.rotating == "outer" else 0.0
    inner_side = 1.0 if orders.rotating == "inner" else 0.0
    return (
        Comb("outer_race", orders.bpfo, outer_side),
        Comb("inner_race", orders.bpfi, inner_side),
        Comb("rolling_element", orders.rolling, orders.ftf),
        Comb("cage", orders.ftf, harmonics=3),
    )


class Scorer:
    """Lays combs on one order spectrum. `spread` is the relative uncertainty of the wheel's speed."""

    def __init__(self, spectrum: OrderSpectrum, *, spread: float) -> None:
        self._spectrum = spectrum
        self._db = np.clip(spectrum.db(), 0.0, CEILING_DB)
        self._clean = _without_whole_orders(spectrum, self._db)
        reach = spread + SLIP
        self._scales = np.arange(1 - reach, 1 + reach, 0.0025)

    @property
    def _highest(self) -> float:
        return float(self._spectrum.orders[-1])

    def _tops(self, db: Floats) -> Floats:
        """Return running maxima of a height curve, shape (reach, n): the greatest within 0, 1, 2 … steps."""
        widest = self._reach(np.array(self._highest))
        return np.stack([ndimage.maximum_filter1d(db, 2 * r + 1) for r in range(int(widest) + 1)])

    def _reach(self, orders: Floats) -> npt.NDArray[np.int64]:
        """Return how many steps around an order still count as that line: half a percent, at least one step."""
        return np.maximum(0.005 * orders / self._spectrum.step, 1.0).round().astype(np.int64)

    def _heights(self, orders: Floats, tops: Floats) -> Floats:
        """Return the height found at each order, NaN beyond the spectrum; same shape as `orders`."""
        inside = (orders > 0.2) & (orders < self._highest)
        safe = np.where(inside, orders, 1.0)
        centre = (safe / self._spectrum.step).round().astype(np.int64)
        found = tops[self._reach(safe), np.clip(centre, 0, tops.shape[1] - 1)]
        return np.asarray(np.where(inside, found, np.nan))

    def _scores(self, comb: Comb, orders: Floats, tops: Floats) -> Floats:
        """Return the comb's score in dB laid at each of `orders`, for every scale: shape (orders, scales)."""
        first = orders[:, None] * self._scales
        multiples = np.arange(1.0, comb.harmonics + 1)[:, None, None]
        scores = np.nanmean(self._heights(np.asarray(multiples * first), tops), axis=0)
        if comb.side:
            sides = np.stack([np.abs(first - comb.side), first + comb.side])
            scores = 0.75 * scores + 0.25 * np.nan_to_num(self._heights(sides, tops)).mean(axis=0)
        return np.asarray(scores)

    def _without(self, comb: Comb, scale: float) -> Floats:
        """Return the clean heights with all of a comb's lines put to zero, also those beyond its own harmonics.

        Not so for a cage: its lines stand so close that nothing would be left to measure chance by.
        """
        rest = self._clean.copy()
        beyond = int(self._highest / comb.order) if comb.order > SPARSE_ORDER else comb.harmonics
        every = replace(comb, harmonics=beyond)
        for _, order in every.lines(scale, self._highest):
            reach = 0.012 * order + 2 * self._spectrum.step
            rest[np.abs(self._spectrum.orders - order) <= reach] = 0.0
        return rest

    def _chance(self, comb: Comb, scale: float) -> tuple[float, float]:
        """Return middle and robust spread of the best scores that the same comb earns where nothing is due."""
        best = self._scores(comb, DECOYS, self._tops(self._without(comb, scale))).max(axis=1)
        middle = float(np.median(best))
        return middle, max(1.4826 * float(np.median(np.abs(best - middle))), LEAST_SPREAD_DB)

    def family(self, comb: Comb, *, row: str = "") -> Family:
        """Return the family that a comb finds in this spectrum."""
        scores = self._scores(comb, np.array([comb.order]), self._tops(self._clean))[0]
        scale = float(self._scales[scores.argmax()])
        lines = comb.lines(scale, self._highest)
        middle, spread = self._chance(comb, scale)
        heights = self._heights(np.array([order for _, order in lines]), self._tops(self._db))
        return Family(
            kind=comb.kind,
            order=comb.order,
            found_order=comb.order * scale,
            score_db=float(scores.max()),
            strength=(float(scores.max()) - middle) / spread,
            lines=tuple((name, order, float(h)) for (name, order), h in zip(lines, heights, strict=True)),
            power_db=self._power_db([order for _, order in lines]),
            row=row,
        )

    def best_unknown(self, orders: Floats) -> float:
        """Return the order among `orders` at which a plain comb stands highest."""
        scores = self._scores(Comb("some_ring", 0.0), orders, self._tops(self._clean))
        return float(orders[scores.max(axis=1).argmax()])

    def whole_orders(self, kind: str, *, first: int = 1) -> Family:
        """Return the family of whole wheel orders: what a brake's scrape, a tyre's cups or a rim makes."""
        orders = np.arange(float(first), 13.0)
        heights = self._heights(orders, self._tops(self._db))
        between = self._tops(self._clean)
        shifted = [self._heights(orders + shift, between).mean() for shift in np.linspace(0.2, 0.8, 25)]
        middle = float(np.median(shifted))
        spread = max(1.4826 * float(np.median(np.abs(shifted - np.median(shifted)))), LEAST_SPREAD_DB)
        lines = tuple((f"{o:.0f}×", float(o), float(h)) for o, h in zip(orders, heights, strict=True))
        score = float(heights.mean())
        power_db = self._power_db(list(orders))
        return Family(kind, 1.0, 1.0, score, (score - middle) / spread, lines, power_db)

    def _power_db(self, orders: Sequence[float]) -> float:
        index = (np.array(orders) / self._spectrum.step).round().astype(np.int64)
        peaks = ndimage.maximum_filter1d(self._spectrum.power, 5)[np.clip(index, 0, len(self._db) - 1)]
        return float(10 * np.log10(peaks.sum() + 1e-30))


def wheel_scale(spectrum: OrderSpectrum, *, spread: float) -> tuple[float, float]:
    """Return how much faster than stated the wheel turned, read from its own whole orders, and how surely.

    A stated speed is a percent or four off; the comb of whole orders is laid at every speed within `spread`. The best
    is held against the same comb laid between the orders, once its own lines are taken out. Sureness in robust
    standard deviations; zero when fewer than `LEAST_WHOLE_LINES` stand, as the lines of a ring mark, stretched, can
    meet up to three whole orders.
    """
    db = np.clip(spectrum.db(), 0.0, WHOLE_CEILING_DB)
    scales = np.arange(1 - spread, 1 + spread, 0.001)
    places = np.arange(1.0, 13.0)[:, None] * scales
    heights = _comb_heights(db, places, spectrum.step)
    scores = heights.mean(axis=0)
    best = float(scales[scores.argmax()])
    if (heights[:, scores.argmax()] >= STANDS_DB).sum() < LEAST_WHOLE_LINES:
        return best, 0.0
    rest = np.where(_distance_to_whole(spectrum.orders / best, spectrum.step) < 1, 0.0, db)
    shifts = np.linspace(0.0, 1.0, 41)
    between = np.array([_comb_heights(rest, places + s, spectrum.step).mean(axis=0).max() for s in shifts])
    middle = float(np.median(between))
    robust = max(1.4826 * float(np.median(np.abs(between - middle))), LEAST_SPREAD_DB)
    return best, (float(scores.max()) - middle) / robust


def _comb_heights(db: Floats, orders: Floats, step: float) -> Floats:
    return np.asarray(ndimage.maximum_filter1d(db, 3)[(orders / step).round().astype(np.int64)])


def _distance_to_whole(orders: Floats, step: float) -> Floats:
    """Return the distance to the nearest whole order, in units of what still counts as being one."""
    return np.asarray(np.abs(orders - np.round(orders)) / max(WHOLE_ORDER, 2.5 * step))


def _without_whole_orders(spectrum: OrderSpectrum, db: Floats) -> Floats:
    """Return heights with the whole wheel orders put to zero: they are never evidence for a bearing."""
    return np.where(_distance_to_whole(spectrum.orders, spectrum.step) < 1, 0.0, db)


def bearing_families(scorer: Scorer, rows: Sequence[Row], *, rotating: str) -> tuple[Family, ...]:
    """Return the families of every known row, strongest first; empty when no geometry is known."""
    found = [scorer.family(comb, row=row.name) for row in rows for comb in combs(fault_orders(row, rotating=rotating))]
    return tuple(sorted(found, key=lambda family: -family.strength))


def unknown_family(scorer: Scorer) -> Family:
    """Return the best family of a bearing whose geometry is not known: any ring mark between orders 2 and 14.

    An outer race sounds at about 0.4 n, an inner at about 0.6 n a turn for n elements (Randall & Antoni 2011).
    """
    best = scorer.family(Comb("some_ring", scorer.best_unknown(DECOYS[DECOYS > 2])))
    return replace(best, strength=best.strength - BEST_OF_MANY)
