"""The pressure between two rings of which one is too large, after Lamé."""

from dataclasses import dataclass

from hematite.doors import not_negative, positive
from hematite.errors import BadGeometry
from hematite.language import say


@dataclass(frozen=True)
class Ring:
    """A ring, or a solid shaft where its bore is 0: diameters in mm, modulus in MPa, Poisson's number, yield in MPa."""

    bore_mm: float
    outside_mm: float
    modulus_mpa: float
    poisson: float
    yield_mpa: float


def contact_pressure_mpa(*, inside: Ring, outside: Ring, interference_um: float) -> float:
    """Return the pressure between a ring and what sits in it, too large by `interference_um` on the diameter.

    p = δ / (d·(Co + Ci)) with Co = ((D² + d²)/(D² − d²) + νo)/Eo and Ci = ((d² + di²)/(d² − di²) − νi)/Ei
    [published: Lamé; Shigley, Mechanical Engineering Design, eq. 3-56]. Raises `BadGeometry`, `BadQuantity`.
    """
    delta = not_negative(interference_um, say("The interference")) / 1000
    seat = positive(inside.outside_mm, say("The diameter of the seat"))
    if not inside.bore_mm < seat < outside.outside_mm:
        raise BadGeometry(
            say(
                "A seat of {seat:g} mm lies between a bore of {bore_mm:g} and an outside of {outside_mm:g} mm "
                "only if it is larger than the one and smaller than the other. Measure again.",
                seat=seat,
                bore_mm=inside.bore_mm,
                outside_mm=outside.outside_mm,
            )
        )
    d2, outer2, bore2 = seat**2, outside.outside_mm**2, inside.bore_mm**2
    gives = ((outer2 + d2) / (outer2 - d2) + outside.poisson) / outside.modulus_mpa
    gives += ((d2 + bore2) / (d2 - bore2) - inside.poisson) / inside.modulus_mpa
    return delta / (seat * gives)


def hoop_at_bore_mpa(*, pressure_mpa: float, bore_mm: float, outside_mm: float) -> float:
    """Return the tension round a ring's bore under pressure from inside, p·(D² + d²)/(D² − d²) [published: Lamé]."""
    return pressure_mpa * (outside_mm**2 + bore_mm**2) / (outside_mm**2 - bore_mm**2)


def yields(*, pressure_mpa: float, bore_mm: float, outside: Ring) -> bool:
    """Return whether the outer ring yields at its bore: tension and pressure together above its limit (Tresca)."""
    hoop = hoop_at_bore_mpa(pressure_mpa=pressure_mpa, bore_mm=bore_mm, outside_mm=outside.outside_mm)
    return hoop + pressure_mpa > outside.yield_mpa
