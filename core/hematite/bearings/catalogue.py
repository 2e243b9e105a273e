"""Boundary dimensions of the common sizes, and which of them a measured bearing may be."""

from dataclasses import dataclass
from functools import cache

from hematite.doors import positive
from hematite.tables import table


@dataclass(frozen=True)
class Size:
    """Bore, outside diameter and width (total width T for a taper), all in millimetres."""

    designation: str
    kind: str
    series: str
    bore_mm: float
    outside_mm: float
    width_mm: float

    def differences_mm(self, bore_mm: float, outside_mm: float, width_mm: float) -> tuple[float, float, float]:
        """Return measured minus catalogue, in the order bore, outside, width."""
        return bore_mm - self.bore_mm, outside_mm - self.outside_mm, width_mm - self.width_mm


@cache
def sizes() -> tuple[Size, ...]:
    """Return the catalogue, by bore. Source: ISO 15 and ISO 355 boundary plans, recalled; see the table."""
    rows = [
        Size(designation, series["kind"], series["series"], *dimensions)
        for series in table("bearings/catalogue.toml")["series"]
        for designation, dimensions in series["sizes"].items()
    ]
    return tuple(sorted(rows, key=lambda size: (size.bore_mm, size.outside_mm, size.width_mm)))


def matching_sizes(
    *, bore_mm: float, outside_mm: float, width_mm: float, tolerance_mm: float = 0.2
) -> tuple[Size, ...]:
    """Return the sizes whose three dimensions all lie within a caliper's `tolerance_mm` of the measured ones."""
    measured = (
        positive(bore_mm, "The bore"),
        positive(outside_mm, "The outside diameter"),
        positive(width_mm, "The width"),
    )
    return tuple(s for s in sizes() if max(map(abs, s.differences_mm(*measured))) <= tolerance_mm)
