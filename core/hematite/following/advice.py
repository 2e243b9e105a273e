"""The next test: the largest expected gain for its minutes and for what is already apart, until enough is settled."""

from collections.abc import Sequence
from dataclasses import dataclass

from hematite.beliefs import Weighed
from hematite.decision import UNTOUCHED, Decision, choices
from hematite.evidence.witnesses import Floats, witnesses
from hematite.following.looks import RECORDING, Look, Progress, classes_of, entropies, now
from hematite.language import say, small

WORTH_BITS = 0.02  # a test that tells less is not worth a walk round the vehicle; judgement
WORTH_A_MINUTE = 0.02  # bits; less than that is not worth the time; judgement
NO_RECORDER = 0.4  # how far a recording counts before anybody knows whether there is a recorder; judgement


@dataclass(frozen=True)
class NextTest:
    """The test worth doing next: a witness's key, or 'decide', 'do' or 'prove', at a hub, with the reason in a line.

    `minutes` include what must be done first; `gain_bits` is what it is expected to settle.
    """

    test: str
    hub: str | None
    label: str
    why: str
    stage: str
    minutes: float
    gain_bits: float = 0.0


def next_test(weighed: Weighed, decision: Decision, progress: Progress, tests: Sequence[Sequence[Look]]) -> NextTest:
    """Return the test with the largest expected gain for its minutes; 'decide' when none is worth its time."""
    if decision.settled:
        why = say("It is certain enough: no test that is left is worth its time.")
        return NextTest("decide", decision.hub, say("Read the verdict"), why, "decide", 1)
    before = now(weighed)
    rated = [(_rate(before, tried, progress), tried) for tried in tests]
    rated = [(rate, tried) for rate, tried in rated if rate >= WORTH_A_MINUTE and _gain(before, tried) >= WORTH_BITS]
    if not rated:
        why = say("No test that is left would tell much for its time.")
        return NextTest("decide", decision.hub, say("Read the verdict"), why, "decide", 1)
    return _as_test(before, max(rated, key=lambda one: one[0])[1], progress)


def next_job(choice: str, hub: str, *, step: str = "") -> NextTest:
    """Return what comes once a choice was decided at a hub: the `step` of its job that is next, then its proof."""
    if step:
        return NextTest("do", hub, say("Do it: {choice}", choice=small(choices()[choice])), step, "do", 1)
    if choice in UNTOUCHED:
        why = say("Nothing is mended here; it is looked at again in time.")
        if choice == "look_elsewhere":
            why = say("The bearing stays. Hear it again once the other cause is mended: one noise can hide another.")
        return NextTest("prove", hub, say("Plan the recheck"), why, "prove", 1)
    why = say("What was done is proven by hand and ear.")
    return NextTest("prove", hub, say("Prove it and plan the recheck"), why, "prove", 1)


def settling_test(hub: str, weighed: Weighed, progress: Progress, tests: Sequence[Sequence[Look]]) -> NextTest | None:
    """Return the test, at this hub or of the whole vehicle, that would settle most of what to do here; or None."""
    own = [n for n, (place, _) in enumerate(classes_of(weighed.network.vehicle).names) if place == hub]
    before = now(weighed)
    rated = [(_rate(before, tried, progress, own), tried) for tried in tests if tried[0].place in ("", hub)]
    rated = [(rate, tried) for rate, tried in rated if _gain(before, tried, own) >= WORTH_BITS / 2]
    return _as_test(before, max(rated, key=lambda one: one[0])[1], progress) if rated else None


def _rate(before: Floats, tried: Sequence[Look], progress: Progress, own: Sequence[int] | slice = slice(None)) -> float:
    """Return bits a minute, lifting and opening shared among the tests that use them."""
    first = tried[0]
    doubt = NO_RECORDER if first.witness == RECORDING and progress.recorder is None else 1.0
    return doubt * _gain(before, tried, own) / progress.minutes(first.witness, first.place, shared=True)


def _gain(before: Floats, tried: Sequence[Look], own: Sequence[int] | slice = slice(None)) -> float:
    """Return the expected loss of uncertainty over what would be acted on (`own` of it), in bits."""
    after = sum(look.chance * float(look.doubts[own].sum()) for look in tried)
    return float(entropies(before[own]).sum()) - after


def _as_test(before: Floats, tried: Sequence[Look], progress: Progress) -> NextTest:
    first = tried[0]
    row = witnesses()[first.witness]
    minutes = progress.minutes(first.witness, first.place)
    return NextTest(
        first.witness, first.place or None, row["act"], row["why"], row["stage"], minutes, _gain(before, tried)
    )
