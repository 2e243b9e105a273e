"""Life by ISO 281 as a ratio, before against after; never as hours promised."""

from dataclasses import dataclass

from hematite.doors import finite, one_of, positive
from hematite.errors import BadQuantity
from hematite.language import say
from hematite.loads.rows import Rows, mean_loads
from hematite.tables import table


@dataclass(frozen=True)
class Change:
    """What a change of the wheel's place leaves: loads before and after, the life ratio of each row and of the hub.

    `ratio`: of the hub; `with_dirt`: with what dirt and water leave, a stated guess; `words` say that without hours.
    """

    before: Rows
    after: Rows
    outer_ratio: float
    inner_ratio: float
    ratio: float
    with_dirt: float
    words: str


def rows_of(design: str) -> str:
    """Return what a hub design rolls on: 'roller' or 'ball'."""
    return "roller" if design.startswith("taper_") else "ball"


def basic_life_mrev(*, capacity_n: float, load_n: float, kind: str = "ball") -> float:
    """Return the basic rating life in millions of turns, (C/P)^p [published: ISO 281]."""
    row = _row(kind)
    return float((positive(capacity_n, say("The load rating")) / positive(load_n, say("The load"))) ** row["exponent"])


def life_ratio(*, before_n: float, after_n: float, kind: str) -> float:
    """Return what is left of a row's life at another load, (P1/P2)^p [published: ISO 281]. Raises `BadQuantity`."""
    return float(
        (positive(before_n, say("The load before")) / positive(after_n, say("The load after")))
        ** _row(kind)["exponent"]
    )


def change(
    *,
    load_n: float,
    offset_mm: float,
    outward_mm: float,
    span_mm: float,
    radius_mm: float,
    kind: str = "roller",
    load_after_n: float | None = None,
    spoilt: str = "clean",
    bends: float | None = None,
    hard_g: float | None = None,
) -> Change:
    """Return what setting a wheel outward, a spacer or another load does to its hub's rows. Raises `BadQuantity`."""
    out = finite(outward_mm, say("How far outward in mm"))
    if abs(out) > 200:
        raise BadQuantity(say("{out:g} mm outward is another axle. Check the unit.", out=out))
    same = {"span_mm": span_mm, "radius_mm": radius_mm, "kind": kind, "bends": bends, "hard_g": hard_g}
    before = mean_loads(load_n=load_n, offset_mm=offset_mm, **same)  # type: ignore[arg-type]
    load_now = load_n if load_after_n is None else load_after_n
    after = mean_loads(load_n=load_now, offset_mm=offset_mm + out, **same)  # type: ignore[arg-type]
    ratios = [
        life_ratio(before_n=b, after_n=a, kind=kind)
        for b, a in ((before.outer_n, after.outer_n), (before.inner_n, after.inner_n))
    ]
    hub = _together(after, kind) / _together(before, kind)
    rows = table("loads/loads.toml")["spoilt"]
    dirt = rows[one_of(spoilt, rows, say("state of the grease"))]["share"]
    return Change(before, after, ratios[0], ratios[1], hub, hub * dirt, _words(hub * dirt))


def _together(loads: Rows, kind: str) -> float:
    """Return the life of both rows together for a load rating of one: (Σ L^−e)^(−1/e) [published: ISO 281]."""
    row = _row(kind)
    lives = [basic_life_mrev(capacity_n=1.0, load_n=load, kind=kind) for load in (loads.outer_n, loads.inner_n)]
    return float(sum(life ** -row["together"] for life in lives) ** (-1 / row["together"]))


def _row(kind: str) -> dict[str, float]:
    rows = table("loads/loads.toml")["row"]
    return dict(rows[one_of(kind, rows, say("kind of rows"))])


def _words(ratio: float) -> str:
    if ratio > 1.05:
        return say("It eases the bearing.")
    if ratio > 0.95:
        return say("It changes little for the bearing.")
    if ratio > 0.6:
        return say("It shortens the bearing's life: look at it sooner.")
    if ratio > 0.3:
        return say("It takes about half of the bearing's life: halve the intervals.")
    return say("It takes most of the bearing's life: do not drive it so for long.")
