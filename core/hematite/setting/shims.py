"""The shim pack that sets end play from the measured gap, and the fewest shims that make it."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations_with_replacement

from hematite.doors import count, not_negative, positive
from hematite.errors import BadQuantity

MOST_SHIMS = 6  # judgement: a thicker stack wants a spacer


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
    *, total_mm: float, stock_mm: Sequence[float], tolerance_mm: float = 0.02, show: int = 3
) -> tuple[Pack, ...]:
    """Return the packs within tolerance, fewest shims first, then closest. Raises `BadQuantity` for none."""
    wanted = positive(total_mm, "The pack's thickness in mm")
    stock = sorted({positive(shim, "A shim's thickness in mm") for shim in stock_mm}, reverse=True)[:12]
    if not stock:
        raise BadQuantity("No shims in the stock list. Enter the thicknesses you have.")
    packs = [
        Pack(shims, round(sum(shims), 4), round(sum(shims) - wanted, 4))
        for n in range(1, MOST_SHIMS + 1)
        for shims in combinations_with_replacement(stock, n)
        if abs(sum(shims) - wanted) <= tolerance_mm + 1e-9
    ]
    if not packs:
        raise BadQuantity(
            f"No pack of up to {MOST_SHIMS} shims in stock comes within {tolerance_mm:g} mm of {wanted:.2f} mm. "
            "Add other thicknesses."
        )
    return tuple(sorted(packs, key=lambda pack: (len(pack.shims_mm), abs(pack.error_mm)))[:show])
