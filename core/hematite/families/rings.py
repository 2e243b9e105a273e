"""The families of a bearing: marks on its rings, a damaged element, a worn cage, wear all round."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from hematite.bearings import Row, fault_orders
from hematite.families.combs import CLEAR, FAINT, Comb, Family, combs, combs_of_count
from hematite.families.ear import UNRELATED, Ear
from hematite.language import say
from hematite.odds import Floats, held_against, mean_odds

LEAST_CAGE_TURNS = 15.0  # of fewer hiss, or a scrape, looks like a cage too often; measured
LED_WIDTH = 0.025  # of its order: as far as a leading line reaches through bends and slip; judgement
WORN = "many"
WORN_HARMONICS = 3
MARKS = ("outer_race", "inner_race", "rolling_element")
BEARING_KINDS = frozenset((*MARKS, "cage", WORN))
LEAST_UNKNOWN, MOST_UNKNOWN = 2.2, 14.0  # the outer race of a bearing of six elements to the inner one of twenty
UNKNOWN_STEP = 0.002
CAGES = np.arange(0.34, 0.66, 0.01)
MOST_OBLIQUE = np.cos(np.radians(45.0))  # of the contact angle: no wheel bearing's is larger; judgement
NEAR_BEST = 0.7  # a comb at half the order that has this share of the best's odds is the fundamental; judgement


def bearing_families(
    ear: Ear, rows: Sequence[Row], *, rotating: str, counts: Sequence[int] = (), turns: float = math.inf
) -> tuple[Family, ...]:
    """Return the families of every known row, the one that leads first; empty when no geometry is known.

    `counts`: elements of rows of which no more is known; two of as many are one.

    `turns` of the wheel in the recording: in a few of them no cage comes round often enough to be told from chance.
    Where one stands clear, the others are judged without its lines: side lines and near harmonics of one fault would
    else be read as a second. A cage carries every damaged ball past its mark: it leads only where no ring or ball does.
    """
    named: list[tuple[Comb, str]] = []
    for row in rows:
        for comb in combs(fault_orders(row, rotating=rotating)):
            if comb.kind == "cage" and comb.order * turns < LEAST_CAGE_TURNS:
                continue
            if comb not in [known for known, _ in named]:  # two rows are often alike
                named.append((comb, row.name))
    named += [(comb, "") for n in sorted(set(counts)) for comb in combs_of_count(n, rotating=rotating)]
    due = [comb for comb, _ in named]
    tried = [(comb, row, False) for comb, row in named]
    tried += [(_worn(comb), row, True) for comb, row in named if comb.kind in ("outer_race", "inner_race")]
    told: list[Family] = []
    before: dict[tuple[str, str, float], float] = {}
    while tried:
        found = [ear.family(comb, due=due, row=row, tonal=tonal) for comb, row, tonal in tried]
        # to be deaf to what is explained makes nothing else stronger
        found = [replace(f, strength=min(f.strength, before.get((f.kind, f.row, f.order), np.inf))) for f in found]
        before = {(f.kind, f.row, f.order): f.strength for f in found}
        lead = max(range(len(found)), key=lambda n: _leads(found[n]))
        if found[lead].strength < CLEAR:
            return (*told, *sorted(found, key=_leads, reverse=True))
        told.append(found[lead])
        comb, _, _ = tried.pop(lead)
        ear = ear.without(ear.own_lines(comb, found[lead].found_order / found[lead].order, LED_WIDTH))
    return tuple(told)


def _leads(family: Family) -> tuple[int, float]:
    """Return what families are ranked by: a clear mark first, whose ring may sing besides; a cage last."""
    if family.kind in MARKS and family.strength >= CLEAR:
        return 2, family.strength
    return int(family.kind != "cage" and family.strength >= FAINT), family.strength


def _worn(comb: Comb) -> Comb:
    """Return the lines that a ring worn wavy all round sings: its order and the next two, as tones."""
    return replace(comb, kind=WORN, side=0.0, harmonics=WORN_HARMONICS)


def surest_first(families: Sequence[Family]) -> list[Family]:
    """Return families as they are told: a clear mark first, as it may beat once a turn by itself, then by odds."""
    return sorted(families, key=lambda f: (f.kind in MARKS and f.standing == "clear", f.odds), reverse=True)


def unknown_families(ear: Ear, *, rotating: str) -> tuple[Family, Family]:
    """Return the best marks and the best wear of a bearing whose geometry is not known, named by its side lines.

    Lines one turn beside it mean the ring that turns, lines a cage turn beside it a ball or roller, none the ring that
    stands still. An outer race sounds at about 0.4 n, an inner at about 0.6 n a turn for n elements (common
    practice, no source): the numbers of elements that fit are named.
    """
    return _blind(ear, rotating, tonal=False), _blind(ear, rotating, tonal=True)


def _blind(ear: Ear, rotating: str, *, tonal: bool) -> Family:
    plain = Comb(WORN if tonal else "some_ring", 1.0, harmonics=WORN_HARMONICS if tonal else 4)
    bases = np.exp(np.arange(np.log(LEAST_UNKNOWN), np.log(MOST_UNKNOWN), UNKNOWN_STEP))
    bases = bases[np.abs(bases - np.round(bases)) > 0.03]
    odds = ear.odds(tonal=tonal)
    laid = ear.laid(odds, plain, bases, np.ones(1))[..., 0]
    best = _fundamental(bases, laid.sum(axis=0))
    kind, side = (WORN, 0.0) if tonal else _by_side_lines(ear, best, rotating)
    own = ear.own_lines(replace(plain, order=best, side=side), 1.0)
    rest = ear.as_hiss(own | ear.whole_cores()).odds(tonal=tonal)
    elsewhere = np.array([_unrelated(ear, rest, bases, parts[: plain.harmonics]) for parts in UNRELATED])
    strength = held_against(float(mean_odds(laid)), elsewhere)
    found = ear.told(replace(plain, kind=kind, order=best, side=side), 1.0, strength, tonal=tonal)
    return replace(found, note="" if tonal else _implied(best, kind), blind=True)


def _unrelated(ear: Ear, odds: Floats, bases: Floats, parts: Floats) -> float:
    return float(mean_odds(ear.at(odds, parts[:, None] * bases, np.ones(len(parts)))))


def _fundamental(bases: Floats, odds: Floats) -> float:
    best = float(bases[odds.argmax()])
    for part in (3, 2):
        near = np.abs(bases * part / best - 1) < 0.005
        if near.any() and odds[near].max() >= NEAR_BEST * odds.max():
            return float(bases[near][odds[near].argmax()])
    return best


def _by_side_lines(ear: Ear, order: float, rotating: str) -> tuple[str, float]:
    """Return what an unknown bearing's lines are of, by the spacing of the lines beside the first two.

    What a smeared line's own skirts hold stands higher still at half the spacing.
    """

    def stands(side: float) -> float:
        places = [k * order + sign * side for k in (1, 2) for sign in (-1, 1)]
        at = np.clip(np.rint(np.array(places) / ear.step), 0, len(ear.orders) - 1).astype(np.int64)
        return float(ear.odds(tonal=False)[..., at].sum(axis=-1).max())

    cages = _cages_of(order, rotating)
    turning, carried = stands(1.0), [stands(cage) - max(stands(cage / 2), 0.0) for cage in cages]
    standing_ring, turning_ring = ("inner_race", "outer_race") if rotating == "outer" else ("outer_race", "inner_race")
    if max(turning, *carried, 0.0) < FAINT + np.log(1 + len(cages)):
        return standing_ring, 0.0
    if turning >= max(carried, default=0.0):
        return turning_ring, 1.0
    return "rolling_element", float(cages[int(np.argmax(carried))])


def _cages_of(order: float, rotating: str) -> Floats:
    """Return the cage orders that go with a ball's or roller's order, it touching one ring or both a turn; shape (n,).

    Both follow from the elements' share γ of the pitch circle along the contact: cage (1 ∓ γ)/2, element (1 - γ²)/γ
    for both rings, times the cosine of the contact angle: the formulas of `bearings.geometry`.
    """
    share = (2 * CAGES - 1) if rotating == "outer" else (1 - 2 * CAGES)
    usual = share > 0.05  # of a thinner element nobody builds a wheel bearing
    both = (1 - np.square(share[usual])) / share[usual]
    fits = [(MOST_OBLIQUE * both < touches * order) & (touches * order < both * 1.02) for touches in (1, 2)]
    return np.asarray(CAGES[usual][np.logical_or(*fits)])


def _implied(order: float, kind: str) -> str:
    if kind == "rolling_element":
        return say("a ball or roller: the number of elements does not show")
    share = 0.4 if kind == "outer_race" else 0.6
    likely = sorted({round(order / share * off) for off in (0.95, 1.0, 1.05)})
    return say("it fits {many} balls or rollers", many=say(" or ").join(str(n) for n in likely))
