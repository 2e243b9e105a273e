"""The shim pack that sets end play from the measured gap, and the fewest shims that make it."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from hematite.doors import count, not_negative, positive
from hematite.errors import BadQuantity
from hematite.language import say
from hematite.tables import table

USUAL_TOLERANCE_MM = 0.02  # of a pack; judgement
MOST_SHIMS = 6  # judgement: a thicker stack wants a spacer
MOST_SIZES = 40
MOST_STEPS = 200_000  # of the search, less than half a second; judgement
TILT_MM = 0.05  # between places of one gap: more is a ring or plate that does not sit; judgement
LEAST_PLACES = 3  # common practice, no source
THICKEST_MM = 50.0


@dataclass(frozen=True)
class Gap:
    """A gap measured at several places: its mean and how far they differ, in millimetres."""

    mean_mm: float
    spread_mm: float


@dataclass(frozen=True)
class Pack:
    """A pack of shims in millimetres, its thickness, and how far it is from what was wanted."""

    shims_mm: tuple[float, ...]
    total_mm: float
    error_mm: float


def measured_gap(places_mm: Sequence[object]) -> Gap:
    """Return the gap from depths at three or more places. Raises `BadQuantity` where they tell of a tilt."""
    places = [positive(value, say("A depth in mm")) for value in places_mm]
    if len(places) < LEAST_PLACES:
        raise BadQuantity(
            say(
                "Measure at {least_places} places round the ring at least; got {places}.",
                least_places=LEAST_PLACES,
                places=len(places),
            )
        )
    spread = max(places) - min(places)
    if spread > TILT_MM:
        raise BadQuantity(
            say(
                "The places differ by {spread:.2f} mm: the ring or the plate stands askew, or there is dirt "
                "under it. Seat it, and measure again.",
                spread=spread,
            )
        )
    return Gap(sum(places) / len(places), spread)


def shim_total_mm(*, gap_mm: float, end_play_mm: float, sides: int = 1) -> float:
    """Return the pack: gap plus end play for each side that this pack sets. 3.00 + 2 × 0.05 = 3.10 [practice]."""
    sides = count(sides, say("The sides that this pack sets"))
    return positive(gap_mm, say("The gap in mm")) + sides * not_negative(end_play_mm, say("The end play in mm"))


def shim_pack(
    *,
    total_mm: float,
    stock_mm: Sequence[float] | Mapping[float, int | None],
    tolerance_mm: float = USUAL_TOLERANCE_MM,
    show: int = 3,
) -> tuple[Pack, ...]:
    """Return the packs within tolerance, fewest shims first, then closest. Raises `BadQuantity` for none.

    `stock_mm`: the thicknesses there are, or how many there are of each; None where nobody counted.
    """
    wanted = _wanted(total_mm)
    packs = _packs(_stock(stock_mm), wanted, tolerance_mm, MOST_SHIMS, show)
    if not packs:
        raise BadQuantity(
            say(
                "No pack of up to {most_shims} shims in stock comes within {tolerance_mm:g} mm of {wanted:.2f} "
                "mm. Add other thicknesses.",
                most_shims=MOST_SHIMS,
                tolerance_mm=tolerance_mm,
                wanted=wanted,
            )
        )
    return tuple(packs)


def to_order(
    *,
    total_mm: float,
    stock_mm: Sequence[float] | Mapping[float, int | None],
    tolerance_mm: float = USUAL_TOLERANCE_MM,
) -> Pack | None:
    """Return the pack that one more shim of a thickness that is sold would make, that shim last; None for none."""
    wanted = _wanted(total_mm)
    stock = _stock(stock_mm, empty=True)
    found = []
    for sold in table("setting/shims.toml")["sold_mm"]:
        left = wanted - sold
        if abs(left) <= tolerance_mm + 1e-9:
            found.append(Pack((sold,), sold, round(sold - wanted, 4)))
        elif left > 0 and stock:
            packs = _packs(stock, left, tolerance_mm, MOST_SHIMS - 1, 1)
            found += [Pack((*p.shims_mm, sold), round(p.total_mm + sold, 4), p.error_mm) for p in packs]
    return min(found, key=lambda pack: (len(pack.shims_mm), abs(pack.error_mm)), default=None)


def _wanted(total_mm: object) -> float:
    wanted = positive(total_mm, say("The pack's thickness in mm"))
    if wanted > THICKEST_MM:
        raise BadQuantity(
            say("A pack of {wanted:g} mm is a spacer, not shims. Check the unit and the decimal point.", wanted=wanted)
        )
    return wanted


def _stock(given: Sequence[float] | Mapping[float, int | None], *, empty: bool = False) -> list[tuple[float, int]]:
    """Return thicknesses with how many there are, the thickest first. Raises `BadQuantity`."""
    counts = dict(given) if isinstance(given, Mapping) else dict.fromkeys(given)
    rows = {positive(mm, say("A shim's thickness in mm")): _many(n) for mm, n in counts.items()}
    stock = [(mm, n) for mm, n in sorted(rows.items(), reverse=True) if n]
    if not stock and not empty:
        raise BadQuantity(say("No shims in the stock list. Enter the thicknesses you have."))
    if len(stock) > MOST_SIZES:
        raise BadQuantity(
            say("{stock} thicknesses are too many to try; leave out those that cannot matter.", stock=len(stock))
        )
    return stock


def _many(value: object) -> int:
    return MOST_SHIMS if value is None else min(count(value, say("How many shims there are"), least=0), MOST_SHIMS)


def _packs(stock: Sequence[tuple[float, int]], wanted: float, tolerance: float, most: int, show: int) -> list[Pack]:
    """Return packs of few shims first, until there are enough to show. Raises `BadQuantity` where it takes too long."""
    found: list[Pack] = []
    left = [MOST_STEPS]
    for number in range(1, most + 1):
        for shims in _stacks(stock, wanted, tolerance + 1e-9, number, left):
            found.append(Pack(shims, round(sum(shims), 4), round(sum(shims) - wanted, 4)))
        if len(found) >= show:
            break
        if left[0] < 0 and not found:
            raise BadQuantity(say("So many thicknesses are too many to try; leave out those that cannot matter."))
    return sorted(found, key=lambda pack: (len(pack.shims_mm), abs(pack.error_mm)))[:show]


def _stacks(
    stock: Sequence[tuple[float, int]], wanted: float, tolerance: float, number: int, left: list[int]
) -> Iterator[tuple[float, ...]]:
    """Yield every stack of so many shims within tolerance, thickest first; `left` counts down what may be tried."""
    for n, (shim, there) in enumerate(stock):
        left[0] -= 1
        if left[0] < 0 or shim * number < wanted - tolerance:
            return
        if number == 1:
            if abs(wanted - shim) <= tolerance:
                yield (shim,)
        elif stock[-1][0] * (number - 1) <= wanted - shim + tolerance:
            rest = ([(shim, there - 1)] if there > 1 else []) + list(stock[n + 1 :])
            yield from ((shim, *more) for more in _stacks(rest, wanted - shim, tolerance, number - 1, left))
