"""Steps of one job to be put in order: which are asked, what each needs, and what came too early in an answer."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from math import factorial

import numpy as np

from hematite.jobs import HubJob, Step, plan
from hematite.policy import Policy
from hematite.training.levels import level, topic
from hematite.training.truth import Truth
from hematite.vehicles import Vehicle

# Only what must have its place is asked: parts off and on, settings, and of what frames a job the one that must wait
# for all. Cleaning, looking and measuring could as well be done a little sooner or later.
ACTS, LAST = ("off", "on", "set"), "drive"
DRAWS = 12  # of steps, of which the one is asked that chance orders most seldom
Needs = Mapping[str, frozenset[str]]


@dataclass(frozen=True)
class Asked:
    """The steps of a question in an order that works, what each needs of the others, and how they are shown."""

    steps: tuple[Step, ...]
    needs: Needs
    shown: tuple[str, ...]

    def words(self) -> dict[str, str]:
        """Return what each step says."""
        return {step.id: step.do for step in self.steps}

    @property
    def by_chance(self) -> float:
        """Return how often an order picked blindly is right."""
        return orders(self.needs) / factorial(len(self.steps))


@dataclass(frozen=True)
class Early:
    """A step that was put before what it needs; `after`: the last of that, in an order that works."""

    step: str
    needs: frozenset[str]
    after: str


def asked(truth: Truth, vehicle: Vehicle, policy: Policy) -> Asked:
    """Return the steps of a question, as the workshop's ways have them; the same for the same truth and ways."""
    choice = topic(truth.topic).matters[truth.matter].choice
    made = plan(vehicle, [HubJob(truth.at, choice, ways=policy.schools)]).steps
    steps = [step for step in made if step.part or step.id == LAST]
    known = {step.id for step in steps}
    needs = closed({step.id: [need for need in step.needs if need in known] for step in steps})
    once = [step for step in steps if step.act in ACTS or step.id == LAST]
    once = [step for step in once if sum(step.do == other.do for other in once) == 1]
    many, among = level(truth.level).steps
    dice = np.random.default_rng([truth.seed, many, among])
    draws = [_drawn(once, many, among, dice) for _ in range(DRAWS)]
    chosen = min(draws, key=lambda own: orders(_within(needs, own)))
    shown = [chosen[int(n)].id for n in dice.permutation(len(chosen))]
    return Asked(tuple(chosen), _within(needs, chosen), tuple(shown))


def _drawn(steps: Sequence[Step], many: int, among: int, dice: np.random.Generator) -> list[Step]:
    """Return some of the steps that follow one another, in their order."""
    first = int(dice.integers(max(len(steps) - among, 0) + 1))
    near = steps[first : first + among]
    places = dice.choice(len(near), size=min(many, len(near)), replace=False)
    return [near[n] for n in sorted(int(place) for place in places)]


def _within(needs: Needs, steps: Sequence[Step]) -> Needs:
    ids = {step.id for step in steps}
    return {step.id: needs[step.id] & ids for step in steps}


def closed(needs: Mapping[str, Sequence[str]]) -> Needs:
    """Return what each needs, and what those need in turn; `needs` names each after all that it needs."""
    found: dict[str, frozenset[str]] = {}
    for id, own in needs.items():
        found[id] = frozenset(own).union(*(found[need] for need in own))
    return found


def orders(needs: Needs) -> int:
    """Return in how many orders all can be done, each after what it needs (linear extensions, by subsets)."""
    ids = list(needs)
    under = [sum(1 << ids.index(need) for need in needs[id]) for id in ids]

    @cache
    def ways(done: int) -> int:
        ready = [n for n in range(len(ids)) if not done >> n & 1 and under[n] & ~done == 0]
        return sum(ways(done | 1 << n) for n in ready) if done + 1 < 1 << len(ids) else 1

    return ways(0)


def early(order: Sequence[str], needs: Needs) -> list[Early]:
    """Return the steps of an answer that stand before what they need, in the answer's order."""
    late = {id: needs[id].intersection(order[n + 1 :]) for n, id in enumerate(order)}
    return [Early(id, own, [need for need in needs if need in own][-1]) for id, own in late.items() if own]
