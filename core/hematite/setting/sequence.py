"""The moves of setting a nut, by the workshop's school and by what locks it."""

from collections.abc import Mapping
from dataclasses import dataclass

from hematite.doors import one_of
from hematite.language import say, small
from hematite.tables import table

TABLE = "setting/sequence.toml"
SCHOOLS = ("dial", "light_torque", "feel")
BY_DESIGN = {"taper_castle": "castle", "taper_pressurised": "castle", "taper_clamp": "pinch", "cup_cone": "cone"}


@dataclass(frozen=True)
class Move:
    """One move of the hands. `torque`: whose it needs; `shows`: the sum that stands there; `asks`: what is entered."""

    id: str
    do: str
    torque: str = ""
    shows: str = ""
    asks: str = ""
    drags: bool = False


def lock_of(design: str, facts: Mapping[str, str]) -> str:
    """Return what locks the nut of a hub: castle, retainer, plate, tab, pinch or cone; '' where no nut is set."""
    lock = BY_DESIGN.get(design, facts.get("nut_lock", "tab") if design == "taper_locknut" else "")
    return "retainer" if lock == "castle" and facts.get("castle") == "retainer" else lock


def drags_first() -> tuple[str, str]:
    """Return the witness, and its answer, that a hub gives which drags before its slack is gone."""
    row = table(TABLE)["worn"]
    return row["kind"], row["answer"]


def sequence(school: str, lock: str) -> tuple[Move, ...]:
    """Return the moves of a school for a nut with a lock. Raises `UnknownName`. Common practice, no source."""
    rows = table(TABLE)
    words = rows["lock_words"][one_of(lock, rows["lock_words"], say("lock of a nut"))]
    return tuple(
        Move(
            row["id"],
            f"{row['do'].rstrip('.')}: {small(words)}" if row["id"] == "lock" else row["do"],
            row.get("torque", ""),
            row.get("shows", ""),
            row.get("asks", ""),
            row.get("drags", False),
        )
        for row in rows[one_of(school, SCHOOLS, say("way of setting a nut"))]
        if lock in row.get("lock", (lock,))
    )
