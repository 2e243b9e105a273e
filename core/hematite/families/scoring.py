"""Scoring: combs laid on the order spectra of several bands, and held against chance in the same recording.

The score of a comb is the mean height, in dB over the floor, of its harmonics and side lines, each looked for in a
window that covers slip and the spread of the stated speed. What a score is worth is read from the same recording: the
same comb laid at hundreds of orders where nothing is due gives the spread of chance, band by band and then for the best
band of all; `strength` counts robust standard deviations above its middle.
"""

import copy
import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import numpy.typing as npt
from scipy import ndimage, stats

from hematite.bearings import Row, fault_orders
from hematite.envelopes import OrderSpectrum
from hematite.families.combs import CLEAR, Comb, Family, combs
from hematite.families.whole import robust_spread

Floats = npt.NDArray[np.float64]

SLIP = 0.02  # real bearings slip by 1–2 %: Randall & Antoni, MSSP 25 (2011) 485–520
CEILING_DB = 25.0  # one giant line must not stand for a whole family; judgement
WHOLE_ORDER = 0.06  # lines this close to a whole order belong to wheel, tyre or brake first
WHOLE_SMEAR, WIDEST_WHOLE = 0.012, 0.2  # strong ones smear with what is left of the speed's wandering; judgement
LEAST_SPREAD_DB = 0.5  # a short recording's chance may look narrower than it is; judgement
LEAST_SPREAD = 0.6  # the same for the best of several bands, in standard deviations
SPARSE_ORDER = 1.5  # combs above it leave most of the spectrum untouched
BEST_OF_MANY = 2.5  # the best of some two hundred looks stands this much higher by chance alone
BUSY_DB = 6.0  # mean height of a comb above which its lines are not taken for hiss; judgement
NEIGHBOURS = 7  # whole orders around one, itself among them: more than a turning mark's side lines
MIN_REST = 50  # bins that must be left to measure chance by
STRIDE = 7919  # a prime, so that what is filled in comes from everywhere
SIDES_MUTED = 3  # side lines, either way, that a strong modulation shows
DECOYS = np.geomspace(1.6, 14.0, 240)
LEAST_UNKNOWN = 2.2  # the outer race of a bearing of six elements
LEAST_CAGE_TURNS = 5.0  # of four and fewer hiss, or a scrape, looks like a cage as often as not; measured
SOFT_SHARE = 0.3  # of the first two harmonics' height in the next two, at most; judgement
SOFT = "soft, without higher harmonics"
NEAR_BEST = 0.7  # a comb at half the order that scores this share of the best is the fundamental; judgement
SIDES_DB = 4.0  # side lines stand when they are this much over the lines half an order further out; judgement


class Scorer:
    """Lays combs on the order spectra of several bands, all on one axis. `spread`: relative doubt of the speed.

    `wheel` says what is heard of the wheel itself. "hum": a tyre, and every whole order is its own. "scrape": a brake,
    or a mark that the turning ring carries through the load; its whole orders fall off smoothly, so what stands out of
    their neighbours may still be a ring mark near a whole order. "": only the first two orders are taken, as every
    wheel is a little out of round. `smear`: how far, relatively, whole orders may lie from whole.
    """

    def __init__(
        self, spectra: Sequence[OrderSpectrum], *, spread: float, wheel: str, smear: float = WHOLE_SMEAR
    ) -> None:
        self.orders = spectra[0].orders
        self._step = spectra[0].step
        each = np.clip(np.stack([s.db() for s in spectra]), 0.0, CEILING_DB)
        together = np.clip(np.mean([s.db() for s in spectra], axis=0), 0.0, CEILING_DB)
        self._db = np.vstack([each, together[None]])
        self._power = np.stack([s.power for s in spectra])
        around = np.maximum(max(WHOLE_ORDER, 2.5 * self._step), smear * self.orders)
        self._taken = np.abs(self.orders - np.round(self.orders)) < np.minimum(around, WIDEST_WHOLE)
        if not wheel:
            self._taken &= self.orders < 2.5
        self._wheel = wheel
        self._busy = np.zeros(len(self.orders), dtype=bool)
        self._clean = self._over_neighbours() if wheel == "scrape" else np.where(self._taken, 0.0, self._db)
        self.reach = spread + SLIP
        self._scales = np.arange(1 - self.reach, 1 + self.reach, 0.0025)

    def _over_neighbours(self) -> Floats:
        """Return heights, those at whole orders less the middle height of the whole orders around each."""
        whole = np.arange(0, int(self._highest) + 1)
        near = np.round(self.orders).astype(np.int64)
        heights = np.stack([self._db[:, self._taken & (near == k)].max(axis=1, initial=0.0) for k in whole], axis=1)
        typical = ndimage.median_filter(heights, size=(1, NEIGHBOURS), mode="nearest")
        typical[:, :3] = CEILING_DB  # the first two orders are the wheel's own
        above = np.clip(self._db - typical[:, np.minimum(near, len(whole) - 1)], 0.0, None)
        return np.where(self._taken, above, self._db)

    def busy(self, due: Sequence[Comb]) -> "Scorer":
        """Return a scorer that measures chance away from every comb that stands high: one fault's lines are no hiss."""
        tops = self._tops(self._clean)
        gone = np.zeros(len(self.orders), dtype=bool)
        for comb in due:
            scores = self._scores(comb, np.array([comb.order]), tops)[:, 0].max(axis=0)
            if scores.max() >= BUSY_DB:
                gone |= self._own_lines(comb, float(self._scales[scores.argmax()]))
        rest = copy.copy(self)
        rest._busy = gone
        return rest

    def without(self, family: Family, *, side: float) -> "Scorer":
        """Return a scorer from whose spectra a family's lines, all its harmonics and side lines, are taken out."""
        rest = copy.copy(self)
        own = self._own_lines(Comb(family.kind, family.found_order, side), 1.0)
        rest._taken = self._taken | own
        rest._clean = np.where(own, 0.0, self._clean)
        return rest

    @property
    def _highest(self) -> float:
        return float(self.orders[-1])

    def _tops(self, db: Floats) -> Floats:
        """Return running maxima of height curves, shape (reach, bands, n): the greatest within 0, 1, 2 … steps."""
        widest = int(self._reach(np.array(self._highest)))
        return np.stack([ndimage.maximum_filter1d(db, 2 * r + 1, axis=-1) for r in range(widest + 1)])

    def _reach(self, orders: Floats) -> npt.NDArray[np.int64]:
        """Return how many steps around an order still count as that line: half a percent, at least one step."""
        return np.maximum(0.005 * orders / self._step, 1.0).round().astype(np.int64)

    def _heights(self, orders: Floats, tops: Floats) -> Floats:
        """Return the height found at each order in each band, shape (bands, *orders.shape); NaN beyond the axis."""
        inside = (orders > 0.2) & (orders < self._highest)
        safe = np.where(inside, orders, 1.0)
        centre = np.clip((safe / self._step).round().astype(np.int64), 0, tops.shape[-1] - 1)
        found = np.moveaxis(tops[self._reach(safe), :, centre], -1, 0)
        return np.asarray(np.where(inside, found, np.nan))

    def _scores(self, comb: Comb, orders: Floats, tops: Floats) -> Floats:
        """Return the comb's score in dB laid at each of `orders`, for every scale: shape (bands, orders, scales)."""
        first = orders[:, None] * self._scales
        multiples = np.arange(1.0, comb.harmonics + 1)[:, None, None]
        scores = np.nanmean(self._heights(np.asarray(multiples * first), tops), axis=1)
        if comb.side:
            sides = np.stack([np.abs(first - comb.side), first + comb.side])
            scores = 0.75 * scores + 0.25 * np.nan_to_num(self._heights(sides, tops)).mean(axis=1)
        return np.asarray(scores)

    def _own_lines(self, comb: Comb, scale: float) -> npt.NDArray[np.bool_]:
        """Return where a comb's lines lie, also those beyond its own harmonics and further side lines; shape (n,).

        Not so for a cage: its lines stand so close that nothing would be left to measure chance by.
        """
        sparse = comb.order > SPARSE_ORDER
        beyond = int(self._highest / comb.order) if sparse else comb.harmonics
        own = np.zeros(len(self.orders), dtype=bool)
        for m in range(1, SIDES_MUTED + 1 if sparse and comb.side else 2):
            for _, order in replace(comb, harmonics=beyond, side=m * comb.side).lines(scale, self._highest):
                own |= np.abs(self.orders - order) <= 0.012 * order + 2 * self._step
        return own

    def _hiss(self, comb: Comb, scale: float) -> Floats:
        """Return heights as they would be without the comb's lines and what is taken: filled with the rest's own."""
        gone = self._taken | self._busy | self._own_lines(comb, scale)
        rest = np.flatnonzero(~gone)
        if len(rest) < MIN_REST:
            return self._clean
        filled = self._db.copy()
        filled[:, gone] = self._db[:, rest[np.arange(gone.sum()) * STRIDE % len(rest)]]
        return filled

    def _chance(self, comb: Comb, scale: float) -> tuple[Floats, Floats, float, float]:
        """Return what the same comb earns where nothing is due: middles and spreads by band, and those of the best."""
        earned = self._scores(comb, DECOYS, self._tops(self._hiss(comb, scale))).max(axis=-1)
        middles = np.median(earned, axis=1)
        spreads = np.maximum(stats.median_abs_deviation(earned, axis=1, scale="normal"), LEAST_SPREAD_DB)
        best = ((earned - middles[:, None]) / spreads[:, None]).max(axis=0)
        middle = float(np.median(best))
        return middles, spreads, middle, robust_spread(best, LEAST_SPREAD)

    def family(self, comb: Comb, *, row: str = "") -> Family:
        """Return the family that a comb finds, in the band where it stands out most."""
        scores = self._scores(comb, np.array([comb.order]), self._tops(self._clean))[:, 0]
        rough = float(self._scales[np.unravel_index(scores.argmax(), scores.shape)[1]])
        middles, spreads, middle, spread = self._chance(comb, rough)
        standing = (scores - middles[:, None]) / spreads[:, None]
        band, at = np.unravel_index(standing.argmax(), standing.shape)
        scale = float(self._scales[at])
        lines = comb.lines(scale, self._highest)
        places = np.array([order for _, order in lines])
        heights = self._heights(places, self._tops(self._db))[band]
        return Family(
            kind=comb.kind,
            order=comb.order,
            found_order=comb.order * scale,
            score_db=float(scores[band, at]),
            strength=float((standing[band, at] - middle) / spread),
            lines=tuple((name, order, float(h)) for (name, order), h in zip(lines, heights, strict=True)),
            power_db=self.power_db(places),
            row=row,
            hump_db=self._hump_db(comb.order * scale, int(band)),
        )

    def _hump_db(self, order: float, band: int) -> float | None:
        """Return the lesser height of the first two harmonics over the whole orders around; None away from those.

        A scrape is one stroke a turn: its whole orders fall off, or have lobes whose doubles are not lobes too.
        """
        twice = np.array([order, 2 * order])
        near = self._taken[np.minimum((twice / self._step).round().astype(np.int64), len(self._taken) - 1)]
        if self._wheel != "scrape" or not near.all():
            return None
        return float(self._heights(twice, self._tops(self._clean))[band].min())

    def best_unknown(self) -> float:
        """Return the order at which a plain comb stands highest over its band's chance; the fundamental of several."""
        orders = DECOYS[DECOYS > LEAST_UNKNOWN]
        scores = self._scores(Comb("some_ring", 0.0), orders, self._tops(self._clean))
        over = (scores - np.median(scores, axis=(1, 2), keepdims=True)).max(axis=0)
        at, scale = np.unravel_index(over.argmax(), over.shape)
        best = float(orders[at] * self._scales[scale])
        for part in (3, 2):
            near = np.abs(orders * part / best - 1) < 0.02
            first = self._heights(np.array([best / part]), self._tops(self._clean)).max()
            if near.any() and over[near].max() >= NEAR_BEST * over.max() and first >= BUSY_DB:
                return best / part
        return best

    def side_lines_db(self, order: float, side: float) -> float:
        """Return how far lines `side` beside the first two harmonics stand over lines half as far again outside."""
        centres = np.array([order, 2 * order])
        tops = self._tops(self._db)
        due = np.concatenate([centres - side, centres + side])
        between = np.concatenate([centres - 1.5 * side, centres + 1.5 * side, centres - side / 2, centres + side / 2])
        gains = np.nanmean(self._heights(due, tops), axis=1) - np.nanmean(self._heights(between, tops), axis=1)
        return float(gains.max())

    def power_db(self, orders: Sequence[float] | Floats) -> float:
        """Return what lines carry in all bands together, dB of full scale²."""
        index = (np.array(orders) / self._step).round().astype(np.int64)
        peaks = ndimage.maximum_filter1d(self._power, 5, axis=-1)[:, np.clip(index, 0, self._power.shape[1] - 1)]
        return float(10 * np.log10(peaks.sum() + 1e-30))


def bearing_families(
    scorer: Scorer, rows: Sequence[Row], *, rotating: str, turns: float = math.inf
) -> tuple[Family, ...]:
    """Return the families of every known row, the one that leads first; empty when no geometry is known.

    `turns` of the wheel in the recording: in a few of them no cage comes round often enough to be told from chance.

    Where one stands clear, the others are judged without its lines: side lines and near harmonics of one fault would
    else be read as a second.
    """
    due: list[tuple[Comb, str]] = []
    for row in rows:
        for comb in combs(fault_orders(row, rotating=rotating)):
            if comb.kind == "cage" and comb.order * turns < LEAST_CAGE_TURNS:
                continue
            if comb not in [known for known, _ in due]:  # two rows are often alike
                due.append((comb, row.name))
    scorer = scorer.busy([comb for comb, _ in due])
    found = sorted((_hard_or_soft(scorer, comb, name) for comb, name in due), key=_rank, reverse=True)
    if not found or found[0].strength < CLEAR:
        return tuple(found)
    lead, side = _told_by_side_lines(scorer, found[0], due)
    rest = scorer.without(lead, side=side)
    others = [_hard_or_soft(rest, comb, name) for comb, name in due if (comb.kind, name) != (lead.kind, lead.row)]
    return (lead, *sorted(others, key=_rank, reverse=True))


def _told_by_side_lines(scorer: Scorer, lead: Family, due: Sequence[tuple[Comb, str]]) -> tuple[Family, float]:
    """Return the lead and its side lines' spacing, once families due at the same order have been told apart by those.

    A ring that stands still leaves none, one that turns leaves them a turn apart, a ball a cage turn apart.
    """
    same = [(c, name) for c, name in due if c.kind != "cage" and abs(c.order / lead.found_order - 1) <= scorer.reach]
    if len(same) < 2:
        return lead, next(comb.side for comb, name in due if comb.kind == lead.kind and name == lead.row)
    gains = [scorer.side_lines_db(lead.found_order, c.side) if c.side else SIDES_DB for c, _ in same]
    comb, name = same[int(np.argmax(gains))]
    if (comb.kind, name) != (lead.kind, lead.row):
        told = scorer.family(comb, row=name)
        lead = replace(told, strength=max(told.strength, lead.strength), note=lead.note)
    return lead, comb.side


def _rank(family: Family) -> tuple[int, float]:
    return family.rank if family.kind != "cage" else (0, family.strength)


def _hard_or_soft(scorer: Scorer, comb: Comb, row: str) -> Family:
    """Return the family of four harmonics, or, where only the first two stand, that of two, noted as soft.

    A mark knocks and so has many harmonics; wear all round swells with every ball and has few.
    """
    hard = scorer.family(comb, row=row)
    heights = {name: height for name, _, height in hard.lines}
    low, high = (heights.get(a, 0.0) + heights.get(b, 0.0) for a, b in (("1×", "2×"), ("3×", "4×")))
    if comb.kind not in ("outer_race", "inner_race") or high > SOFT_SHARE * low:
        return hard
    soft = scorer.family(replace(comb, harmonics=2), row=row)
    if soft.strength < max(hard.strength, CLEAR):
        return hard
    return replace(hard, strength=soft.strength, score_db=soft.score_db, note=SOFT)


def unknown_families(scorer: Scorer, *, rotating: str) -> tuple[Family, ...]:
    """Return the best family of a bearing whose geometry is not known, named by its side lines.

    Lines one turn beside it mean the ring that turns, lines a cage turn beside it a ball or roller, none the ring that
    stands still. An outer race sounds at about 0.4 n, an inner at about 0.6 n a turn for n elements (common
    practice, no source): the numbers of elements that fit are named.
    """
    order = scorer.best_unknown()
    kind, side = _by_side_lines(scorer, order, rotating)
    best = _hard_or_soft(scorer, Comb(kind, order, side), "")
    note = "; ".join(filter(None, (best.note, _implied(best.found_order, kind))))
    return (replace(best, strength=best.strength - BEST_OF_MANY, note=note),)


def _by_side_lines(scorer: Scorer, order: float, rotating: str) -> tuple[str, float]:
    turning = scorer.side_lines_db(order, 1.0)
    cages = np.arange(0.34, 0.48, 0.01)
    carried = np.array([scorer.side_lines_db(order, cage) for cage in cages])
    if max(turning, carried.max()) < SIDES_DB:
        return ("inner_race" if rotating == "outer" else "outer_race"), 0.0
    if turning >= carried.max():
        return ("outer_race" if rotating == "outer" else "inner_race"), 1.0
    return "rolling_element", float(cages[carried.argmax()])


def _implied(order: float, kind: str) -> str:
    if kind == "rolling_element":
        return "a ball or roller: the number of elements does not show"
    share = 0.4 if kind == "outer_race" else 0.6
    likely = sorted({round(order / share * off) for off in (0.95, 1.0, 1.05)})
    return f"it fits {' or '.join(str(n) for n in likely)} balls or rollers"
