"""Which differences of practice a job follows at all: how a race is driven out tells nothing of a nut that was set."""

from collections.abc import Iterator
from functools import cache

from hematite.jobs.plan import HubJob, plan
from hematite.jobs.step import Step
from hematite.policy import schools
from hematite.prices import IN_PAIRS
from hematite.vehicles import Axle, Hub, Vehicle

SETS_THE_NUT = "nut"  # the sum of a step that sets play by a nut: where in the window it lands is a school


@cache
def followed_by(design: str, choice: str) -> frozenset[str]:
    """Return the schools whose options change the steps of a job at a hub of this design, as it is usually fitted.

    Raises `UnknownName` for a design or a choice that there is not.
    """
    found = {key for key in schools() if len({_told(design, choice, key, option) for option in _options(key)}) > 1}
    if any(step.sum == SETS_THE_NUT for step in _steps(design, choice, {})):
        found.add("slack")
    return frozenset(found | ({"sides"} if choice in IN_PAIRS else set()))


def _options(school: str) -> Iterator[str]:
    return (option.key for option in schools()[school].options)


def _told(design: str, choice: str, school: str, option: str) -> tuple[tuple[str, str, str], ...]:
    return tuple((step.id, step.do, step.fate) for step in _steps(design, choice, {school: option}))


def _steps(design: str, choice: str, ways: dict[str, str]) -> Iterator[Step]:
    """Return the steps on an axle that drives and on one that does not."""
    for driven in (False, True):
        hubs = tuple(Hub(f"A1{side[0].upper()}", side, design) for side in ("left", "right"))
        yield from plan(Vehicle((Axle(hubs, driven=driven),)), [HubJob("A1L", choice, ways=ways)]).steps
