"""The tables of evidence: what can be wrong, who witnesses it, and how likely each answer is."""

from functools import cache
from typing import Any

import numpy as np
import numpy.typing as npt

from hematite.doors import one_of
from hematite.tables import table

Floats = npt.NDArray[np.float64]

UNSURE = "unsure"
PASSES = {UNSURE: "could not tell", "not_done": "not done"}  # answers, but such as weigh nothing
ALL_DRIVEN_SHARE = 0.5  # of the load test's weight where every axle drives and carries the noise along; judgement
LIFT_MINUTES, OPEN_MINUTES = 6.0, 20.0  # to lift and make safe, to take a hub apart; judgement


@cache
def causes() -> dict[str, Any]:
    """Return the causes that can be at work."""
    return table("evidence/causes.toml")


@cache
def states() -> dict[str, Any]:
    """Return the hidden states that several witnesses look at."""
    return table("evidence/states.toml")


@cache
def witnesses() -> dict[str, Any]:
    """Return the witnesses with their outcomes, words and chances: what hands do first, then what recordings say."""
    return table("evidence/hands.toml") | table("evidence/heard.toml")


def label_of(cause: str) -> str:
    """Return a cause in words."""
    return str(causes()[cause]["label"])


def mechanism_of(cause: str) -> str:
    """Return the mechanism under which the case format knows a bearing's cause."""
    return str(causes()[cause].get("mechanism", cause))


def _row(chances: dict[str, Any], name: str) -> Any:
    return chances.get(name, chances["other"]) if "other" in chances else chances[name]


@cache
def in_states(state: str, cause: str) -> Floats:
    """Return how likely each hidden state is when a cause is at work, shape (states,)."""
    return np.array(_row(states()[state]["chances"], cause), dtype=float)


@cache
def by_state(witness: str) -> Floats:
    """Return how likely a witness gives each outcome in each hidden state, shape (states, outcomes)."""
    row = witnesses()[witness]
    return np.array([row["chances"][name] for name in states()[row["reads"]]["states"]], dtype=float)


@cache
def chances(witness: str, cause: str) -> Floats:
    """Return how likely a witness gives each outcome when a cause is at work, shape (outcomes,)."""
    row = witnesses()[one_of(witness, witnesses(), "witness")]
    if "reads" in row:
        return np.asarray(in_states(row["reads"], cause) @ by_state(witness))
    return np.array(_row(row["chances"], cause), dtype=float)


@cache
def cause_names() -> tuple[str, ...]:
    """Return every cause, 'sound' first: the order of columns in what follows."""
    return tuple(causes())


@cache
def states_by_cause(state: str) -> Floats:
    """Return how likely each hidden state is under each cause, shape (causes, states)."""
    return np.array([in_states(state, cause) for cause in cause_names()])


@cache
def telling(witness: str) -> Floats:
    """Return chance over overall chance of each outcome, shape (outcomes, states) for one that reads a state.

    For one that does not, shape (outcomes, causes).
    """
    row = witnesses()[witness]
    table = by_state(witness).T if "reads" in row else np.array([chances(witness, c) for c in cause_names()]).T
    return np.asarray(table / np.array([overall(witness, outcome) for outcome in row["outcomes"]])[:, None])


@cache
def chance(witness: str, outcome: str, cause: str) -> float:
    """Return how likely a witness gives an outcome when that cause is at work."""
    return float(chances(witness, cause)[outcome_index(witness, outcome)])


@cache
def outcome_index(witness: str, outcome: str) -> int:
    """Return the place of an outcome in a witness's row. Raises `UnknownName`."""
    row = witnesses()[one_of(witness, witnesses(), "witness")]
    return int(row["outcomes"].index(one_of(outcome, row["outcomes"], f"answer to “{row['label']}”")))


@cache
def overall(witness: str, outcome: str) -> float:
    """Return how often an outcome is given at all: half the time of sound hubs, else of the causes by their priors.

    'Here' on one side is 'away' on the other, one and the same finding, so the two share their mean.
    """
    mirrored = witnesses()[witness].get("mirrored", ())
    names = mirrored if outcome in mirrored else (outcome,)
    return sum(_given(witness, name) for name in names) / len(names)


def _given(witness: str, outcome: str) -> float:
    rows = [(float(row["prior"]), chance(witness, outcome, cause)) for cause, row in causes().items()]
    faulty = sum(p * c for p, c in rows) / sum(p for p, _ in rows)
    return 0.5 * chance(witness, outcome, "sound") + 0.5 * faulty
