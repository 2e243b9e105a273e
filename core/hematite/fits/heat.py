"""Warming a ring or a housing until it drops on, or chilling what goes in; how long it takes, how long it lasts."""

import math
from dataclasses import dataclass

from hematite.doors import finite, not_negative, one_of, positive
from hematite.errors import BadQuantity
from hematite.fits.press import material
from hematite.language import say
from hematite.tables import table

USUAL_CLEARANCE_MM = 0.03  # to drop it on without a push; judgement
USUAL_AMBIENT_C = 20.0


@dataclass(frozen=True)
class Warming:
    """How warm a part must be, °C: `to_c`, the most it may be, and where it grips.

    `enough`: whether its limit allows it; `chill`: what to cool its mate in, and how warm it must be then; `left_mm`:
    what of the interference its limit leaves to the press.
    """

    rise_k: float
    to_c: float
    most_c: float
    grips_c: float
    enough: bool
    chill: tuple[str, float] | None
    left_mm: float
    why: str
    by: tuple[str, ...]
    never: str


def warming(
    *,
    part: str,
    diameter_mm: float,
    interference_mm: float,
    clearance_mm: float = USUAL_CLEARANCE_MM,
    ambient_c: float = USUAL_AMBIENT_C,
    mate: str = "steel",
) -> Warming:
    """Return how warm a part must be: ΔT = (interference + clearance)/(α·d). Raises `BadQuantity`, `UnknownName`."""
    rows = table("fits/heat.toml")
    row = rows["part"][one_of(part, rows["part"], say("part to be warmed"))]
    diameter = positive(diameter_mm, say("The diameter of the seat"))
    over = not_negative(interference_mm, say("The interference in mm"))
    room = not_negative(clearance_mm, say("The clearance in mm"))
    ambient = _ambient(ambient_c)
    if over > diameter / 100:
        raise BadQuantity(
            say(
                "An interference of {over:g} mm on {diameter:g} mm is no fit. Check the decimal point.",
                over=over,
                diameter=diameter,
            )
        )
    grows = material(row["material"])["growth_per_k"] * diameter
    rise = (over + room) / grows
    to, most = ambient + rise, float(row["most_c"])
    shrinks = material(mate)["growth_per_k"] * diameter
    chill = _chill(part, ambient=ambient, most=most, needs_mm=over + room, grows=grows, shrinks=shrinks)
    return Warming(
        rise, to, most, ambient + over / grows, to <= most,
        chill if to > most else None,
        max(over - grows * (most - ambient), 0.0), row["why"], tuple(row["by"]), rows["flame"],
    )  # fmt: skip


def _chill(
    part: str, *, ambient: float, most: float, needs_mm: float, grows: float, shrinks: float
) -> tuple[str, float] | None:
    """Return the mildest cold for its mate that makes a part's limit enough, and how warm it must be then."""
    rows = table("fits/heat.toml")["chill"]
    for key in ("freezer", "dry_ice"):
        cold = rows[key]["c"]
        if part.startswith("housing") and cold < rows["bearing_least_c"]:
            continue
        to = ambient + max(needs_mm - shrinks * (ambient - cold), 0.0) / grows
        if to <= most:
            return rows[key]["label"], to
    return None


def _ambient(value: object) -> float:
    number = finite(value, say("The temperature of the workshop in °C"))
    if not -40 <= number <= 60:
        raise BadQuantity(say("{number:g} °C is no workshop to press bearings in. Check the unit.", number=number))
    return number


def seconds_in_air(
    *, bore_mm: float, outside_mm: float, width_mm: float, from_c: float, until_c: float, ambient_c: float
) -> tuple[float, float]:
    """Return how long a hot ring or bearing takes to cool to `until_c` in air, in seconds, from moving to still air.

    Newton's law of cooling for a body of one temperature: t = m·c/(h·A)·ln((T − Ta)/(Tg − Ta)) [published:
    heat transfer textbooks]. Once it touches a cold seat it grips within seconds. Infinite where it never cools so far.
    """
    hot, cold = from_c - ambient_c, until_c - ambient_c
    if cold <= 0:
        return math.inf, math.inf
    share = math.log(hot / cold) if hot > cold else 0.0
    return _lags(bore_mm, outside_mm, width_mm, share)


def seconds_in_oven(
    *, bore_mm: float, outside_mm: float, width_mm: float, to_c: float, ambient_c: float
) -> tuple[float, float]:
    """Return roughly how long an oven, set somewhat hotter, takes to warm a bearing through, in seconds."""
    above = table("fits/heat.toml")["air"]["oven_above_c"]
    return _lags(bore_mm, outside_mm, width_mm, math.log((to_c - ambient_c + above) / above))


def _lags(bore_mm: float, outside_mm: float, width_mm: float, share: float) -> tuple[float, float]:
    bore, outside, width = (
        positive(value, say("The {name}", name=name)) / 1000
        for name, value in ((say("bore"), bore_mm), (say("outside diameter"), outside_mm), (say("width"), width_mm))
    )
    if bore >= outside:
        raise BadQuantity(say("The bore is larger than the outside. Swap them."))
    air = table("fits/heat.toml")["air"]
    faces = math.pi / 2 * (outside**2 - bore**2)
    area = math.pi * (outside + bore) * width + faces
    mass = faces / 2 * width * air["steel"]["density_kg_m3"] * air["full"]
    most, least = (mass * air["steel"]["heat_j_kg_k"] / (gives * area) * share for gives in air["gives"])
    return least, most
