"""A case as the core holds it, and the whole of it heard and judged."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from hematite.evidence import Observation
from hematite.evidence.observations import before_any_job
from hematite.listening import Heard, Situation, listen
from hematite.policy import Policy
from hematite.recordings import Recording
from hematite.vehicles import Vehicle
from hematite.verdict import Assessment, assess


@dataclass(frozen=True)
class Case:
    """A vehicle, its recordings' situations with a loader for each sound, and its observations.

    `left_out` says in words which observations could not be read; they weigh nothing.
    """

    vehicle: Vehicle
    situations: tuple[Situation, ...] = ()
    sounds: Mapping[str, Callable[[], Recording]] = field(default_factory=dict)
    observations: tuple[Observation, ...] = ()
    source: Mapping[str, Any] = field(default_factory=dict)
    left_out: tuple[str, ...] = ()


def hear_case(case: Case) -> tuple[Heard, ...]:
    """Hear every recording of a case, one at a time, so that memory holds one only."""
    return tuple(
        listen(
            case.sounds[situation.id](),
            situation,
            vehicle=case.vehicle,
        )
        for situation in case.situations
        if not situation.job
    )


def assess_case(case: Case, policy: Policy | None = None) -> Assessment:
    """Hear and judge a case as it was before any job, by a workshop's policy where there is one."""
    return assess(case.vehicle, hear_case(case), before_any_job(case.observations), policy=policy)
