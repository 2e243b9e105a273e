"""What an open case waits for: the day's board of a workshop."""

from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass

from hematite.decision import UNTOUCHED
from hematite.jobs import plan
from hematite.tables import table


@dataclass(frozen=True)
class Waiting:
    """A column of the board."""

    key: str
    label: str


@dataclass(frozen=True)
class Decided:
    """What was decided last at a hub of a design, in whose ways, and the steps that are ticked."""

    choice: str
    design: str
    ways: Mapping[str, str]
    ticked: Set[str]

    @property
    def done(self) -> bool:
        """Return whether nothing of its job is left to do."""
        return (
            self.choice in UNTOUCHED or {step.id for step in plan(self.choice, self.design, self.ways)} <= self.ticked
        )


def columns() -> tuple[Waiting, ...]:
    """Return what cases wait for, in the order of the work."""
    return tuple(Waiting(key, **row) for key, row in table("following/waiting.toml").items())


def waits_for(decided: Sequence[Decided], *, found: bool, ordered: bool = False) -> str:
    """Return the key of what a case waits for; `found`: whether anything was recorded or logged, `ordered`: parts."""
    if not decided:
        return "decide" if found else "hear"
    if all(one.done for one in decided):
        return "prove"
    return "parts" if ordered else "do"
