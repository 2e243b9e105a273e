"""Pressing a ring into a housing or onto a shaft: interference, pressure, force, press, sleeves."""

import math
from dataclasses import dataclass
from typing import Any

from hematite.doors import finite, not_negative, one_of, positive
from hematite.errors import BadGeometry, BadQuantity
from hematite.fits.lame import Ring, contact_pressure_mpa, yields
from hematite.fits.limits import bearing_limits, limits_of
from hematite.language import later, say
from hematite.tables import table

RINGS = {"outer": later("the outer ring into a housing"), "inner": later("the inner ring onto a shaft")}
MOST_INTERFERENCE_UM = 500.0  # judgement: more is another part


@dataclass(frozen=True)
class Fit:
    """How much larger than its place a ring is, in µm on the diameter: least and most. Below zero it is loose."""

    least_um: float
    most_um: float
    of: str


@dataclass(frozen=True)
class Press:
    """What a press has to do. Forces in kN; `rusted_kn`: to push an old ring out; `tonnes`: the press that suffices.

    `held`: whether the tightest fit yields the outer part.
    """

    pressure_mpa: tuple[float, float]
    on_kn: tuple[float, float]
    off_kn: tuple[float, float]
    rusted_kn: tuple[float, float]
    on_tonnes: float | None
    off_tonnes: float | None
    rusted_tonnes: float | None
    yields: bool


@dataclass(frozen=True)
class Sleeve:
    """A sleeve and a support, in mm: diameters between which each must lie, and how far the ring travels."""

    push_on: str
    sleeve_inside_least_mm: float
    sleeve_outside_most_mm: float
    support_inside_least_mm: float
    travel_mm: float
    never: str


def seat_fit(*, ring: str, bore_mm: float, outside_mm: float, fit: str) -> Fit:
    """Return the fit of a bearing's ring on a shaft or in a housing of an ISO class. Raises as `limits_of`."""
    kind = one_of(ring, RINGS, say("ring"))
    size = bore_mm if kind == "inner" else outside_mm
    if (kind == "inner") != str(fit)[:1].islower():
        raise BadQuantity(
            say(
                "{fit} is a class for a {kind}, and {asked} is asked for. A shaft is written small, as k6, a "
                "hole large, as N7.",
                fit=fit,
                kind=say("shaft") if str(fit)[:1].islower() else say("hole"),
                asked=say(RINGS[kind]),
            )
        )
    own, place = bearing_limits(size, kind), limits_of(size, fit)
    shaft, hole = (place, own) if kind == "inner" else (own, place)
    return Fit(shaft.lower_um - hole.upper_um, shaft.upper_um - hole.lower_um, f"{size:g} {fit}")


def measured_fit(*, shaft_mm: float, hole_mm: float, doubt_mm: float = 0.005) -> Fit:
    """Return the fit of measured sizes, each in doubt by `doubt_mm` (a micrometer in a workshop; judgement)."""
    over = (positive(shaft_mm, say("The shaft's diameter")) - positive(hole_mm, say("The bore"))) * 1000
    if abs(over) > MOST_INTERFERENCE_UM:
        raise BadQuantity(
            say(
                "{shaft_mm:g} mm in {hole_mm:g} mm do not belong together. Measure both again.",
                shaft_mm=shaft_mm,
                hole_mm=hole_mm,
            )
        )
    doubt = not_negative(doubt_mm, say("The doubt of the measure")) * 1000 * math.sqrt(2)
    return Fit(over - doubt, over + doubt, say("as measured"))


def material(key: str) -> dict[str, Any]:
    """Return a material's row of the table. Raises `UnknownName`."""
    rows = table("fits/press.toml")["material"]
    return dict(rows[one_of(key, rows, say("material"))])


def ring_of(key: str, *, bore_mm: float, outside_mm: float) -> Ring:
    """Return a ring of a material."""
    row = material(key)
    return Ring(bore_mm, outside_mm, row["modulus_mpa"], row["poisson"], row["yield_mpa"])


def rings(
    *, ring: str, bore_mm: float, outside_mm: float, partner: str, partner_mm: float | None = None
) -> tuple[Ring, Ring]:
    """Return what sits inside and what sits outside: a bearing's ring and its shaft or housing.

    `partner_mm`: the outside of a housing or
    the bore of a hollow shaft; nobody said: 1.4 times the seat, or solid.
    """
    bore, outside = positive(bore_mm, say("The bore")), positive(outside_mm, say("The outside diameter"))
    if bore >= outside:
        raise BadGeometry(
            say(
                "A bore of {bore:g} mm in an outside of {outside:g} mm is no bearing. Swap them.",
                bore=bore,
                outside=outside,
            )
        )
    if one_of(ring, RINGS, say("ring")) == "inner":
        hollow = 0.0 if partner_mm is None else not_negative(partner_mm, say("The bore of the shaft"))
        return ring_of(partner, bore_mm=hollow, outside_mm=bore), ring_of(
            "bearing_steel", bore_mm=bore, outside_mm=bore + _thickness("inner", bore, outside)
        )
    usual = table("fits/press.toml")["usual"]["outer"]["housing_times"] * outside
    housing = usual if partner_mm is None else positive(partner_mm, say("The outside of the housing"))
    inside = ring_of("bearing_steel", bore_mm=outside - _thickness("outer", bore, outside), outside_mm=outside)
    return inside, ring_of(partner, bore_mm=outside, outside_mm=housing)


def _thickness(ring: str, bore: float, outside: float, *, at: str = "mean") -> float:
    """Return how much of the section a ring takes on the diameter, on the whole or at its shoulder."""
    return float((outside - bore) * table("fits/press.toml")["sleeve"][at][ring])


def press(*, inside: Ring, outside: Ring, width_mm: float, fit: Fit) -> Press:
    """Return what it takes to press a fit together and apart, F = μ·p·π·d·b. Raises `BadQuantity`, `BadGeometry`."""
    width = positive(width_mm, say("The width"))
    over = [max(finite(value, say("The interference")), 0.0) for value in (fit.least_um, fit.most_um)]
    if over[1] > MOST_INTERFERENCE_UM:
        raise BadQuantity(say("An interference of {over:g} mm is no fit. Measure again.", over=over[1] / 1000))
    low, high = (contact_pressure_mpa(inside=inside, outside=outside, interference_um=um) for um in over)
    rows = table("fits/press.toml")
    area = math.pi * inside.outside_mm * width / 1000  # kN for each MPa

    def forces(friction: list[float]) -> tuple[float, float]:
        return friction[0] * low * area, friction[1] * high * area

    on, off = forces(rows["friction"]["on"]), forces(rows["friction"]["off"])
    least, most = rows["rust"]["times"]
    rusted = (off[0] * least, off[1] * most)
    return Press(
        (low, high), on, off, rusted, tonnes_for(on[1]), tonnes_for(off[1]), tonnes_for(rusted[1]),
        yields(pressure_mpa=high, bore_mm=inside.outside_mm, outside=outside),
    )  # fmt: skip


def tonnes_for(force_kn: float) -> float | None:
    """Return the smallest press that gives a force, None where none in the table does."""
    rows = table("fits/press.toml")["presses"]
    return next((float(t) for t in rows["tonnes"] if t * rows["newton_per_tonne"] >= force_kn * 1000), None)


def sleeves(*, ring: str, bore_mm: float, outside_mm: float, width_mm: float) -> Sleeve:
    """Return the sleeve that pushes on the ring that is fitted, and the support under it. Raises `BadGeometry`."""
    bore, outside, width = (
        positive(bore_mm, say("The bore")),
        positive(outside_mm, say("The outside diameter")),
        positive(width_mm, say("The width")),
    )
    if bore >= outside:
        raise BadGeometry(
            say(
                "A bore of {bore:g} mm in an outside of {outside:g} mm is no bearing. Swap them.",
                bore=bore,
                outside=outside,
            )
        )
    rows = table("fits/press.toml")["sleeve"]
    clear = rows["clear"]
    travel = width + rows["lead_in_mm"]
    shoulder = _thickness(one_of(ring, RINGS, say("ring")), bore, outside, at="shoulder")
    if ring == "outer":
        return Sleeve(
            say("the outer ring"), outside - shoulder, outside - clear, outside + clear, travel,
            say("Never on the inner ring: the blow would go through the balls."),
        )  # fmt: skip
    return Sleeve(
        say("the inner ring"), bore + clear, bore + shoulder, bore + clear, travel,
        say("Never on the outer ring: the blow would go through the balls."),
    )  # fmt: skip
