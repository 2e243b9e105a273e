"""Checks at the door: one small function per kind of input, the offending value in the message, limits in one table."""

import json
import math
import re
from collections.abc import Iterable, Mapping
from typing import Any

from hematite.errors import BadBundle, BadQuantity, UnknownName
from hematite.language import say
from hematite.tables import table

HUB_ID = re.compile(r"[A-Za-z0-9][A-Za-z0-9_-]{0,7}")  # goes into file names and addresses as it is
CABIN = "cabin"  # the place of a recording that is at no hub
SHOWN = 40  # characters of an odd value that a message repeats


def finite(value: object, what: str) -> float:
    """Return `value` as a float; raise `BadQuantity` when it is no finite number."""
    try:
        number = float(value)  # type: ignore[arg-type]
    except (TypeError, ValueError):
        raise BadQuantity(
            say("{what} must be a number; “{given}” is not. Type it again.", what=what, given=str(value)[:SHOWN])
        ) from None
    except OverflowError:
        raise BadQuantity(say("{what} is far too large a number. Type it again.", what=what)) from None
    if not math.isfinite(number) or isinstance(value, bool):
        raise BadQuantity(say("{what} must be a finite number; got {value}. Type it again.", what=what, value=value))
    return number


def limits(key: str) -> tuple[float, float]:
    """Return the least and the most that a figure of `limits.toml` can be."""
    row = table("limits.toml")[key]
    return float(row["least"]), float(row["most"])


def most_of(key: str) -> int:
    """Return how many of a thing there may be."""
    return int(table("limits.toml")["count"][key])


def within(value: object, key: str) -> float:
    """Return `value` as a float inside its limits; raise `BadQuantity` naming them."""
    what = str(table("limits.toml")[key]["what"])
    least, most = limits(key)
    number = finite(value, what)
    if number <= 0 < least:
        raise BadQuantity(
            say("{what} must be more than zero; got {number:g}. Measure or read it again.", what=what, number=number)
        )
    if not least <= number <= most:
        raise BadQuantity(
            say(
                "{what} lies between {least:g} and {most:g}; got {number:g}. Check the unit and the decimal point.",
                what=what,
                least=least,
                most=most,
                number=number,
            )
        )
    return number


def maybe(value: object, key: str) -> float | None:
    """Return `value` inside its limits, or None where nothing is given."""
    return None if value is None else within(value, key)


def few(value: object, key: str, what: str) -> list[Any]:
    """Return `value` as a list of no more than its limit; raise `BadQuantity` otherwise."""
    rows = listed(value, what)
    if len(rows) > most_of(key):
        raise BadQuantity(
            say("{what}: {rows} are too many; {most} is the most.", what=what, rows=len(rows), most=most_of(key))
        )
    return rows


def mapped(value: object, what: str) -> Mapping[str, Any]:
    """Return `value` as a mapping; raise `BadQuantity` when it is none."""
    if not isinstance(value, Mapping):
        raise BadQuantity(say("{what} must be named fields; “{given}” is none.", what=what, given=str(value)[:SHOWN]))
    return value


def hub_id(value: object) -> str:
    """Return a hub's name; raise `UnknownName` for one that cannot stand in a file name or means the cabin."""
    if not isinstance(value, str) or not HUB_ID.fullmatch(value) or value == CABIN:
        raise UnknownName(
            say("“{given}” is no name for a hub. Name it by axle and side: A1L, A1R, A2L …", given=str(value)[:SHOWN])
        )
    return value


def place(value: object, hubs: Iterable[str]) -> str:
    """Return where a recording was made: a hub of the vehicle, or the cabin. Raises `UnknownName`."""
    return one_of(str(value), [*hubs, CABIN], say("place on this vehicle"))


def read_json(data: bytes | str, what: str) -> Any:
    """Return parsed JSON; raise `BadBundle` for what is damaged, endless or holds figures that are none."""
    try:
        return json.loads(data, parse_constant=_no_figure)
    except RecursionError:
        raise BadBundle(say("{what} is nested without end. Export it again.", what=what)) from None
    except ValueError:
        raise BadBundle(
            say("{what} is damaged: it is no JSON, or holds a figure that is none. Export it again.", what=what)
        ) from None


def _no_figure(name: str) -> float:
    raise ValueError(name)


def positive(value: object, what: str) -> float:
    """Return `value` as a float above zero; raise `BadQuantity` otherwise."""
    number = finite(value, what)
    if number <= 0:
        raise BadQuantity(
            say("{what} must be more than zero; got {number:g}. Measure or read it again.", what=what, number=number)
        )
    return number


def not_negative(value: object, what: str) -> float:
    """Return `value` as a float of zero or more; raise `BadQuantity` otherwise."""
    number = finite(value, what)
    if number < 0:
        raise BadQuantity(
            say("{what} cannot be negative; got {number:g}. Check the zero of the gauge.", what=what, number=number)
        )
    return number


def count(value: object, what: str, *, least: int = 1) -> int:
    """Return `value` as a whole number of at least `least`; raise `BadQuantity` otherwise."""
    number = finite(value, what)
    if number != int(number) or number < least:
        raise BadQuantity(
            say(
                "{what} must be a whole number of at least {least}; got {number:g}.",
                what=what,
                least=least,
                number=number,
            )
        )
    return int(number)


def one_of(value: str, names: Iterable[str], what: str) -> str:
    """Return `value` when a table lists it; raise `UnknownName` naming what is allowed."""
    allowed = list(names)
    if value not in allowed:
        raise UnknownName(
            say(
                "“{given}” is no known {what}. Choose one of: {allowed}.",
                given=str(value)[:SHOWN],
                what=what,
                allowed=", ".join(allowed),
            )
        )
    return value


def listed(value: object, what: str) -> list[Any]:
    """Return `value` as a list; raise `BadQuantity` when it is none."""
    if not isinstance(value, list | tuple):
        raise BadQuantity(
            say("{what} must be a list; “{given}” is none. Give them one by one.", what=what, given=str(value)[:SHOWN])
        )
    return list(value)
