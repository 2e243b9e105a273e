"""The next test: the largest expected gain for its minutes and for what is already apart."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from hematite.evidence import Weighed
from hematite.evidence.tables import witnesses
from hematite.vehicles import Vehicle
from hematite.verdict.culprits import ACT_AT
from hematite.verdict.looking import Look, Progress, classes_of, entropies, settled

LIKELY = 0.02  # an answer rarer than that is not waited for; judgement
WORTH_BITS = 0.02  # a test that tells less is not worth a walk round the vehicle; judgement


@dataclass(frozen=True)
class NextTest:
    """The test worth doing next: a witness's key or 'decide', at a hub, with the reason in a line.

    `minutes` include what must be done first; `gain_bits` is what it is expected to settle.
    """

    test: str
    hub: str | None
    label: str
    why: str
    stage: str
    minutes: float
    gain_bits: float = 0.0


def next_test(weighed: Weighed, vehicle: Vehicle, progress: Progress, tests: Sequence[Sequence[Look]]) -> NextTest:
    """Return the test with the largest expected gain for its minutes; 'decide' when none could change what to do."""
    classes = classes_of(vehicle)
    now = classes.of(weighed.body.posterior.singles)
    decided = settled(now, weighed.nothing, act_at=ACT_AT)
    lead = int(now.argmax())
    place = classes.names[lead][0] or None
    if decided and not _may_change(decided, tests):
        why = "It is certain enough: no test that is left would change what to do."
        return NextTest("decide", place, "Read the verdict", why, "decide", 1)
    gains = [(_gain(now, tried), tried) for tried in tests]
    gains = [(gain, tried) for gain, tried in gains if gain >= WORTH_BITS]
    if not gains:
        return NextTest("decide", place, "Read the verdict", "No test that is left would tell much.", "decide", 1)
    return _best(gains, progress)


def settling_test(
    hub: str, weighed: Weighed, vehicle: Vehicle, progress: Progress, tests: Sequence[Sequence[Look]]
) -> NextTest | None:
    """Return the test, at this hub or of the whole vehicle, that would settle most of what to do here; or None."""
    own = [n for n, (place, _) in enumerate(classes_of(vehicle).names) if place == hub]
    now = classes_of(vehicle).of(weighed.body.posterior.singles)
    gains = [(_gain(now, tried, own), tried) for tried in tests if tried[0].place in ("", hub)]
    gains = [(gain, tried) for gain, tried in gains if gain >= WORTH_BITS / 2]
    return _best(gains, progress) if gains else None


def _best(gains: Sequence[tuple[float, Sequence[Look]]], progress: Progress) -> NextTest:
    gain, tried = max(gains, key=lambda one: one[0] / progress.minutes(one[1][0].witness, one[1][0].place))
    first = tried[0]
    row = witnesses()[first.witness]
    minutes = progress.minutes(first.witness, first.place)
    return NextTest(first.witness, first.place or None, row["act"], row["why"], row["stage"], minutes, gain)


def _may_change(decided: frozenset[int], tests: Sequence[Sequence[Look]]) -> bool:
    """Return whether any likely answer would undo what is decided; a second fault found on top undoes nothing."""
    return any(
        not decided <= settled(look.classes, look.nothing, act_at=ACT_AT)
        for tried in tests
        for look in tried
        if look.chance >= LIKELY
    )


def _gain(now: np.ndarray, tried: Sequence[Look], own: Sequence[int] | slice = slice(None)) -> float:
    """Return the expected loss of uncertainty over what would be acted on (`own` of it), in bits."""
    after = sum(look.chance * float(entropies(look.classes[own]).sum()) for look in tried)
    return float(entropies(now[own]).sum()) - after
