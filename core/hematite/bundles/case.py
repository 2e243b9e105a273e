"""A case as the core holds it, and the whole of it heard and judged."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from hematite.errors import HematiteError
from hematite.evidence import Observation
from hematite.evidence.observations import before_any_job
from hematite.language import say
from hematite.listening import Heard, Situation, listen
from hematite.policy import Policy
from hematite.recordings import Recording
from hematite.vehicles import Vehicle
from hematite.verdict import Assessment, assess


@dataclass(frozen=True)
class Case:
    """A vehicle, its recordings' situations with a loader for each sound, and its observations.

    `left_out` says in words which observations and recordings could not be read; they weigh nothing.
    """

    vehicle: Vehicle
    situations: tuple[Situation, ...] = ()
    sounds: Mapping[str, Callable[[], Recording]] = field(default_factory=dict)
    observations: tuple[Observation, ...] = ()
    source: Mapping[str, Any] = field(default_factory=dict)
    left_out: tuple[str, ...] = ()


def hear_case(case: Case) -> tuple[tuple[Heard, ...], tuple[str, ...]]:
    """Hear every recording from before any job, one at a time, so that memory holds one only.

    What cannot be heard is left out, and named in words.
    """
    heard: list[Heard] = []
    left_out: list[str] = []
    for situation in case.situations:
        try:
            if not situation.job:
                heard.append(listen(case.sounds[situation.id](), situation, vehicle=case.vehicle))
        except HematiteError as refused:
            left_out.append(say("recording {id}: {refused}", id=situation.id, refused=refused))
    return tuple(heard), tuple(left_out)


def assess_case(case: Case, policy: Policy | None = None) -> tuple[Assessment, tuple[str, ...]]:
    """Hear and judge a case as it was before any job; and return what was left out, in words."""
    heard, unheard = hear_case(case)
    found = assess(case.vehicle, heard, before_any_job(case.observations), policy=policy)
    return found, (*case.left_out, *unheard)
