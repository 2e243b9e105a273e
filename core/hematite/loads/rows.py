"""The load on the outer and the inner row of a hub, straight on and in bends."""

from dataclasses import dataclass

from hematite.doors import finite, not_negative, one_of, positive
from hematite.errors import BadQuantity
from hematite.language import say
from hematite.tables import table

MOST_LOAD_N = 100_000.0
MOST_MM = 1500.0


@dataclass(frozen=True)
class Rows:
    """Radial loads on the outer and the inner row, and the side load, in N. Side load inwards is above zero."""

    outer_n: float
    inner_n: float
    side_n: float = 0.0


def row_loads(*, load_n: float, offset_mm: float, span_mm: float, radius_mm: float = 0.0, side_n: float = 0.0) -> Rows:
    """Return how two rows share a wheel's load.

    `offset_mm`: from the middle between the rows out to the middle of the tyre; `side_n` on the tread, inwards as
    on the outer wheel of a bend. Statics: R_outer = W/2 + (x·W − r·F)/s, R_inner the same
    with a minus. Raises `BadQuantity`.
    """
    load, span = positive(load_n, say("The wheel's load")), positive(span_mm, say("The distance of the rows in mm"))
    offset, radius = (
        finite(offset_mm, say("The offset in mm")),
        not_negative(radius_mm, say("The radius of the wheel in mm")),
    )
    if load > MOST_LOAD_N or radius > MOST_MM or span > MOST_MM:
        raise BadQuantity(say("No such wheel: its load, radius or row distance is far too large. Check the units."))
    if abs(offset) > MOST_MM / 3:
        raise BadQuantity(say("An offset of {offset:g} mm is another vehicle. Check the unit.", offset=offset))
    tilt = (offset * load - radius * finite(side_n, say("The side load"))) / span
    return Rows(load / 2 + tilt, load / 2 - tilt, float(side_n))


def mean_loads(
    *,
    load_n: float,
    offset_mm: float,
    span_mm: float,
    radius_mm: float,
    kind: str = "roller",
    bends: float | None = None,
    hard_g: float | None = None,
) -> Rows:
    """Return the equivalent loads of both rows over the way: straight, and bends to either side in equal shares.

    Mean by the rows' exponent, P = (Σ share·Pᵖ)^(1/p), each P = X·R + Y·F or R, whichever is more, on the row that
    takes the side load: the inner one of an outer wheel [published: ISO 281, from memory].
    """
    rows = table("loads/loads.toml")
    kinds, usual = rows["row"], rows["driven"]
    row = kinds[one_of(kind, kinds, say("kind of rows"))]
    share = _share(usual["bends"] if bends is None else bends)
    hard = not_negative(usual["hard_g"] if hard_g is None else hard_g, say("The bends, in g"))
    if hard > 1.2:
        raise BadQuantity(say("{hard:g} g in bends is a race. Check it.", hard=hard))
    moves = 2 * hard * usual["height_over_track"]
    if moves >= 1:
        raise BadQuantity(say("In such bends the inner wheel lifts off. Check the bends."))
    cases = [(1 - share, load_n, 0.0)] + [
        (share / 2, load_n * (1 + sign * moves), sign * hard * load_n * (1 + sign * moves)) for sign in (1, -1)
    ]
    sums = [0.0, 0.0]
    for weight, load, side in cases:
        now = row_loads(load_n=load, offset_mm=offset_mm, span_mm=span_mm, radius_mm=radius_mm, side_n=side)
        for n, radial in enumerate((abs(now.outer_n), abs(now.inner_n))):
            takes = side < 0 if n == 0 else side > 0
            thrust = abs(side) if takes else 0.0
            sums[n] += weight * max(radial, row["x"] * radial + row["y"] * thrust) ** row["exponent"]
    outer, inner = (total ** (1 / row["exponent"]) for total in sums)
    return Rows(outer, inner)


def _share(value: object) -> float:
    share = not_negative(value, say("The share of the way in bends"))
    if share > 1:
        raise BadQuantity(
            say("A share of {share:g} is more than the whole way. Give it as 0.15, or 15 of 100.", share=share)
        )
    return share
