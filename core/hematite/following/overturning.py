"""What speaks against the verdict: witnesses that contradict each other, and the facts that would overturn it."""

from collections.abc import Sequence
from dataclasses import dataclass

from hematite.beliefs import Weighed, likelihood
from hematite.beliefs.weighing import bits
from hematite.decision import act_at
from hematite.evidence import Statement
from hematite.evidence.witnesses import Floats, witnesses, words_for
from hematite.following.looks import Look, classes_of, now

STRONG_BITS = 1.5  # nearly threefold odds, each way; judgement
MOST_OVERTURNERS = 3
WORTH_NAMING = 0.005  # a rarer answer would read 0 %


@dataclass(frozen=True)
class Contradiction:
    """Two witnesses of one hub that pull strongly apart; or one test, with `also` for its other answer."""

    hub: str
    speaks_for: str
    speaks_against: str


@dataclass(frozen=True)
class Overturner:
    """A fact that would overturn the leading suspicion: the test, its answer, how likely, and what would be left."""

    witness: str
    place: str
    answer: str
    chance: float
    leaves: float

    @property
    def words(self) -> str:
        """Return the fact in words."""
        return f"{witnesses()[self.witness]['label']}: {words_for(self.witness)[self.answer]}"


def contradictions(weighed: Weighed) -> tuple[Contradiction, ...]:
    """Return, hub by hub, what speaks strongest each way where both are strong: shown, never averaged away.

    Witnesses that look at one hidden thing speak together; one test that was answered both ways contradicts itself.
    What was heard from afar may be another hub's, and contradicts nobody at this one.
    """
    found = []
    for hub, belief in weighed.hubs.items():
        own = [one for one, _ in belief.weights if not (one.of_vehicle or witnesses()[one.witness].get("from_afar"))]
        found += [_with_itself(hub, one) for one in own if _both_ways(one)]
        pulls = [(_pull(weighed, hub, kin), kin[0]) for kin in likelihood.kin(own).values() if _alone(weighed, kin)]
        up = max(pulls, key=lambda pull: pull[0], default=(0.0, None))
        down = min(pulls, key=lambda pull: pull[0], default=(0.0, None))
        if up[1] and down[1] and up[0] >= STRONG_BITS and down[0] <= -STRONG_BITS:
            found.append(Contradiction(hub, up[1].words, down[1].words))
    return tuple(found)


def _both_ways(statement: Statement) -> bool:
    """Return whether people answered one test in two ways; figures and recordings only share their doubt out."""
    row = witnesses()[statement.witness]
    figures = row.get("flat") or row.get("recorded") or statement.witness in ("fault_lines", "opened")
    return not figures and len(statement.shares) > 1


def _with_itself(hub: str, statement: Statement) -> Contradiction:
    said = [words_for(statement.witness)[name] for name in statement.shares]
    return Contradiction(hub, f"{witnesses()[statement.witness]['label']}: {said[0]}", said[1])


def _alone(weighed: Weighed, kin: Sequence[Statement]) -> bool:
    return all(weighed.network.reads_alone(one) for one in kin)


def _pull(weighed: Weighed, hub: str, kin: Sequence[Statement]) -> float:
    bearing = weighed.hubs[hub].space.group("bearing")
    return bits(weighed.hubs[hub].bearing) - bits(float(weighed.network.without(kin) @ bearing))


def overturners(weighed: Weighed, tests: Sequence[Sequence[Look]]) -> tuple[Overturner, ...]:
    """Return the two or three likeliest facts that would bring the leading suspicion below what is acted on."""
    faults = [(place, name.split(":")[0]) for place, name in classes_of(weighed.network.vehicle).names]
    before = now(weighed)
    lead = max(sorted(set(faults)), key=lambda fault: _of(fault, faults, before))
    least = act_at(lead[1])
    if _of(lead, faults, before) < least:
        return ()
    found: dict[str, Overturner] = {}
    for look in (look for tried in tests for look in tried):
        left = _of(lead, faults, look.classes)
        if left >= least or look.chance < WORTH_NAMING:
            continue
        one = Overturner(look.witness, look.place, look.answer, look.chance, left)
        known = found.get(look.witness)
        if known is None or known.chance < one.chance:
            found[look.witness] = one
    return tuple(sorted(found.values(), key=lambda one: -one.chance)[:MOST_OVERTURNERS])


def _of(fault: tuple[str, str], faults: Sequence[tuple[str, str]], classes: Floats) -> float:
    return float(sum(p for name, p in zip(faults, classes, strict=True) if name == fault))
