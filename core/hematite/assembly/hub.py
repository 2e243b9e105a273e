"""One hub as it is built: the parts that it has, what has to be off before each, and what has to be on."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from hematite.assembly.parts import Facts, Part, holds, library, listed
from hematite.language import words_once


@dataclass(frozen=True)
class Placed:
    """A part in its place. `needs`: what must be off before it; `on_after`: what must be on, beyond the reverse.

    `fixed`: it never comes off; it is looked at and worked on.
    """

    part: Part
    needs: tuple[str, ...] = ()
    on_after: tuple[str, ...] = ()
    fixed: bool = False


def assembly(design: str, facts: Facts) -> dict[str, Placed]:
    """Return the parts of a hub by key, in the order they come off; `facts`: all that `hub_facts` gives."""
    return _assembly(design, tuple(sorted(facts.items())))


@words_once
def _assembly(design: str, facts: tuple[tuple[str, str], ...]) -> dict[str, Placed]:
    known = dict(facts)
    rows = listed(design)
    present = {row["key"]: row for row in rows if holds(row.get("when"), known)}
    absent = {row["key"]: row for row in rows if row["key"] not in present}
    return {
        key: Placed(
            part=library()[key],
            needs=_nearest(row.get("needs", ()), present, absent),
            on_after=tuple(other for other in row.get("on_after", ()) if other in present),
            fixed=row.get("fixed", False),
        )
        for key, row in present.items()
    }


def _nearest(
    needs: Sequence[str], present: Mapping[str, Any], absent: Mapping[str, Mapping[str, Any]]
) -> tuple[str, ...]:
    """Return the needs that this hub has; one that it has not stands for what it would have needed itself."""
    found: dict[str, None] = {}
    for key in needs:
        inner = (key,) if key in present else _nearest(absent.get(key, {}).get("needs", ()), present, absent)
        found |= dict.fromkeys(inner)
    return tuple(found)
