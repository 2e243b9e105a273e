"""From what was felt and seen to statements: observations in the table's outcomes."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import one_of
from hematite.errors import UnknownName
from hematite.evidence.weighing import UNSURE, Statement, witnesses
from hematite.play import end_play
from hematite.vehicles import Hub

CHOICE_KINDS = ("rock", "brake_held", "spin", "opened")
KINDS = ("end_play", *CHOICE_KINDS, "made_safe", "note")


@dataclass(frozen=True)
class Observation:
    """One thing a mechanic found. `value` has the fields of the case format for its kind."""

    kind: str
    hub: str
    value: Mapping[str, Any] = field(default_factory=dict)
    source: str = ""


def statements(observation: Observation, hub: Hub) -> list[Statement]:
    """Return what one observation says; empty when it says nothing of a cause.

    Raises `UnknownName` for a kind or answer that no table lists, `BadQuantity` for readings that cannot be.
    """
    one_of(observation.kind, KINDS, "kind of observation")
    if observation.kind == "end_play":
        measured = _measured(observation, hub)
        return [Statement.at(hub.id, "end_play", measured.outcomes, observation.source)]
    if observation.kind in CHOICE_KINDS:
        return _choice(observation, hub)
    return []


def _measured(observation: Observation, hub: Hub) -> Any:
    resolution = observation.value.get("resolution_mm") or 0.01
    return end_play(observation.value.get("readings_mm", []), hub, resolution_mm=resolution)


def _choice(observation: Observation, hub: Hub) -> list[Statement]:
    answer = str(observation.value.get("answer", ""))
    if answer == UNSURE:
        return []
    row = witnesses()[observation.kind]
    if answer not in row["outcomes"]:
        allowed = ", ".join([*row["outcomes"], UNSURE])
        raise UnknownName(f"“{answer}” is no answer to “{row['label']}”. Choose one of: {allowed}.")
    return [Statement.at(hub.id, observation.kind, {answer: 1.0}, observation.source)]
