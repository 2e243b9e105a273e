"""Boundary dimensions of the common sizes."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache

from hematite.language import later
from hematite.tables import table

KINDS = {
    "deep_groove": later("Deep-groove ball bearing"),
    "taper": later("Taper roller bearing"),
    "double_row": later("Double-row wheel bearing"),
}


@dataclass(frozen=True)
class Size:
    """Bore, outside diameter and width (total width T for a taper), all in millimetres.

    An inch taper's designation names cone and cup, 'cone/cup'.
    """

    designation: str
    kind: str
    series: str
    bore_mm: float
    outside_mm: float
    width_mm: float
    source: str

    @property
    def dimensions_mm(self) -> tuple[float, float, float]:
        """Return bore, outside diameter, width."""
        return self.bore_mm, self.outside_mm, self.width_mm

    @property
    def pair(self) -> tuple[str, str] | None:
        """Return cone and cup where they are numbered apart, as inch tapers are."""
        if self.series != "inch":
            return None
        cone, cup = self.designation.split("/")
        return cone, cup


@cache
def sizes() -> tuple[Size, ...]:
    """Return the catalogue, by bore. Sources: ISO 15, ISO 355, ANSI/ABMA 19.2, recalled; see the table."""
    rows = [
        _size(designation, dimensions, series)
        for series in table("bearings/catalogue.toml")["series"]
        for designation, dimensions in series["sizes"].items()
    ]
    return tuple(sorted(rows, key=lambda size: size.dimensions_mm))


def _size(designation: str, dimensions: Sequence[float], series: Mapping[str, str]) -> Size:
    bore, outside, width = dimensions
    return Size(designation, series["kind"], series["series"], bore, outside, width, series["source"])


def counted(designation: str) -> dict[str, float | int]:
    """Return the geometry of a size whose elements somebody counted, as the case format has it; {} where nobody did."""
    row = table("bearings/catalogue.toml")["counted"].get(designation, {})
    return {name: value for name, value in row.items() if name != "source"}


@cache
def sizes_by_name() -> dict[str, Size]:
    """Return the catalogue by designation."""
    return {size.designation: size for size in sizes()}
