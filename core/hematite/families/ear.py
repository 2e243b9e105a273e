"""An ear: the order spectra of every band of one recording, in which combs are laid and held against chance."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from hematite.envelopes import FLOOR_ORDERS, FLOOR_SHARE, LEAST_FLOOR_BINS, OrderSpectrum
from hematite.families.combs import Comb, Family
from hematite.odds import MOST_TONAL, Floats, Mask, held_against, in_some_bands, line_odds, mean_odds, own_share

DECOYS = np.geomspace(1.6, 13.0, 110)
CAGE_DECOYS = np.linspace(0.3, 0.7, 81)
APART, SLIPPED = 0.04, 0.05  # relative distance of a decoy from all that is due: of a cage's, and for slip
LEAST_DECOYS = 30
# Multiples in no proportion to each other: no one's harmonics. Laid for chance in place of 1×, 2×, 3×, 4×.
UNRELATED = np.array(
    [[1.0, s, s * t, s * t * u] for s in (1.63, 1.71, 1.83) for t in (1.37, 1.44) for u in (1.19, 1.3)]
)
WHOLE_APART = 0.05  # its distance from a whole order
OWN_WIDTH, OWN_STEPS = 0.01, 3  # of its order, and of the axis, by which a strong line's skirts reach either way
HALVES = 4  # lines halfway between a comb's that are looked for
SLIGHTLY = np.arange(-0.006, 0.0061, 0.0015)  # as far as the comb's own place may be off
SIDES_OWN = 6  # side lines, either way, that a strong modulation shows
SPARSE_ORDER = 1.5  # combs above it leave most of the spectrum untouched
CEILING_DB = 25.0
WHOLE_ORDER, WIDEST_WHOLE = 0.06, 0.2  # lines this close to a whole order belong to wheel, tyre or brake first
BECAME_WHOLE = 1.0  # nats, at most, of lines that only another speed brings to a whole order; judgement
WHOLE_SMEAR = 0.008  # they smear with what is left of the speed's wandering; judgement


@dataclass(frozen=True)
class Ear:
    """Order spectra on one axis: `knocks` of the bands' swells, `tones` of the low sound itself.

    `spread`: relative doubt of the speed. `muted`, shape (n,): orders that somebody else's lines take. `alone`: nothing
    turns but this wheel, no engine and no gear.
    """

    knocks: tuple[OrderSpectrum, ...]
    tones: OrderSpectrum
    spread: float = 0.0
    muted: Mask | None = None
    alone: bool = False

    @property
    def orders(self) -> Floats:
        """Return the axis, shape (n,)."""
        return self.knocks[0].orders

    @property
    def step(self) -> float:
        """Return the distance between neighbouring orders."""
        return self.knocks[0].step

    @cached_property
    def _knock_odds(self) -> Floats:
        return line_odds(self.knocks, self.muted) * self._own_shares

    @cached_property
    def _own_shares(self) -> Floats:
        """Return how much of what the bands say at each order is each one's own, shape (n,)."""
        reach = np.clip(FLOOR_SHARE * self.orders, LEAST_FLOOR_BINS * self.step, FLOOR_ORDERS) / self.step
        return own_share(np.log(np.array([one.ratio for one in self.knocks]) + 1e-9), reach)

    @cached_property
    def _tone_odds(self) -> Floats:
        return line_odds([self.tones], self.muted, most=MOST_TONAL)

    def odds(self, *, tonal: bool) -> Floats:
        """Return the odds of lines in the knocks' bands or in the tones, shape (bands, smears, n)."""
        return self._tone_odds if tonal else self._knock_odds

    def without(self, mask: Mask) -> "Ear":
        """Return the same ear deaf to some orders."""
        return self._sharing(replace(self, muted=mask if self.muted is None else self.muted | mask))

    def _sharing(self, other: "Ear") -> "Ear":
        """Return another ear of the same recording, in which the bands have as much in common."""
        vars(other)["_own_shares"] = self._own_shares
        return other

    def own_lines(self, comb: Comb, scale: float, width: float = OWN_WIDTH) -> Mask:
        """Return where a comb's lines lie, those beyond its own harmonics and further side lines too; shape (n,).

        `width`: by how much of its order a harmonic's skirts reach either way; side lines are weaker.
        """
        sparse = comb.order > SPARSE_ORDER
        beyond = int(self.orders[-1] / comb.order) if sparse else comb.harmonics
        own = np.zeros(len(self.orders), dtype=bool)
        for k in range(1, beyond + 1):
            for m in range(-SIDES_OWN, SIDES_OWN + 1) if comb.side and sparse else (0,):
                order = k * comb.order * scale + m * comb.side
                reach = (OWN_WIDTH if m else width) * order + OWN_STEPS * self.step + abs(m) * comb.side * self.spread
                own |= np.abs(self.orders - order) <= reach
        return own

    def near(self, orders: Sequence[float]) -> Mask:
        """Return what lies so near some orders that it may be the skirts of lines there, shape (n,)."""
        found = np.zeros(len(self.orders), dtype=bool)
        for order in orders:
            found |= np.abs(self.orders - order) <= OWN_WIDTH * order + OWN_STEPS * self.step
        return found

    def laid(self, odds: Floats, comb: Comb, bases: Floats, scales: Floats) -> Floats:
        """Return the odds of a comb laid at every base and scale: shape (smears, bases, scales).

        A fault is heard in some of the bands, each with hiss of its own: for each band it is there or not.
        """
        multiples, offsets, weights = comb.due()
        first = bases[:, None] * scales
        return self.at(odds, multiples[:, None, None] * first + offsets[:, None, None], weights)

    def at(self, odds: Floats, orders: Floats, weights: Floats) -> Floats:
        """Return the odds of lines at given orders, shape (lines, *looks), together: shape (smears, *looks).

        Where something else turns too, a line counts no more than in the band that hears it best: a single line of an
        engine or a gear is heard in all of them.
        """
        places = np.rint(orders / self.step).astype(np.int64)
        inside = (places > 0) & (places < odds.shape[-1])
        total = np.zeros((*odds.shape[:2], *orders.shape[1:]))
        each_once = np.zeros(total.shape[1:])
        best = odds.max(axis=0)
        for place, within, weight in zip(places, inside, weights, strict=True):
            total += weight * np.where(within, odds[..., np.where(within, place, 0)], 0.0)
            each_once += weight * np.where(within, best[..., np.where(within, place, 0)], 0.0)
        together = in_some_bands(total)
        return together if self.alone else np.minimum(together, np.maximum(each_once, 0.0))

    def at_halves(self, order: float, *, knocks: bool = True) -> float:
        """Return how much likelier lines stand halfway between a comb's than not, in the knocks or in the tones.

        Of tones all but one: engines and tyres have many, and one lies anywhere by chance.
        """
        places = (np.arange(HALVES) + 0.5)[:, None] * order * (1 + SLIGHTLY)
        tones, heard = (float(mean_odds(self.at(self.odds(tonal=t), places, np.ones(HALVES)))) for t in (True, False))
        return max(tones - MOST_TONAL, heard) if knocks else tones - MOST_TONAL

    def all_along(self, odds: Floats, orders: Floats, count: int) -> Floats:
        """Return the odds of the `count` lines that stand lowest of those at given orders, shape (lines, *looks)."""
        places = np.clip(np.rint(orders / self.step), 0, odds.shape[-1] - 1).astype(np.int64)
        return in_some_bands(np.sort(odds[..., places], axis=2)[:, :, :count].sum(axis=2))

    def family(self, comb: Comb, *, due: Sequence[Comb], row: str = "", tonal: bool = False) -> Family:
        """Return the family that a comb finds, held against the same comb where nothing of all that is `due` lies."""
        odds, scales = self.odds(tonal=tonal), comb.scales(self.spread)
        laid = self.laid(odds, comb, np.array([comb.order]), scales)[:, 0]
        scale = float(scales[laid.sum(axis=0).argmax()])  # wide lines fit at several: the middle fits narrow ones too
        rest = self.as_hiss(self.own_lines(comb, scale) | self.whole_cores()).odds(tonal=tonal)
        usual = comb.usual(scales, self.spread)
        if comb.doubt:  # it is sought in so many places that no others are left
            elsewhere = np.array([mean_odds(self._unrelated(rest, comb, scales, p) + usual) for p in UNRELATED])
        else:
            decoys = _decoys(comb, due, apart=self.spread + SLIPPED)
            elsewhere = mean_odds(self.laid(rest, comb, decoys, scales) + usual, axis=(0, 2))
        strength = held_against(float(mean_odds(laid + usual)), elsewhere)
        if self._became_whole(comb.order, comb.order * scale):
            strength = min(strength, BECAME_WHOLE)
        return self.told(comb, scale, strength, row=row, tonal=tonal)

    def _unrelated(self, odds: Floats, comb: Comb, scales: Floats, parts: Floats) -> Floats:
        """Return the odds of a comb whose harmonics stand in no proportion, laid at every scale: (smears, scales)."""
        multiples, offsets, weights = comb.due()
        orders = parts[multiples.astype(np.int64) - 1][:, None] * comb.order * scales + offsets[:, None]
        return self.at(odds, orders, weights)

    def as_hiss(self, mask: Mask) -> "Ear":
        """Return the same ear with hiss where the mask is, as chance alone would fill it; each band has its own."""
        chance = np.random.default_rng(0)
        knocks = tuple(one.as_hiss(mask, chance) for one in self.knocks)
        return self._sharing(replace(self, knocks=knocks, tones=self.tones.as_hiss(mask, chance)))

    def told(self, comb: Comb, scale: float, strength: float, *, row: str = "", tonal: bool = False) -> Family:
        """Return a family as it is told: its lines in the band where they stand highest, and what they carry."""
        named = comb.lines(scale, float(self.orders[-1]))
        spectra = [self.tones] if tonal else list(self.knocks)
        heights = np.array([self._heights(one.db(), [order for _, order in named]) for one in spectra])
        best = heights[np.minimum(heights, CEILING_DB).mean(axis=1).argmax()] if named else np.zeros(0)
        power = sum(float(self._heights(one.power, [order for _, order in named]).sum()) for one in spectra)
        return Family(
            kind=comb.kind,
            order=comb.order,
            found_order=comb.order * scale,
            score_db=float(np.clip(best, 0.0, CEILING_DB).mean()) if len(best) else 0.0,
            strength=strength,
            lines=tuple((name, order, float(height)) for (name, order), height in zip(named, best, strict=True)),
            power_db=float(10 * np.log10(power + 1e-30)),
            row=row,
        )

    def _heights(self, values: Floats, orders: Sequence[float]) -> Floats:
        """Return the highest value within half a percent of each order, at least one step either way."""
        reach = [max(round(0.005 * order / self.step), 1) for order in orders]
        places = [min(round(order / self.step), len(values) - 1) for order in orders]
        return np.array([values[max(at - far, 0) : at + far + 1].max() for at, far in zip(places, reach, strict=True)])

    def _became_whole(self, due: float, found: float) -> bool:
        """Return whether lines were found at a whole order where none was due: the wheel's own, at another speed."""
        reach = min(max(WHOLE_SMEAR * found, 2.5 * self.step), WHOLE_ORDER)
        return abs(found - round(found)) < reach <= abs(due - round(due))

    def whole_cores(self) -> Mask:
        """Return the middles of the whole orders, shape (n,): their skirts are part of what chance makes."""
        return np.asarray(np.abs(self.orders - np.round(self.orders)) < max(WHOLE_ORDER, 2.5 * self.step))

    def whole_orders(self) -> Mask:
        """Return what lies so near a whole order that it may be the wheel's, shape (n,)."""
        reach = np.clip(WHOLE_SMEAR * self.orders, max(WHOLE_ORDER, 2.5 * self.step), WIDEST_WHOLE)
        return np.asarray(np.abs(self.orders - np.round(self.orders)) < reach)


def _decoys(comb: Comb, due: Sequence[Comb], *, apart: float) -> Floats:
    """Return orders at which nothing is due: not near any comb, its half or its first multiples, nor a whole order."""
    if comb.kind == "cage":
        near = [one.order for one in due if one.kind == "cage"] + [0.5]
        return CAGE_DECOYS[np.all([np.abs(CAGE_DECOYS / order - 1) > APART for order in near], axis=0)]
    taken = [one.order * part for one in due if one.kind != "cage" for part in (0.5, 1.0, 2.0, 3.0, 4.0)]
    away = np.min([np.abs(DECOYS / order - 1) for order in taken], axis=0)
    whole = np.abs(DECOYS - np.round(DECOYS)) <= WHOLE_APART
    free = (away > apart) & ~whole
    if free.sum() >= LEAST_DECOYS:
        return np.asarray(DECOYS[free])
    # where so much is due, those furthest from it
    furthest = np.argsort(np.where(whole, 0.0, -away))[:LEAST_DECOYS]
    return np.asarray(DECOYS[furthest])
