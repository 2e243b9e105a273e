"""Checks at the door: one small function per kind of input, the offending value in the message."""

import math
from collections.abc import Iterable

from hematite.errors import BadQuantity, UnknownName


def finite(value: object, what: str) -> float:
    """Return `value` as a float; raise `BadQuantity` when it is no finite number."""
    try:
        number = float(value)  # type: ignore[arg-type]
    except (TypeError, ValueError):
        raise BadQuantity(f"{what} must be a number; “{value}” is not. Type it again.") from None
    if not math.isfinite(number):
        raise BadQuantity(f"{what} must be a finite number; got {value}. Type it again.")
    return number


def positive(value: object, what: str) -> float:
    """Return `value` as a float above zero; raise `BadQuantity` otherwise."""
    number = finite(value, what)
    if number <= 0:
        raise BadQuantity(f"{what} must be more than zero; got {number:g}. Measure or read it again.")
    return number


def not_negative(value: object, what: str) -> float:
    """Return `value` as a float of zero or more; raise `BadQuantity` otherwise."""
    number = finite(value, what)
    if number < 0:
        raise BadQuantity(f"{what} cannot be negative; got {number:g}. Check the zero of the gauge.")
    return number


def count(value: object, what: str, *, least: int = 1) -> int:
    """Return `value` as a whole number of at least `least`; raise `BadQuantity` otherwise."""
    number = finite(value, what)
    if number != int(number) or number < least:
        raise BadQuantity(f"{what} must be a whole number of at least {least}; got {number:g}.")
    return int(number)


def one_of(value: str, names: Iterable[str], what: str) -> str:
    """Return `value` when a table lists it; raise `UnknownName` naming what is allowed."""
    allowed = list(names)
    if value not in allowed:
        raise UnknownName(f"“{value}” is no known {what}. Choose one of: {', '.join(allowed)}.")
    return value


def listed(value: object, what: str) -> list[object]:
    """Return `value` as a list; raise `BadQuantity` when it is none."""
    if not isinstance(value, list | tuple):
        raise BadQuantity(f"{what} must be a list; “{value}” is none. Give them one by one.")
    return list(value)
