"""The next test: the largest expected gain for its minutes, over what has been asked already."""

from collections.abc import Sequence
from dataclasses import dataclass

from hematite.evidence import Beliefs
from hematite.evidence.weighing import expected_gain_bits, witnesses
from hematite.vehicles import Hub

SETTLED_AT = 0.9


@dataclass(frozen=True)
class NextTest:
    """The test worth doing next: a witness's key or 'decide', at a hub, with the reason in a line."""

    test: str
    hub: str | None
    label: str
    why: str
    stage: str
    minutes: float


def next_test(ranked: Sequence[tuple[Hub, Beliefs]]) -> NextTest:
    """Return the test with the largest expected gain for its minutes; 'decide' when the lead is settled.

    `ranked` are hubs with their beliefs, most suspect first.
    """
    hub, beliefs = ranked[0]
    wrong = 1 - beliefs.probabilities["sound"]
    if wrong >= SETTLED_AT and len(beliefs.weights) > 1:
        why = f"{hub.id} is certain enough; more tests would not change what to do there."
        return NextTest("decide", hub.id, "Read the verdict", why, "decide", 1)
    options = [(hub, beliefs, key) for hub, beliefs in ranked for key in _askable(hub, beliefs)]
    if not options:
        return NextTest("decide", hub.id, "Read the verdict", "Every test has been done.", "decide", 1)
    hub, _, key = max(options, key=lambda option: expected_gain_bits(option[1], option[2]) / _minutes(option[2]))
    row = witnesses()[key]
    return NextTest(key, hub.id, row["act"], row["why"], row["stage"], _minutes(key))


def _minutes(key: str) -> float:
    return float(witnesses()[key]["minutes"])


def _askable(hub: Hub, beliefs: Beliefs) -> list[str]:
    """Return the witnesses not yet heard at a hub, leaving out what its design or the order of work forbids."""
    heard = {statement.witness: statement.outcome(hub.id) for statement, _ in beliefs.weights}
    closed = hub.design_key in ("hub_unit", "pressed_double_row")
    return [
        key
        for key, row in witnesses().items()
        if key not in heard
        and not (key == "opened" and closed)
        and not row.get("recorded")
        and (row.get("needs", key) == key or heard.get(row["needs"], "nothing") != "nothing")
    ]
