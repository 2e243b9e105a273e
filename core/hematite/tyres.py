"""Tyres: from the size code on the sidewall to wheel turns a second."""

import re
from dataclasses import dataclass

from hematite.doors import not_negative, positive
from hematite.errors import BadTyreCode
from hematite.language import say

MM_PER_INCH = 25.4  # NIST SP 811, exact
ROLLING_PER_DIAMETER = 3.05  # radials, loaded and rolling [memory: tyre standards manual]
FULL_PROFILE_PERCENT = 82.0  # a metric size with no aspect ratio is an 82-series tyre [memory]

_METRIC = re.compile(r"^(?:P|LT|ST|C)?(\d{3})(?:/(\d{2,3}))?\s*[A-Z]{0,2}?\s*[RDB-]\s*(\d{1,2}(?:\.\d)?)(?!\d)")
_FLOTATION = re.compile(r"^(?:AT|LT)?(\d{2}(?:\.\d+)?)[X×](\d{1,2}(?:\.\d+)?)\s*[RDB-]\s*(\d{1,2})(?!\d)")
_INCHES = re.compile(r"^(\d{1,2}\.\d{1,2})\s*[RDB-]\s*(\d{1,2}(?:\.5)?)(?![\d.])")
_CYCLE_INCHES = re.compile(r"^(\d{2}(?:\.5)?)\s*[X×]\s*(\d\.\d{1,3})$")
_CYCLE_FRENCH = re.compile(r"^(700|650)\s*[X×]\s*(\d{2})\s*([ABC])?$")
_BEAD_SEAT = re.compile(r"^(\d{2})-(\d{3})$")
# Old inch sizes, light truck and trailer: section height over width [memory: a 6.00-16 stands some 728 mm].
OLD_PROFILE, OLD_LOW_PROFILE = 1.05, 0.90  # widths in whole and half inches; others, such as 4.80
# Bead seats in mm of cycle sizes named in inches or by the French letters [ISO 5775, from memory].
CYCLE_BEADS_MM = {"29": 622, "28": 622, "27.5": 584, "26": 559, "24": 507, "20": 406, "18": 355, "16": 305, "12": 203}
FRENCH_BEADS_MM = {"700C": 622, "700": 622, "650B": 584, "650C": 571, "650A": 590, "650": 584}


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
    """Read a size such as `205/55 R16`, `195 R14C`, `31x10.50 R15`, `6.00-16`, `7.50R16`, `47-406` or `700x38C`.

    Diameter = rim + two section heights. Raises `BadTyreCode` for nonsense and for sizes no road wheel has.
    """
    text = re.sub(r"\s+", " ", str(code)).strip().upper()
    readers = (_metric_mm, _flotation_mm, _inches_mm, _bead_seat_mm, _cycle_mm)
    diameter_mm = next((mm for read in readers if (mm := read(text)) is not None), None)
    if diameter_mm is None:
        raise BadTyreCode(
            say(
                "“{code}” is not a tyre size that can be read. Copy it from the sidewall, like 205/55 R16, 195 "
                "R14C, 31x10.50 R15, 6.00-16, 4.80-8, 47-406, 26x1.75 or 700x38C.",
                code=code,
            )
        )
    if not 150 <= diameter_mm <= 1400:
        raise BadTyreCode(
            say(
                "“{code}” would be a wheel {diameter_mm:.0f} mm tall. Copy the size again.",
                code=code,
                diameter_mm=diameter_mm,
            )
        )
    return Tyre(code=text, diameter=diameter_mm / 1000)


def _metric_mm(text: str) -> float | None:
    found = _METRIC.match(text)
    if not found:
        return None
    width, aspect, rim = found.groups()
    share = float(aspect or FULL_PROFILE_PERCENT) / 100
    if not (20 <= share * 100 <= 110 and 4 <= float(rim) <= 26):
        raise BadTyreCode(
            say(
                "“{text}” cannot be a tyre: profile {share:g} %, rim {rim} inches. Copy it again.",
                text=text,
                share=share * 100,
                rim=rim,
            )
        )
    return float(rim) * MM_PER_INCH + 2 * share * float(width)


def _flotation_mm(text: str) -> float | None:
    found = _FLOTATION.match(text)
    return float(found.group(1)) * MM_PER_INCH if found else None


def _inches_mm(text: str) -> float | None:
    """Return the diameter of an old inch size, cross-ply, light truck or trailer: width – rim, both in inches."""
    found = _INCHES.match(text)
    if not found:
        return None
    width, rim = float(found.group(1)), float(found.group(2))
    profile = OLD_PROFILE if (2 * width).is_integer() else OLD_LOW_PROFILE
    return (rim + 2 * profile * width) * MM_PER_INCH


def _cycle_mm(text: str) -> float | None:
    """Return the diameter of a cycle tyre named in decimal inches, or by width and the French letter."""
    inches, french = _CYCLE_INCHES.match(text), _CYCLE_FRENCH.match(text)
    if inches and inches.group(1) in CYCLE_BEADS_MM:
        return CYCLE_BEADS_MM[inches.group(1)] + 2 * float(inches.group(2)) * MM_PER_INCH
    if french:
        return FRENCH_BEADS_MM[french.group(1) + (french.group(3) or "")] + 2 * float(french.group(2))
    return None


def _bead_seat_mm(text: str) -> float | None:
    """Return the diameter of a cycle tyre, ISO 5775: section width – bead-seat diameter, both in mm."""
    found = _BEAD_SEAT.match(text)
    return float(found.group(2)) + 2 * float(found.group(1)) if found else None


def wheel_turns_per_second(*, speed_kmh: float, rolling_circumference: float) -> float:
    """Return wheel turns a second at a road speed; circumference in metres."""
    speed = not_negative(speed_kmh, say("The road speed")) / 3.6
    return speed / positive(rolling_circumference, say("The rolling circumference"))
