"""Following the advice from an empty case to the verdict, over seeded cases: minutes, rights, wrongs, reliability."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np

from hematite.evidence import Observation, Statement, statements, weigh
from hematite.evidence.tables import witnesses
from hematite.simulator.hands import Mechanic, draw_fault, draw_vehicle, usual_order
from hematite.vehicles import Vehicle
from hematite.verdict import Assessment, assess
from hematite.verdict.assessment import AT_HUBS
from hematite.verdict.culprits import name_culprits
from hematite.verdict.looking import Progress, applicable

MOST_TESTS = 80
MOST_HALF_WAY = 40
BINS = 10

Answer = Observation | Statement


@dataclass(frozen=True)
class Followed:
    """One case followed to its end.

    `until_named` is the minutes until somebody would be acted on, the rest makes it surer; `usual_minutes` is every
    test in the usual order, `usual_until` that order until somebody would be acted on. `said`
    pairs every probability of a cause at a hub with whether it was so.
    """

    minutes: float
    until_named: float
    usual_minutes: float
    usual_until: float
    right: bool
    falsely: bool
    said: Sequence[tuple[float, bool]] = field(default=())


def cases(count: int, *, seed: int, unlike: bool) -> Iterator[Followed]:
    """Yield cases followed, each from its own seed; with `unlike` mechanics answer by tables of their own."""
    for number in range(count):
        dice = np.random.default_rng([seed, number])
        vehicle = draw_vehicle(dice)
        yield follow(Mechanic(vehicle, draw_fault(vehicle, dice), dice, unlike))


def follow(mechanic: Mechanic) -> Followed:
    """Ask what is advised until nothing is; then once more in the usual order, from an empty case."""
    vehicle = mechanic.vehicle
    answers: list[Answer] = []
    minutes, until_named = 0.0, None
    found = assess(vehicle, [], [])
    while found.next_test.test != "decide" and len(answers) < MOST_TESTS:
        following = found.next_test
        minutes += following.minutes
        answers.append(mechanic.answer(following.test, following.hub or ""))
        found = _judged(vehicle, answers)
        until_named = minutes if until_named is None and found.culprits else until_named
    truth = {(one.group, one.place) for one in mechanic.hidden}
    named = {(culprit.cause, culprit.hub or "") for culprit in found.culprits}
    kinds = {cause for cause, _ in truth}
    wrong = {one for one in named if one not in truth and not (one[1] == "" and one[0] in kinds)}
    return Followed(
        minutes=minutes,
        until_named=minutes if until_named is None else until_named,
        usual_minutes=_minutes(vehicle, _usual(vehicle)),
        usual_until=_until_named(mechanic),
        right=bool(named & truth) if truth else not named,
        falsely=bool(wrong),
        said=[
            (verdict.beliefs.of_group(group), (group, verdict.hub.id) in truth)
            for verdict in found.hubs
            for group in AT_HUBS
            if group != "sound"
        ],
    )


def _judged(vehicle: Vehicle, answers: Iterable[Answer]) -> Assessment:
    answers = list(answers)
    observations = [one for one in answers if isinstance(one, Observation)]
    return assess(vehicle, [], observations, [one for one in answers if isinstance(one, Statement)])


def _usual(vehicle: Vehicle) -> list[tuple[str, str]]:
    fitting = applicable(vehicle)
    return [(witness, place) for witness, place in usual_order(vehicle) if witness in fitting[place]]


def _minutes(vehicle: Vehicle, tests: Iterable[tuple[str, str]]) -> float:
    """Return what tests cost one after another: lifted once, each hub opened once."""
    lifted, opened, total = False, frozenset[str](), 0.0
    for witness, place in tests:
        total += Progress(lifted=lifted, opened=opened).minutes(witness, place)
        apart = witnesses()[witness].get("apart", "")
        lifted = lifted or bool(apart)
        opened |= {place} if apart == "opened" else frozenset()
    return total


def _until_named(mechanic: Mechanic) -> float:
    """Return the minutes of the usual order until somebody would be acted on."""
    vehicle = mechanic.vehicle
    done: list[tuple[str, str]] = []
    said: list[Statement] = []
    for witness, place in _usual(vehicle):
        done.append((witness, place))
        answer = mechanic.answer(witness, place)
        said += [answer] if isinstance(answer, Statement) else statements(answer, vehicle)
        if name_culprits(weigh(said, vehicle), vehicle):
            break
    return _minutes(vehicle, done)


def half_way(count: int, *, seed: int, unlike: bool) -> Iterator[tuple[float, bool]]:
    """Yield every probability of a cause at a hub, with whether it was so, of cases left after a few random tests."""
    for number in range(count):
        dice = np.random.default_rng([seed, number])
        vehicle = draw_vehicle(dice)
        mechanic = Mechanic(vehicle, draw_fault(vehicle, dice), dice, unlike)
        tests = _usual(vehicle)
        chosen = dice.choice(len(tests), min(int(dice.integers(1, MOST_HALF_WAY)), len(tests)), replace=False)
        said: list[Statement] = []
        for at in sorted(chosen):
            answer = mechanic.answer(*tests[at])
            said += [answer] if isinstance(answer, Statement) else statements(answer, vehicle)
        weighed = weigh(said, vehicle)
        truth = {(one.group, one.place) for one in mechanic.hidden}
        for hub, beliefs in weighed.hubs.items():
            for group in AT_HUBS:
                if group != "sound":
                    yield beliefs.of_group(group), (group, hub) in truth


def reliability(said: Iterable[tuple[float, bool]]) -> list[tuple[int, float, float]]:
    """Return for each tenth of probability how many there were, what was said on average, and how often it was so."""
    rows = np.array([(min(int(p * BINS), BINS - 1), p, so) for p, so in said], dtype=float).reshape(-1, 3)
    mean: Callable[[np.ndarray], float] = lambda part: float(part.mean()) if len(part) else 0.0  # noqa: E731
    bins = [rows[rows[:, 0] == n] for n in range(BINS)]
    return [(len(part), mean(part[:, 1]), mean(part[:, 2])) for part in bins]
