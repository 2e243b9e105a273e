"""The parts of a hub design, in the order they come off."""

from dataclasses import dataclass
from functools import cache

from hematite.doors import one_of
from hematite.tables import table

ROLLS = frozenset({"rolling", "race", "sealed"})  # kinds of part that must be looked at before a hub is called clean


@dataclass(frozen=True)
class Part:
    """One part; `kind` says what can be found at it."""

    key: str
    label: str
    kind: str

    @property
    def rolls(self) -> bool:
        """Return whether rolling elements run in or on it."""
        return self.kind in ROLLS


@cache
def parts_of(design: str) -> tuple[Part, ...]:
    """Return the parts of a hub design, in the order they come off. Raises `UnknownName`."""
    rows = table("inspection/parts.toml")
    keys = rows["order"][one_of(design, rows["order"], "hub design")]
    return tuple(Part(key, **rows["part"][key]) for key in keys)
