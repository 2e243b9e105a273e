"""The work to come, week by week, against the hours that the workshop has."""

from collections.abc import Sequence
from dataclasses import dataclass

from hematite.doors import finite
from hematite.errors import BadQuantity
from hematite.language import say


@dataclass(frozen=True)
class Week:
    """One week: minutes of work planned in it, minutes there are, and what is carried over because it did not fit."""

    planned: float
    there_are: float
    carried: float

    @property
    def share(self) -> float:
        """Return how full it is with what comes from the week before; more than 1 is too full."""
        return (self.planned + self.carried) / self.there_are if self.there_are else float("inf")


def workload(planned: Sequence[float], there_are: Sequence[float]) -> list[Week]:
    """Return the weeks in order; what a week cannot hold is carried into the next. Raises `BadQuantity`."""
    if len(planned) != len(there_are):
        raise BadQuantity(
            say(
                "{planned} weeks of work and {there_are} weeks of hours do not go together.",
                planned=len(planned),
                there_are=len(there_are),
            )
        )
    weeks, carried = [], 0.0
    for work, hours in zip(planned, there_are, strict=True):
        week = Week(_minutes(work), _minutes(hours), carried)
        carried = max(0.0, week.planned + carried - week.there_are)
        weeks.append(week)
    return weeks


def _minutes(value: float) -> float:
    minutes = finite(value, say("Minutes"))
    if minutes < 0:
        raise BadQuantity(say("{minutes:g} minutes are none. Give zero or more.", minutes=minutes))
    return minutes
