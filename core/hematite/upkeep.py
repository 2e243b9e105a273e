"""When to come back: a recheck by distance and by days."""

from dataclasses import dataclass

from hematite.doors import one_of
from hematite.tables import table


@dataclass(frozen=True)
class Recheck:
    """A recheck: after `km` kilometres (0: not by distance) or `days` days, whichever comes first."""

    km: int
    days: int
    why: str


def recheck(choice: str) -> Recheck:
    """Return the usual recheck after a choice; raises `UnknownName`."""
    rows = table("upkeep.toml")
    return Recheck(**rows[one_of(choice, rows, "choice")])
