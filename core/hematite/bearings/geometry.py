"""From the geometry of one row of rolling elements to the orders at which its faults strike."""

import math
from dataclasses import dataclass

from hematite.doors import count, finite, one_of, within
from hematite.errors import BadGeometry
from hematite.language import say

RINGS = ("inner", "outer")


@dataclass(frozen=True)
class Row:
    """One row of balls or rollers. Diameters in metres, contact angle in radians."""

    elements: int
    element_diameter: float
    pitch_diameter: float
    contact_angle: float = 0.0
    name: str = "row"

    @classmethod
    def from_mm(
        cls,
        *,
        elements: object,
        element_diameter_mm: object,
        pitch_diameter_mm: object,
        contact_angle_deg: object = 0.0,
        name: str = "row",
    ) -> "Row":
        """Check the figures a catalogue gives and build the row.

        Raises `BadQuantity` for a figure that cannot be, `BadGeometry` for figures that cannot belong together.
        """
        row = cls(
            elements=element_count(elements),
            element_diameter=within(element_diameter_mm, "element_diameter_mm") / 1000,
            pitch_diameter=within(pitch_diameter_mm, "pitch_diameter_mm") / 1000,
            contact_angle=math.radians(finite(contact_angle_deg, say("The contact angle"))),
            name=name,
        )
        _check_fit(row)
        return row


def element_count(stated: object) -> int:
    """Return a number of balls or rollers as it was stated. Raises `BadQuantity` for one that cannot be."""
    return int(within(count(stated, say("The number of balls or rollers"), least=3), "elements"))


def _check_fit(row: Row) -> None:
    if row.element_diameter >= row.pitch_diameter:
        raise BadGeometry(
            say(
                "Balls of {element_diameter:g} mm do not fit on a pitch circle of {pitch_diameter:g} mm. Swap "
                "or measure the two diameters again.",
                element_diameter=row.element_diameter * 1000,
                pitch_diameter=row.pitch_diameter * 1000,
            )
        )
    if not 0 <= row.contact_angle < math.pi / 2:
        raise BadGeometry(say("The contact angle must lie from 0° to below 90°. Check the catalogue."))
    room = math.pi / math.asin(row.element_diameter / row.pitch_diameter)  # centres on a circle, a chord apart
    if row.elements > room + 1e-9:
        raise BadGeometry(
            say(
                "{elements} elements of {element_diameter:g} mm do not fit around a pitch circle of "
                "{pitch_diameter:g} mm; at most {room} do. Count them again.",
                elements=row.elements,
                element_diameter=row.element_diameter * 1000,
                pitch_diameter=row.pitch_diameter * 1000,
                room=int(room),
            )
        )


@dataclass(frozen=True)
class FaultOrders:
    """Events per wheel turn: outer race, inner race, element spin, cage. An element strikes twice per spin."""

    bpfo: float
    bpfi: float
    bsf: float
    ftf: float
    rotating: str

    @property
    def rolling(self) -> float:
        """Return strikes of one damaged element per wheel turn: both races are hit in each spin."""
        return 2 * self.bsf


def fault_orders(row: Row, *, rotating: str) -> FaultOrders:
    """Return the fault orders of a row when its `rotating` ring ('inner' or 'outer') turns with the wheel.

    Pure rolling; real bearings slip by 1–2 %. Raises `UnknownName` for another ring.
    Source: Randall & Antoni, Mechanical Systems and Signal Processing 25 (2011) 485–520, eqs 1–4;
    Harris, Rolling Bearing Analysis. Only the cage order depends on which ring turns.
    """
    one_of(rotating, RINGS, say("ring"))
    ratio = row.element_diameter / row.pitch_diameter * math.cos(row.contact_angle)
    cage_sign = -1 if rotating == "inner" else 1
    return FaultOrders(
        bpfo=row.elements / 2 * (1 - ratio),
        bpfi=row.elements / 2 * (1 + ratio),
        bsf=row.pitch_diameter / (2 * row.element_diameter) * (1 - ratio**2),
        ftf=(1 + cage_sign * ratio) / 2,
        rotating=rotating,
    )
