"""The bearing finder: from a caliper's three figures to the sizes that fit, and why the near ones are not it."""

import itertools
import math
from dataclasses import dataclass

from hematite.bearings.catalogue import Size, sizes
from hematite.bearings.geometry import FaultOrders, Row, fault_orders
from hematite.doors import positive
from hematite.errors import BadGeometry
from hematite.language import later, say

TOLERANCE_MM = 0.2  # what a caliper and a worn edge leave open; judgement
NEAR_MM = 8.0  # all three differences together; further off, nobody confuses them; judgement
MOST_NEAR = 6
NAMES = (later("bore"), later("outside diameter"), later("width"))
LARGER = {"bore": later("larger in the bore"), "outside diameter": later("larger outside"), "width": later("wider")}
SMALLER = {
    "bore": later("smaller in the bore"),
    "outside diameter": later("smaller outside"),
    "width": later("narrower"),
}


@dataclass(frozen=True)
class NearMiss:
    """A size that is not it, and why, in words."""

    size: Size
    why: str


@dataclass(frozen=True)
class Found:
    """The sizes that fit and the nearest that do not; `missing` names the dimensions still to be measured."""

    fits: tuple[Size, ...]
    near: tuple[NearMiss, ...]
    missing: tuple[str, ...]


def find_bearing(
    *,
    bore_mm: object = None,
    outside_mm: object = None,
    width_mm: object = None,
    tolerance_mm: float = TOLERANCE_MM,
) -> Found:
    """Return the sizes for measured dimensions in millimetres; one of them may still be missing.

    Raises `BadQuantity` for a figure that cannot be, `BadGeometry` for a bore that does not fit inside the outside
    diameter or when fewer than two are given: one bore comes in many sizes (ISO 15).
    """
    given = [
        None if value is None else positive(value, say("The {name}", name=say(name)))
        for value, name in zip((bore_mm, outside_mm, width_mm), NAMES, strict=True)
    ]
    if sum(value is not None for value in given) < 2:
        raise BadGeometry(say("One figure does not tell: measure bore, outside diameter and width."))
    bore, outside, _ = given
    if bore is not None and outside is not None and bore >= outside:
        raise BadGeometry(
            say(
                "A bore of {bore:g} mm is not smaller than {outside:g} mm outside. Swap or measure again.",
                bore=bore,
                outside=outside,
            )
        )
    off = {size: _differences(size, given) for size in sizes()}
    fits = tuple(size for size, differences in off.items() if _worst(differences) <= tolerance_mm)
    others = sorted((size for size in off if size not in fits), key=lambda size: _total(off[size]))
    near = [NearMiss(size, _why(off[size], tolerance_mm)) for size in others if _total(off[size]) <= NEAR_MM]
    missing = tuple(name for name, value in zip(NAMES, given, strict=True) if value is None)
    return Found(fits, tuple(near[:MOST_NEAR]), missing)


Differences = dict[str, float]


def _differences(size: Size, given: list[float | None]) -> Differences:
    """Return catalogue minus measured, for every dimension that was measured."""
    pairs = zip(NAMES, size.dimensions_mm, given, strict=True)
    return {name: own - value for name, own, value in pairs if value is not None}


def _worst(differences: Differences) -> float:
    return max(map(abs, differences.values()))


def _total(differences: Differences) -> float:
    return sum(map(abs, differences.values()))


def _why(differences: Differences, tolerance: float) -> str:
    """Return it in words: 'it is 5 mm larger outside and 3 mm wider'."""
    off = {name: d for name, d in differences.items() if abs(d) > tolerance}
    words = [
        say("{much:.3g} mm {how}", much=abs(d), how=say((LARGER if d > 0 else SMALLER)[name]))
        for name, d in off.items()
    ]
    return say("It is {words}.", words=say(" and ").join(words))


@dataclass(frozen=True)
class Estimate:
    """Fault orders of a size whose elements nobody counted: the likeliest row, and the least and most orders.

    Never exact: count the balls or rollers and the orders follow for certain.
    """

    row: Row
    likeliest: FaultOrders
    least: FaultOrders
    most: FaultOrders


@dataclass(frozen=True)
class _Filled:
    """How a kind is filled: element diameter as a share of the section (outside minus bore), contact angle, and doubts.

    `full` is the share of the whole circle that its row takes. The ball figures are held against counted rows in the
    tests; rollers, double rows and all doubts are judgement.
    """

    share: float
    share_doubt: float
    angle_deg: float
    angle_doubt_deg: float
    full: float
    count_doubt: int


_FILLED = {
    "deep_groove": _Filled(0.30, 0.03, 0.0, 0.0, 0.545, 1),  # Conrad's: filled through half its circle and a little
    "taper": _Filled(0.27, 0.05, 14.0, 4.0, 0.87, 3),
    "double_row": _Filled(0.30, 0.04, 36.0, 8.0, 0.80, 2),
}
ORDERS = ("bpfo", "bpfi", "bsf", "ftf")


def estimate_orders(size: Size, *, rotating: str) -> Estimate:
    """Return estimated fault orders of a size, when its `rotating` ring ('inner' or 'outer') turns with the wheel.

    The least and most of each order come from all that may be otherwise at once: count, element diameter and angle.
    """
    filled, section = _FILLED[size.kind], size.outside_mm - size.bore_mm
    pitch = (size.bore_mm + size.outside_mm) / 2
    count = max(5, math.floor(_count(size.kind, filled.full, filled.share * section / pitch)))

    def row(more: int, larger: float, steeper: float) -> Row:
        element, angle = (filled.share + larger) * section, math.radians(filled.angle_deg + steeper)
        return Row(count + more, element / 1000, pitch / 1000, angle)

    doubts = (filled.count_doubt, filled.share_doubt, filled.angle_doubt_deg)
    may_be = itertools.product(*((-doubt, 0, doubt) for doubt in doubts))
    found = [fault_orders(row(int(more), *others), rotating=rotating) for more, *others in may_be]
    least, most = (
        FaultOrders(**{order: pick(getattr(one, order) for one in found) for order in ORDERS}, rotating=rotating)
        for pick in (min, max)
    )
    return Estimate(row(0, 0.0, 0.0), fault_orders(row(0, 0.0, 0.0), rotating=rotating), least, most)


def _count(kind: str, full: float, ratio: float) -> float:
    step = 2 * math.asin(ratio)  # the angle that one element takes on the pitch circle
    if kind == "deep_groove":
        return 1 + full * 2 * math.pi / step
    return full * 2 * math.pi / step
