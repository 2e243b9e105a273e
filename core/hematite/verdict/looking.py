"""Looks: every test that could still be made, every answer it could give, and what that would make of the beliefs."""

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt

from hematite.evidence import Observation, Statement, Weighed, statements
from hematite.evidence.joint import VEHICLES_KEPT, joint_of
from hematite.evidence.observations import PART
from hematite.evidence.priors import VEHICLE
from hematite.evidence.tables import LIFT_MINUTES, OPEN_MINUTES, overall, witnesses
from hematite.vehicles import Hub, Vehicle

Floats = npt.NDArray[np.float64]

CLOSED = ("hub_unit", "pressed_double_row")  # designs that are not opened to look
MOST_HUBS = 4  # the most suspect ones are worth a test of their own


@dataclass(frozen=True)
class Progress:
    """What was done already: which tests where ('' for the vehicle), whether it is lifted, which hubs are open."""

    asked: frozenset[tuple[str, str]] = frozenset()
    lifted: bool = False
    opened: frozenset[str] = field(default_factory=frozenset)

    @classmethod
    def of(cls, observations: Iterable[Observation], said: Iterable[Statement]) -> "Progress":
        """Read it from the log; 'not done' and 'could not tell' are answers too, and are not asked again."""
        asked = {(one.kind, one.hub) for one in observations}
        for statement in said:
            whole = witnesses()[statement.witness].get("place") == "vehicle"
            asked |= {(statement.witness, VEHICLE if whole else hub) for hub in statement.said}
        apart = {kind: witnesses()[kind].get("apart", "") for kind, _ in asked if kind in witnesses()}
        apart[PART] = "opened"
        return cls(
            asked=frozenset(asked),
            lifted=any(kind == "made_safe" or apart.get(kind) for kind, _ in asked),
            opened=frozenset(hub for kind, hub in asked if apart.get(kind) == "opened"),
        )

    def minutes(self, witness: str, place: str) -> float:
        """Return what a test costs now: its own minutes, and those of what must be done first."""
        row = witnesses()[witness]
        apart = row.get("apart", "")
        first = LIFT_MINUTES if apart and not self.lifted else 0.0
        return float(row["minutes"]) + first + (OPEN_MINUTES if apart == "opened" and place not in self.opened else 0.0)


@dataclass(frozen=True)
class Look:
    """One answer that one test could give: how likely it is, and the classes' probabilities after it."""

    witness: str
    place: str
    answer: str
    chance: float
    classes: Floats
    nothing: float


@dataclass(frozen=True)
class Classes:
    """What would be acted on alike: a group of causes at a place; a bearing that needs setting or grease apart."""

    names: tuple[tuple[str, str], ...]
    of_single: Floats

    def of(self, singles: Floats) -> Floats:
        """Return the probability of each class, shape (classes,)."""
        return np.minimum(self.of_single @ singles, 1.0)


@lru_cache(maxsize=VEHICLES_KEPT)
def classes_of(vehicle: Vehicle) -> Classes:
    """Return the classes of a vehicle's causes."""
    joint = joint_of(vehicle)
    keys = [(single.place, _class(single.cause, single.group, vehicle.hub(single.place))) for single in joint.singles]
    names = tuple(dict.fromkeys(keys))
    return Classes(names, np.array([[float(key == name) for key in keys] for name in names]))


def _class(cause: str, group: str, hub: Hub | None) -> str:
    if group != "bearing" or hub is None:
        return group
    if cause == "loose" and hub.design.adjusts:
        return "bearing:loose"
    return "bearing:dry" if cause == "dry_or_dirty" and hub.design.repacks else "bearing"


def looks(weighed: Weighed, vehicle: Vehicle, progress: Progress) -> list[list[Look]]:
    """Return the answers of every test that could still be made, a list a test."""
    classes = classes_of(vehicle)
    return [
        _looks(weighed, classes, place, list(_answers(witness, place, vehicle)))
        for witness, place in _askable(weighed, vehicle, progress)
    ]


def _looks(weighed: Weighed, classes: Classes, place: str, answers: list[tuple[str, Statement]]) -> list[Look]:
    """Return the answers of one test, their chances adding up to 1."""
    after = weighed.body.adding([statement for _, statement in answers])
    top = max(posterior.log_evidence for posterior in after)
    weights = [
        math.exp(posterior.log_evidence - top) * overall(s.witness, s.outcome(next(iter(s.said))))
        for posterior, (_, s) in zip(after, answers, strict=True)
    ]
    return [
        Look(s.witness, place, answer, weight / sum(weights), classes.of(posterior.singles), posterior.nothing)
        for weight, posterior, (answer, s) in zip(weights, after, answers, strict=True)
    ]


def _answers(witness: str, place: str, vehicle: Vehicle) -> Iterator[tuple[str, Statement]]:
    row = witnesses()[witness]
    if row.get("place") != "vehicle":
        yield from ((name, Statement.at(place, witness, {name: 1.0})) for name in row["outcomes"])
        return
    for answer in row.get("asked") or row["outcomes"]:
        yield answer, statements(Observation(witness, "", {"answer": answer}), vehicle)[0]


def applicable(vehicle: Vehicle) -> dict[str, list[str]]:
    """Return which tests make sense at each hub and, under '', of the vehicle, whatever was asked already."""
    driven = {hub.id for axle in vehicle.axles if axle.driven for hub in axle.hubs}
    found: dict[str, list[str]] = {VEHICLE: [], **{hub.id: [] for hub in vehicle.hubs()}}
    for witness, row in witnesses().items():
        if row.get("recorded"):
            continue
        if row.get("place") == "vehicle":
            found[VEHICLE] += [witness] if _on_the_road(witness, vehicle) else []
            continue
        for hub in vehicle.hubs():
            found[hub.id] += [witness] if _fits(row, hub, hub.id in driven) else []
    return found


def _on_the_road(witness: str, vehicle: Vehicle) -> bool:
    """A trailer has no engine of its own to follow and no driven joint to click."""
    return witness not in ("turn_clicks", "speed_test", "coast_test") or any(axle.driven for axle in vehicle.axles)


def _fits(row: dict[str, Any], hub: Hub, driven: bool) -> bool:
    if row.get("where") == "driven" and not driven:
        return False
    if row.get("apart") == "opened" and hub.design_key in CLOSED:
        return False
    return hub.design_key in row.get("only", [hub.design_key])


def _askable(weighed: Weighed, vehicle: Vehicle, progress: Progress) -> Iterator[tuple[str, str]]:
    """Yield (witness, place) not yet asked, at the most suspect hubs and of the vehicle."""
    suspects = sorted(vehicle.hubs(), key=lambda hub: weighed.hubs[hub.id].probabilities["sound"])[:MOST_HUBS]
    fitting = applicable(vehicle)
    for place in (VEHICLE, *(hub.id for hub in suspects)):
        for witness in fitting[place]:
            if (witness, place) not in progress.asked and _ripe(witness, place, weighed):
                yield witness, place


def _ripe(witness: str, place: str, weighed: Weighed) -> bool:
    """Return whether what a test follows on from has found something."""
    if "needs" not in witnesses()[witness]:
        return True
    return any(_found(statement, place) for statement, _ in weighed.hubs[place].weights)


def _found(statement: Statement, hub: str) -> bool:
    """Return whether rocking moved something, so that holding the brake tells what."""
    return statement.witness in ("rock_12_6", "rock_3_9") and statement.outcome(hub) != "nothing"


def entropies(p: Floats) -> Floats:
    """Return the uncertainty of yes or no at each probability, in bits."""
    safe = np.clip(p, 1e-12, 1 - 1e-12)
    return np.asarray(-safe * np.log2(safe) - (1 - safe) * np.log2(1 - safe))


def settled(classes: Floats, nothing: float, *, act_at: float) -> frozenset[int]:
    """Return what would be acted on: the classes that are certain enough; −1 when it is that nothing is wrong."""
    found = frozenset(int(n) for n in np.flatnonzero(classes >= act_at))
    return found or (frozenset({-1}) if nothing >= act_at else frozenset())
