"""Which ticks still hold when something else was decided: what went back on is on, what is off is still off."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from hematite.assembly import library
from hematite.tables import table


@dataclass(frozen=True)
class Tick:
    """A step ticked, or its tick taken back; `at` any moment that can be compared."""

    step: str
    done: bool
    at: Any


def standing(ticks: Iterable[Tick], decided: Mapping[str, Any]) -> frozenset[str]:
    """Return the steps that are done, from the log of ticks; `decided`: when it was decided last at each hub.

    What was done to a part that was put back before the last decision at its hub counts no more: the new plan takes it
    off again. What was proven before it is proven anew.
    """
    log = list(ticks)
    latest = {tick.step: tick for tick in log}
    done = [tick for tick in latest.values() if tick.done]
    back = {_place(tick.step) for tick in done if tick.step.endswith(".on") and _overtaken(tick, decided)}
    return frozenset(tick.step for tick in done if not _gone(tick, back, decided))


def is_step(step: str, hubs: Iterable[str]) -> bool:
    """Return whether a step's id names a hub of a vehicle and a part or a row of the frame, whatever is decided now."""
    hub, name = _place(step)
    return hub in ("", *hubs) and (name in library() or name == "look" or name in _frame())


def _gone(tick: Tick, back: set[tuple[str, str]], decided: Mapping[str, Any]) -> bool:
    if not _overtaken(tick, decided):
        return False
    hub, part = _place(tick.step)
    if part == "look":
        return any(other == hub for other, _ in back)
    return (hub, part) in back or part in _proofs()


def _overtaken(tick: Tick, decided: Mapping[str, Any]) -> bool:
    """Return whether it was decided anew after a tick: at its hub, or anywhere where it is of the whole job."""
    hub = _place(tick.step)[0]
    times = [decided[hub]] if hub in decided else [] if hub else list(decided.values())
    return any(tick.at < time for time in times)


def _place(step: str) -> tuple[str, str]:
    """Return the hub, '' for the whole job, and the part or the row of the frame that a step's id names."""
    names = step.split(".")
    if len(names) == 3:
        return names[0], names[1]
    return ("", names[0]) if len(names) == 1 or names[0] == "lift" else (names[0], names[1])


def _proofs() -> frozenset[str]:
    return frozenset(row["id"] for row in table("jobs/frame.toml")["end"])


def _frame() -> frozenset[str]:
    return frozenset(row["id"] for rows in table("jobs/frame.toml").values() for row in rows)
