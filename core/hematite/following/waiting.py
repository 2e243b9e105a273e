"""What an open case waits for: the day's board of a workshop."""

from dataclasses import dataclass

from hematite.tables import table


@dataclass(frozen=True)
class Waiting:
    """A column of the board."""

    key: str
    label: str


def columns() -> tuple[Waiting, ...]:
    """Return what cases wait for, in the order of the work."""
    return tuple(Waiting(key, **row) for key, row in table("following/waiting.toml").items())


def waits_for(*, decided: bool, left: bool, found: bool, ordered: bool = False) -> str:
    """Return the key of what a case waits for.

    `decided`: whether anything was; `left`: whether a step of its job is; `found`: whether anything was recorded or
    logged; `ordered`: whether parts are on their way.
    """
    if not decided:
        return "decide" if found else "hear"
    if not left:
        return "prove"
    return "parts" if ordered else "do"
