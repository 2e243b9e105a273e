"""The shim pack that sets end play from the measured gap, and the fewest shims that make it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from hematite.doors import count, not_negative, positive
from hematite.errors import BadQuantity

USUAL_TOLERANCE_MM = 0.02  # of a pack; judgement
MOST_SHIMS = 6  # judgement: a thicker stack wants a spacer
MOST_SIZES = 40


@dataclass(frozen=True)
class Pack:
    """A pack of shims in millimetres, its thickness, and how far it is from what was wanted."""

    shims_mm: tuple[float, ...]
    total_mm: float
    error_mm: float


def shim_total_mm(*, gap_mm: float, end_play_mm: float, sides: int = 1) -> float:
    """Return the pack: gap plus end play for each side that this pack sets. 3.00 + 2 × 0.05 = 3.10 [practice]."""
    sides = count(sides, "The sides that this pack sets")
    return positive(gap_mm, "The gap in mm") + sides * not_negative(end_play_mm, "The end play in mm")


def shim_pack(
    *, total_mm: float, stock_mm: Sequence[float], tolerance_mm: float = USUAL_TOLERANCE_MM, show: int = 3
) -> tuple[Pack, ...]:
    """Return the packs within tolerance, fewest shims first, then closest. Raises `BadQuantity` for none."""
    wanted = positive(total_mm, "The pack's thickness in mm")
    stock = sorted({positive(shim, "A shim's thickness in mm") for shim in stock_mm}, reverse=True)
    if not stock:
        raise BadQuantity("No shims in the stock list. Enter the thicknesses you have.")
    if len(stock) > MOST_SIZES:
        raise BadQuantity(f"{len(stock)} thicknesses are too many to try; leave out those that cannot matter.")
    packs = [
        Pack(shims, round(sum(shims), 4), round(sum(shims) - wanted, 4))
        for shims in _stacks(stock, wanted, tolerance_mm + 1e-9, MOST_SHIMS)
    ]
    if not packs:
        raise BadQuantity(
            f"No pack of up to {MOST_SHIMS} shims in stock comes within {tolerance_mm:g} mm of {wanted:.2f} mm. "
            "Add other thicknesses."
        )
    return tuple(sorted(packs, key=lambda pack: (len(pack.shims_mm), abs(pack.error_mm)))[:show])


def _stacks(stock: Sequence[float], wanted: float, tolerance: float, most: int) -> Iterator[tuple[float, ...]]:
    """Yield every stack of `stock` (thickest first) within tolerance, none thicker than that tried further."""
    for n, shim in enumerate(stock):
        left = wanted - shim
        if abs(left) <= tolerance:
            yield (shim,)
        if left > tolerance and most > 1 and shim * (most - 1) >= left - tolerance:
            yield from ((shim, *rest) for rest in _stacks(stock[n:], left, tolerance, most - 1))
