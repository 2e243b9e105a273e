"""Tyres: from the size code on the sidewall to wheel turns a second."""

import re
from dataclasses import dataclass

from hematite.doors import not_negative, positive
from hematite.errors import BadTyreCode

MM_PER_INCH = 25.4  # NIST SP 811, exact
ROLLING_PER_DIAMETER = 3.05  # radials, loaded and rolling [memory: tyre standards manual]
ROLLING_SPREAD = 0.02  # wear, pressure and make shift it by about this share; judgement
FULL_PROFILE_PERCENT = 82.0  # a metric size with no aspect ratio is an 82-series tyre [memory]

_METRIC = re.compile(r"^(?:P|LT|ST|C)?(\d{3})(?:/(\d{2,3}))?\s*[A-Z]{0,2}?\s*[RDB-]\s*(\d{1,2}(?:\.\d)?)")
_FLOTATION = re.compile(r"^(?:AT|LT)?(\d{2}(?:\.\d+)?)[X×](\d{1,2}(?:\.\d+)?)\s*[RDB-]\s*(\d{1,2})")
_BEAD_SEAT = re.compile(r"^(\d{2})-(\d{3})$")


@dataclass(frozen=True)
class Tyre:
    """A tyre size. Unladen diameter and rolling circumference in metres."""

    code: str
    diameter: float

    @property
    def rolling_circumference(self) -> float:
        """Return metres per wheel turn: 3.05 × unladen diameter [memory: tyre standards manual]."""
        return ROLLING_PER_DIAMETER * self.diameter


def read_code(code: str) -> Tyre:
    """Read a size such as `205/55 R16`, `195 R14C`, `31x10.50 R15`, `AT25x8-12` or `47-406`.

    Diameter = rim + two section heights. Raises `BadTyreCode` for nonsense and for sizes no road wheel has.
    """
    text = re.sub(r"\s+", " ", str(code)).strip().upper()
    diameter_mm = _metric_mm(text) or _flotation_mm(text) or _bead_seat_mm(text)
    if diameter_mm is None:
        raise BadTyreCode(
            f"“{code}” is not a tyre size that can be read. Copy it from the sidewall, like 205/55 R16, "
            "195 R14C, 31x10.50 R15 or 47-406."
        )
    if not 150 <= diameter_mm <= 1400:
        raise BadTyreCode(f"“{code}” would be a wheel {diameter_mm:.0f} mm tall. Copy the size again.")
    return Tyre(code=text, diameter=diameter_mm / 1000)


def _metric_mm(text: str) -> float | None:
    found = _METRIC.match(text)
    if not found:
        return None
    width, aspect, rim = found.groups()
    share = float(aspect or FULL_PROFILE_PERCENT) / 100
    if not (20 <= share * 100 <= 110 and 4 <= float(rim) <= 26):
        raise BadTyreCode(f"“{text}” cannot be a tyre: profile {share * 100:g} %, rim {rim} inches. Copy it again.")
    return float(rim) * MM_PER_INCH + 2 * share * float(width)


def _flotation_mm(text: str) -> float | None:
    found = _FLOTATION.match(text)
    return float(found.group(1)) * MM_PER_INCH if found else None


def _bead_seat_mm(text: str) -> float | None:
    """Return the diameter of a cycle tyre, ISO 5775: section width – bead-seat diameter, both in mm."""
    found = _BEAD_SEAT.match(text)
    return float(found.group(2)) + 2 * float(found.group(1)) if found else None


def wheel_turns_per_second(*, speed_kmh: float, rolling_circumference: float) -> float:
    """Return wheel turns a second at a road speed; circumference in metres."""
    speed = not_negative(speed_kmh, "The road speed") / 3.6
    return speed / positive(rolling_circumference, "The rolling circumference")
