"""Proof: the same hub heard before and after the repair, and what went and what stayed."""

from dataclasses import dataclass

from hematite.families import FAINT
from hematite.listening import Heard

QUIETER_DB = 3.0  # half the power: what counts as quieter; judgement


@dataclass(frozen=True)
class LineChange:
    """One fault family before and after, by its strength; `went` when it stood before and no longer does."""

    kind: str
    before: float
    after: float

    @property
    def went(self) -> bool:
        """Return whether a family that stood before has gone."""
        return self.before >= FAINT > self.after

    @property
    def stayed(self) -> bool:
        """Return whether a family stands afterwards."""
        return self.after >= FAINT


@dataclass(frozen=True)
class Proof:
    """The comparison: level change in dB (None when levels may not be compared), families, and the word on it."""

    level_change_db: float | None
    lines: tuple[LineChange, ...]
    outcome: str
    words: str


def prove(before: Heard, after: Heard) -> Proof:
    """Hold an after-recording against the before.

    `outcome`: 'better', 'same', or 'cannot_tell' when a recording is unusable or nothing in it can be compared.
    """
    if not (before.usable and after.usable):
        words = "One of the two recordings is not fit to judge by. Take it again."
        return Proof(None, (), "cannot_tell", words)
    lines = _line_changes(before, after)
    change = _level_change(before, after)
    return Proof(change, lines, *_outcome(change, lines))


def _strengths(heard: Heard) -> dict[str, float]:
    strengths: dict[str, float] = {}
    for family in heard.families:
        strengths[family.kind] = max(family.strength, strengths.get(family.kind, -9.0))
    return strengths


def _line_changes(before: Heard, after: Heard) -> tuple[LineChange, ...]:
    old, new = _strengths(before), _strengths(after)
    return tuple(LineChange(kind, old[kind], new[kind]) for kind in old if kind in new)


def _level_change(before: Heard, after: Heard) -> float | None:
    key = before.situation.comparable_as
    same = key is not None and key == after.situation.comparable_as
    return after.level_db - before.level_db if same else None


def _outcome(change: float | None, lines: tuple[LineChange, ...]) -> tuple[str, str]:
    if any(line.stayed for line in lines):
        return "same", "Fault lines still stand. The job is not proven: look again at this hub."
    if any(line.went for line in lines):
        return "better", "The fault lines that stood before are gone."
    if change is None:
        return "cannot_tell", "No fault lines before or after, and the two levels may not be compared."
    if change <= -QUIETER_DB:
        return "better", f"It is {-change:.0f} dB quieter than before."
    return "same", "It is no quieter than before. Look again, here or elsewhere."
