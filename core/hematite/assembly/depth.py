"""How deep a choice goes at a hub: what comes off, what is new when it goes back."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from hematite.assembly.hub import Placed
from hematite.assembly.parts import Facts, holds
from hematite.errors import UnknownName
from hematite.hubs import design
from hematite.language import say, small
from hematite.tables import table


@dataclass(frozen=True)
class Depth:
    """What comes off, in order; what is new then; what goes on new although nothing of it came off (`fits`)."""

    off: tuple[str, ...]
    renews: frozenset[str]
    fits: tuple[str, ...]
    buys: tuple[str, ...] = ()


def possible_choices(key: str) -> tuple[str, ...]:
    """Return the choices that can be carried out at a hub of a design. Raises `UnknownName`."""
    design(key)
    return (*_rows(key), "off_road")


def _rows(key: str) -> dict[str, Any]:
    tables = table("assembly/designs.toml")
    own = tables[key]
    return {**tables.get(own.get("choices_of", ""), {}), **own.get("choices", {})}


def depth_of(key: str, choice: str, facts: Facts, parts: Mapping[str, Placed], more: Iterable[str] = ()) -> Depth:
    """Return how deep a choice goes; `more`: what has to come off besides to free a part.

    Raises `UnknownName` for what cannot be done at a hub of this design.
    """
    rows = _rows(key)
    if choice not in rows:
        label = small(design(key).label)
        raise UnknownName(
            say(
                "At a hub of this kind ({label}) there is nothing to {choice}.",
                label=label,
                choice=choice.replace("_", " "),
            )
        )
    row = _of(rows[choice], facts)
    opens = [*row.get("opens", ()), *row.get("causes", {}).get(facts.get("cause", ""), ())]
    opens += [key for also in row.get("also", ()) if holds(also["when"], facts) for key in also["opens"]]
    off = _closure([*opens, *more], parts)
    return Depth(
        off=tuple(one for one in parts if one in off),
        renews=frozenset(one for one in row.get("renews", ()) if one in parts),
        fits=tuple(one for one in parts if one in row.get("fits", ()) and one not in off),
        buys=tuple(row.get("buys", ())),
    )


def _of(row: Any, facts: Facts) -> Mapping[str, Any]:
    rows = row if isinstance(row, list) else [row]
    return next(one for one in rows if holds(one.get("when"), facts))


def _closure(opens: Iterable[str], parts: Mapping[str, Placed]) -> set[str]:
    found: set[str] = set()
    waiting = [key for key in opens if key in parts and not parts[key].fixed]
    while waiting:
        key = waiting.pop()
        if key not in found:
            found.add(key)
            waiting += parts[key].needs
    return found
