"""When to come back: a recheck by distance and by days."""

from dataclasses import dataclass

from hematite.doors import one_of
from hematite.hubs import design
from hematite.tables import table


@dataclass(frozen=True)
class Recheck:
    """A recheck: after `km` kilometres (0: not by distance) or `days` days, whichever comes first."""

    km: int
    days: int
    why: str


def recheck(choice: str, design_key: str = "") -> Recheck:
    """Return the usual recheck after a choice, at a hub of a design where it is known; raises `UnknownName`.

    Where a nut was set it is the nut's; a design without one has no nut to look at again.
    """
    rows = dict(table("upkeep.toml"))
    set_by_nut = rows.pop("set_by_nut")
    row = rows[one_of(choice, rows, "choice")]
    built = design(design_key) if design_key else None
    if built and choice in set_by_nut["choices"]:
        row = {name: set_by_nut[name] for name in row} if built.adjusts == "nut" else rows["replace_bearing"]
    return Recheck(**row)
