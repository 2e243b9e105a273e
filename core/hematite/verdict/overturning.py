"""What speaks against the verdict: witnesses that contradict each other, and the facts that would overturn it."""

from collections.abc import Sequence
from dataclasses import dataclass

from hematite.evidence import Statement, Weighed
from hematite.evidence.joint import layers_of
from hematite.evidence.tables import Floats, witnesses
from hematite.evidence.weighing import bits
from hematite.vehicles import Vehicle
from hematite.verdict.culprits import ACT_AT
from hematite.verdict.looking import Look, classes_of

STRONG_BITS = 1.5  # nearly threefold odds, each way; judgement
MOST_OVERTURNERS = 3
LIKELY = 0.005


@dataclass(frozen=True)
class Contradiction:
    """Two witnesses of one hub that pull strongly apart."""

    hub: str
    speaks_for: Statement
    speaks_against: Statement


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
        row = witnesses()[self.witness]
        asked = row.get("asked") or dict(zip(row["outcomes"], row["words"], strict=True))
        return f"{row['label']}: {asked[self.answer]}"


def contradictions(weighed: Weighed) -> tuple[Contradiction, ...]:
    """Return, hub by hub, what speaks strongest each way where both are strong: shown, never averaged away.

    Witnesses that look at one hidden state speak together.
    """
    body = weighed.body
    found = []
    for hub in weighed.hubs:
        pulls = []
        for key, own in layers_of(body.said).items():
            if hub in own[0].said:
                change = bits(hub, body.joint, body.posterior) - bits(hub, body.joint, body.without_layer(key))
                pulls.append((change, own[0]))
        up = max(pulls, key=lambda pull: pull[0], default=(0.0, None))
        down = min(pulls, key=lambda pull: pull[0], default=(0.0, None))
        if up[1] and down[1] and up[0] >= STRONG_BITS and down[0] <= -STRONG_BITS:
            found.append(Contradiction(hub, up[1], down[1]))
    return tuple(found)


def overturners(weighed: Weighed, vehicle: Vehicle, tests: Sequence[Sequence[Look]]) -> tuple[Overturner, ...]:
    """Return the two or three likeliest facts that would bring the leading suspicion below what is acted on."""
    classes = classes_of(vehicle)
    faults = [(place, name.split(":")[0]) for place, name in classes.names]
    now = classes.of(weighed.body.posterior.singles)
    lead = max(set(faults), key=lambda fault: (_of(fault, faults, now), fault))
    if _of(lead, faults, now) < ACT_AT:
        return ()
    found: dict[str, Overturner] = {}
    for look in (look for tried in tests for look in tried):
        left = _of(lead, faults, look.classes)
        if left >= ACT_AT or look.chance < LIKELY:
            continue
        one = Overturner(look.witness, look.place, look.answer, look.chance, left)
        known = found.get(look.witness)
        if known is None or known.chance < one.chance:
            found[look.witness] = one
    return tuple(sorted(found.values(), key=lambda one: -one.chance)[:MOST_OVERTURNERS])


def _of(fault: tuple[str, str], faults: Sequence[tuple[str, str]], classes: Floats) -> float:
    return float(sum(p for name, p in zip(faults, classes, strict=True) if name == fault))
