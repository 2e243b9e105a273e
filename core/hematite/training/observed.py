"""What the bench would answer to a practice question, and on what way."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True)
class Step:
    """One test on the way: which, at which hub, what came of it, and its minutes."""

    test: str
    hub: str
    words: str
    minutes: float


@dataclass(frozen=True)
class Observed:
    """What the bench would answer, how sure, and by which steps.

    `given`: what `marking.mark` is told beside hub and key: the `order` of a job's steps, or how a `nut` was left.
    """

    hub: str
    key: str
    probability: float
    steps: tuple[Step, ...]
    given: Mapping[str, Any] = field(default_factory=dict)

    @property
    def minutes(self) -> float:
        """Return what its tests take."""
        return sum(step.minutes for step in self.steps)
