"""Looks: every test that could still be made, every answer it could give, and what that would make of the beliefs."""

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import cache, lru_cache
from typing import Any

import numpy as np
from scipy import special

from hematite.beliefs import Outlook, Weighed
from hematite.beliefs.coupling import each_side
from hematite.beliefs.frame import frame_of
from hematite.beliefs.noise import about_the_noise
from hematite.beliefs.outlook import After
from hematite.beliefs.priors import VEHICLES_KEPT
from hematite.evidence import Observation, Statement, statements
from hematite.evidence.observations import PART
from hematite.evidence.witnesses import (
    LIFT_MINUTES,
    OPEN_MINUTES,
    PASSES,
    VEHICLE,
    Floats,
    causes,
    of_vehicle,
    outcomes,
    witnesses,
)
from hematite.vehicles import Hub, Vehicle

CLOSED = ("hub_unit", "pressed_double_row")  # designs that are not opened to look
MOST_HUBS = 4  # the most suspect ones are worth a test of their own
RECORDING = "fault_lines"
SHARED_LIFT = 5.0  # tests that usually share one lift; judgement
NEED_THE_WHEEL = ("rock", "spin")  # stages that an opened hub is past


@dataclass(frozen=True)
class Progress:
    """What was done already: which tests where ('' for the vehicle), whether it is lifted, which hubs are open.

    `recorder`: whether a recording can be made: known to be so, not to be so, or None before anybody tried.
    """

    asked: frozenset[tuple[str, str]] = frozenset()
    lifted: bool = False
    opened: frozenset[str] = field(default_factory=frozenset)
    recorder: bool | None = None

    @classmethod
    def of(cls, observations: Iterable[Observation], said: Iterable[Statement]) -> "Progress":
        """Read it from the log; 'not done' and 'could not tell' are answers too, and are not asked again."""
        observations, said = list(observations), list(said)
        asked = {(one.kind, one.hub) for one in observations}
        asked |= {(_asked_as(one.witness), one.place) for one in said}
        apart = {kind: witnesses()[kind].get("apart", "") for kind, _ in asked if kind in witnesses()}
        apart[PART] = "opened"
        made = any(one.witness in (RECORDING, "level") for one in said)
        refused = any(one.kind == RECORDING and one.value.get("answer") in PASSES for one in observations)
        return cls(
            asked=frozenset(asked),
            lifted=any(kind == "made_safe" or (apart.get(kind) and kind != RECORDING) for kind, _ in asked),
            opened=frozenset(hub for kind, hub in asked if apart.get(kind) == "opened"),
            recorder=True if made else False if refused else None,
        )

    def minutes(self, witness: str, place: str, *, shared: bool = False) -> float:
        """Return what a test costs now: its own minutes, and those of what must be done first.

        `shared`: of lifting only its part, as other tests will use it too; an opened hub is seldom looked at twice.
        """
        row = witnesses()[witness]
        apart = row.get("apart", "")
        lift = LIFT_MINUTES if apart and not self.lifted else 0.0
        opening = OPEN_MINUTES if apart == "opened" and place not in self.opened else 0.0
        return float(row["minutes"]) + opening + (lift / SHARED_LIFT if shared else lift)


def minutes_of(tests: Iterable[tuple[str, str]]) -> float:
    """Return what tests, as (witness, place), cost one after another: lifted once, each hub opened once."""
    lifted, opened, total = False, frozenset[str](), 0.0
    for witness, place in tests:
        total += Progress(lifted=lifted, opened=opened).minutes(witness, place)
        apart = witnesses()[witness].get("apart", "")
        lifted = lifted or bool(apart)
        opened |= {place} if apart == "opened" else frozenset()
    return total


@dataclass(frozen=True)
class Look:
    """One answer that one test could give: how likely it is, and the classes' probabilities after it, with their bits.

    `classes` and `doubts` (each class's uncertainty, in bits) have shape (classes,).
    """

    witness: str
    place: str
    answer: str
    chance: float
    classes: Floats
    doubts: Floats


@dataclass(frozen=True)
class Classes:
    """What would be acted on alike: a group of causes at a place; a bearing that needs setting or grease apart.

    `sets` by place has shape (classes there, states); `names` are all classes, place by place.
    """

    names: tuple[tuple[str, str], ...]
    sets: dict[str, Floats]


@cache
def classes_of(vehicle: Vehicle) -> Classes:
    """Return the classes of a vehicle's faults."""
    names: list[tuple[str, str]] = []
    sets: dict[str, Floats] = {}
    for place, space in frame_of(vehicle).spaces.items():
        by_class: dict[str, list[str]] = {}
        for cause in space.faults:
            by_class.setdefault(_class(cause, vehicle.hub(place)), []).append(cause)
        names += [(place, name) for name in by_class]
        if by_class:
            sets[place] = np.array([space.any_of(own) for own in by_class.values()], dtype=float)
    return Classes(tuple(names), sets)


def _class(cause: str, hub: Hub | None) -> str:
    group = str(causes()[cause]["group"])
    if group != "bearing" or hub is None:
        return group
    if cause in ("loose", "too_tight") and hub.design.adjusts:
        return "bearing:set"
    return "bearing:dry" if cause == "dry_or_dirty" and hub.design.repacks else "bearing"


def now(weighed: Weighed) -> Floats:
    """Return the probability of every class, shape (classes,)."""
    sets = classes_of(weighed.network.vehicle).sets
    return np.concatenate([own @ weighed.network.marginal(place) for place, own in sets.items()])


def looks(weighed: Weighed, progress: Progress) -> list[list[Look]]:
    """Return the answers of every test that could still be made, a list a test."""
    network = weighed.network
    outlook = Outlook(network.attending(), classes_of(network.vehicle).sets)
    found = []
    for witness, place in _askable(weighed, progress):
        names = outcomes(witness)
        answers = [_statement(witness, place, name, network.vehicle) for name in names]
        chances, after = _after(outlook, answers)
        shares = (chances / chances.sum()).tolist()
        found.append([Look(witness, place, *one) for one in zip(names, shares, after, entropies(after), strict=True)])
    return found


@cache
def _statement(witness: str, place: str, answer: str, vehicle: Vehicle) -> Statement:
    if witness == RECORDING:
        return Statement(witness, place, {answer: 1.0})
    return statements(Observation(witness, place, {"answer": answer}), vehicle)[0]


def _after(outlook: Outlook, answers: Sequence[Statement]) -> After:
    first = answers[0]
    if outlook.network.reads_alone(first):
        return outlook.at_hub(answers)
    if about_the_noise(first):
        return outlook.of_noise(answers)
    if each_side(first):
        return outlook.of_clicks(answers)
    return outlook.tied(answers) if outlook.network.tied(first) else outlook.of_mates(answers)


@lru_cache(maxsize=VEHICLES_KEPT)
def applicable(vehicle: Vehicle) -> dict[str, list[str]]:
    """Return which tests make sense at each hub and, under '', of the vehicle, whatever was asked already."""
    found: dict[str, list[str]] = {VEHICLE: [], **{hub.id: [] for hub in vehicle.hubs()}}
    for witness, row in witnesses().items():
        if row.get("recorded") or "asked_as" in row or vehicle.kind in row.get("not_on", ()):
            continue
        if of_vehicle(witness):
            found[VEHICLE].append(witness)
            continue
        for hub in vehicle.hubs():
            found[hub.id] += [witness] if _fits(row, hub, vehicle) else []
    return found


def _fits(row: dict[str, Any], hub: Hub, vehicle: Vehicle) -> bool:
    if (row.get("where") == "driven" and not vehicle.drives(hub.id)) or (row.get("adjusts") and not hub.design.adjusts):
        return False
    if row.get("apart") == "opened" and hub.design_key in CLOSED:
        return False
    if row.get("against") == "drag" and vehicle.mate(hub.id) is None:
        return False
    return hub.design_key in row.get("only", [hub.design_key])


def _askable(weighed: Weighed, progress: Progress) -> Iterator[tuple[str, str]]:
    """Yield (witness, place) not yet asked, at the most suspect hubs and of the vehicle."""
    vehicle = weighed.network.vehicle
    suspects = sorted(vehicle.hubs(), key=lambda hub: weighed.hubs[hub.id].sound)[:MOST_HUBS]
    fitting = applicable(vehicle)
    for place in (VEHICLE, *(hub.id for hub in suspects)):
        for witness in fitting[place]:
            if (witness, place) not in progress.asked and _ripe(witness, place, weighed, progress):
                yield witness, place


def _asked_as(witness: str) -> str:
    return str(witnesses()[witness].get("asked_as", witness))


def _ripe(witness: str, place: str, weighed: Weighed, progress: Progress) -> bool:
    """Return whether a test can be made now: what it follows on from found something, the wheel is still on."""
    row = witnesses()[witness]
    if witness == RECORDING and progress.recorder is False:
        return False
    if place in progress.opened and (row["stage"] in NEED_THE_WHEEL or witness == RECORDING):
        return False
    return "needs" not in row or any(_found(statement) for statement, _ in weighed.hubs[place].weights)


def _found(statement: Statement) -> bool:
    """Return whether rocking moved something, so that holding the brake tells what."""
    return statement.witness in ("rock_12_6", "rock_3_9") and statement.outcome != "nothing"


def entropies(p: Floats) -> Floats:
    """Return the uncertainty of yes or no at each probability, in bits."""
    safe = np.clip(p, 0.0, 1.0)
    return np.asarray((special.entr(safe) + special.entr(1 - safe)) / math.log(2))
