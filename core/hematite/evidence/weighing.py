"""Weighing: from statements of witnesses to the probability of each cause at one hub (Bayes' rule over a table)."""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import Any

from hematite.doors import one_of
from hematite.tables import table

UNSURE = "unsure"  # an answer, but one that weighs nothing


@dataclass(frozen=True)
class Statement:
    """What one witness says of one hub: shares of belief over its outcomes, adding up to 1, and where it comes from."""

    witness: str
    shares: Mapping[str, float]
    source: str = ""

    @property
    def outcome(self) -> str:
        """Return the outcome with the largest share."""
        return max(self.shares, key=lambda name: self.shares[name])

    @property
    def words(self) -> str:
        """Return the outcome in the trade's words."""
        row = witnesses()[self.witness]
        return str(row["words"][row["outcomes"].index(self.outcome)])


@dataclass(frozen=True)
class Beliefs:
    """Probability of each cause at one hub, and what each statement did to the odds of a bearing fault (in bits)."""

    probabilities: Mapping[str, float]
    weights: tuple[tuple[Statement, float], ...] = field(default=())

    @property
    def bearing(self) -> float:
        """Return the probability that this hub's bearing is at fault."""
        return self.of_group("bearing")

    def of_group(self, group: str) -> float:
        """Return the probability of a group of causes, such as 'brake'."""
        return sum(p for cause, p in self.probabilities.items() if causes()[cause]["group"] == group)

    @property
    def mechanisms(self) -> dict[str, float]:
        """Return the probabilities of the bearing's own mechanisms."""
        return {c: p for c, p in self.probabilities.items() if causes()[c]["group"] == "bearing"}


def causes() -> dict[str, Any]:
    """Return the causes that can be at work at one hub."""
    return table("evidence/causes.toml")


def witnesses() -> dict[str, Any]:
    """Return the witnesses with their outcomes, words and chances."""
    return table("evidence/witnesses.toml")


@cache
def chance(witness: str, outcome: str, cause: str) -> float:
    """Return how likely a witness gives an outcome when that cause is at work."""
    row = witnesses()[one_of(witness, witnesses(), "witness")]
    index = row["outcomes"].index(one_of(outcome, row["outcomes"], f"answer to “{row['label']}”"))
    return float(row["chances"].get(cause, row["chances"]["other"])[index])


def priors(hub_count: int) -> dict[str, float]:
    """Return the prior of each cause at one of `hub_count` hubs: a complaint ends at one of them, mostly."""
    shares = {cause: float(row["prior"]) / hub_count for cause, row in causes().items()}
    return shares | {"sound": 1 - sum(shares.values())}


def weigh(said: Sequence[Statement], *, hub_count: int) -> Beliefs:
    """Return the beliefs about one hub. The order of the statements does not matter.

    A doubtful statement is virtual evidence (Pearl, Probabilistic Reasoning in Intelligent Systems, 1988, section 2.2):
    each outcome's likelihood over its overall chance, averaged by the shares of belief in it.
    """
    start = priors(hub_count)
    everything = _posterior(start, said)
    beliefs = Beliefs(everything)
    weights = [
        (statement, _bits(beliefs) - _bits(Beliefs(_posterior(start, [s for s in said if s is not statement]))))
        for statement in said
    ]
    return Beliefs(everything, tuple(sorted(weights, key=lambda pair: -abs(pair[1]))))


def _bits(beliefs: Beliefs) -> float:
    odds = max(beliefs.bearing, 1e-12) / max(1 - beliefs.bearing, 1e-12)
    return math.log2(odds)


def _likelihoods(statement: Statement, start: Mapping[str, float]) -> dict[str, float]:
    overall = {
        name: sum(p * chance(statement.witness, name, cause) for cause, p in start.items()) for name in statement.shares
    }
    return {
        cause: sum(
            share * chance(statement.witness, name, cause) / overall[name] for name, share in statement.shares.items()
        )
        for cause in start
    }


def _posterior(start: Mapping[str, float], said: Iterable[Statement]) -> dict[str, float]:
    joint = dict(start)
    for statement in said:
        likelihoods = _likelihoods(statement, start)
        joint = {cause: p * likelihoods[cause] for cause, p in joint.items()}
    total = sum(joint.values())
    return {cause: p / total for cause, p in joint.items()}


def expected_gain_bits(beliefs: Beliefs, witness: str) -> float:
    """Return the expected loss of uncertainty about this hub when a witness is asked (mutual information, bits)."""
    row = witnesses()[witness]
    gain = 0.0
    for outcome in row["outcomes"]:
        joint = {c: p * chance(witness, outcome, c) for c, p in beliefs.probabilities.items()}
        total = sum(joint.values())
        gain += sum(
            part * math.log2(part / (total * beliefs.probabilities[cause])) for cause, part in joint.items() if part > 0
        )
    return gain
