"""Limits of size by ISO 286-1, and those of a rolling bearing's own rings by ISO 492."""

import re
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass

from hematite.doors import one_of, positive
from hematite.errors import BadQuantity, UnknownName
from hematite.language import say
from hematite.tables import table

CLASS = re.compile(r"(js|JS|[ghjkmnprsGHJKMNPRS])([5678])")
DELTA_UP_TO = {"K": 8, "M": 8, "N": 8, "P": 7, "R": 7, "S": 7}  # grades whose holes are let up by IT(n) − IT(n − 1)
LEAST_MM = 3.0  # below it the standard has exceptions of its own


@dataclass(frozen=True)
class Limits:
    """How far a size may be from its nominal one, in micrometres: the lower and the upper deviation."""

    lower_um: float
    upper_um: float


def limits_of(size_mm: object, fit: str) -> Limits:
    """Return the limits of a shaft (k6) or a hole (N7) [published: ISO 286-1]. Raises `BadQuantity`, `UnknownName`."""
    rows = table("fits/limits.toml")
    column = _column(size_mm, rows["up_to_mm"], "A fit")
    found = CLASS.fullmatch(str(fit).strip())
    if not found:
        raise UnknownName(
            say("“{given}” is no fit that is known here. Write a shaft as k6, a hole as N7.", given=str(fit)[:12])
        )
    letter, grade = found[1], found[2]
    width = float(rows["grade"][grade][column])
    if letter.lower() == "js":
        return Limits(-width / 2, width / 2)
    if letter.lower() == "j":
        return _uneven(letter, grade, width, column)
    if letter.islower():
        return _shaft(letter, width, column)
    if letter == "H":
        return Limits(0.0, width)
    if letter == "G":
        low = -float(rows["shaft"]["g"][column])
        return Limits(low, low + width)
    if int(grade) > DELTA_UP_TO[letter]:
        raise UnknownName(say("{fit} is not cut for bearings; 6 and 7 are.", fit=fit))
    delta = width - float(rows["grade"][str(int(grade) - 1)][column])
    upper = rows["upper_of"].get(f"{letter}{grade}", {}).get(str(rows["up_to_mm"][column]))
    if upper is None:
        upper = delta - float(rows["shaft"][letter.lower()][column])
    return Limits(upper - width, upper)


def _shaft(letter: str, width: float, column: int) -> Limits:
    if letter == "h":
        return Limits(-width, 0.0)
    near = float(table("fits/limits.toml")["shaft"][letter][column])
    return Limits(near - width, near) if letter == "g" else Limits(near, near + width)


def _uneven(letter: str, grade: str, width: float, column: int) -> Limits:
    rows = table("fits/limits.toml")["shaft_j" if letter == "j" else "hole_j"]
    near = float(rows[one_of(grade, rows, say("grade of {letter}", letter=letter))][column])
    return Limits(near, near + width) if letter == "j" else Limits(near - width, near)


def bearing_limits(size_mm: object, ring: str) -> Limits:
    """Return the limits of a bearing's bore ("inner") or outside diameter ("outer") [published: ISO 492, normal]."""
    rows = table("fits/limits.toml")["bearing"]
    names = {"inner": ("up_to_mm", "bore"), "outer": ("outside_up_to_mm", "outside")}
    sizes, values = names[one_of(ring, names, say("ring"))]
    return Limits(float(rows[values][_column(size_mm, rows[sizes], "A bearing")]), 0.0)


def _column(size_mm: object, up_to: Sequence[float], what: str) -> int:
    size = positive(size_mm, say("A diameter in mm"))
    if not LEAST_MM < size <= up_to[-1]:
        raise BadQuantity(
            say(
                "{what} of {size:g} mm is not in the table: it goes from {least_mm:g} to {up_to:g} mm.",
                what=what,
                size=size,
                least_mm=LEAST_MM,
                up_to=up_to[-1],
            )
        )
    return bisect_left(up_to, size)
