"""Weighing: from statements of witnesses to the probability of every cause (Bayes' rule over one table).

One thing is wrong, mostly; sometimes two, sometimes nothing. Every single cause at every place, and every pair of
them, is one hypothesis; so what convicts one corner clears the others, and two bad hubs can still both be named.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import Any

import numpy as np
import numpy.typing as npt

from hematite.doors import one_of
from hematite.tables import table
from hematite.vehicles import Vehicle

Floats = npt.NDArray[np.float64]

UNSURE = "unsure"  # an answer, but one that weighs nothing
SECOND = 0.25  # how much likelier or rarer a second fault is than chance alone would have it; judgement
VEHICLE = ""  # the place of a cause that sits at no hub


@dataclass(frozen=True)
class Statement:
    """What one witness says: for each hub it speaks of, shares of belief over its outcomes, adding up to 1.

    A recording in the cabin speaks of every hub that it may be of. `source` is where it comes from.
    """

    witness: str
    said: Mapping[str, Mapping[str, float]]
    source: str = ""

    @classmethod
    def at(cls, hub: str, witness: str, shares: Mapping[str, float], source: str = "") -> "Statement":
        """Return a statement about one hub."""
        return cls(witness, {hub: shares}, source)

    def shares(self, hub: str) -> Mapping[str, float]:
        """Return the shares that concern a hub."""
        return self.said[hub]

    def outcome(self, hub: str) -> str:
        """Return the outcome with the largest share at a hub."""
        shares = self.said[hub]
        return max(shares, key=lambda name: shares[name])

    def words(self, hub: str) -> str:
        """Return that outcome in the trade's words."""
        row = witnesses()[self.witness]
        return str(row["words"][row["outcomes"].index(self.outcome(hub))])


@dataclass(frozen=True)
class Beliefs:
    """Probability of each cause at one place, and what each statement did to the odds of a bearing fault (in bits)."""

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


@dataclass(frozen=True)
class Weighed:
    """The beliefs about every place: `hubs` by hub id, `vehicle` about what sits at no hub; `nothing` wrong at all."""

    hubs: Mapping[str, Beliefs]
    vehicle: Beliefs
    nothing: float


def causes() -> dict[str, Any]:
    """Return the causes that can be at work."""
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


@dataclass(frozen=True)
class _Single:
    """One cause at one place, with its prior."""

    cause: str
    place: str
    prior: float


@cache
def _singles(vehicle: Vehicle) -> tuple[_Single, ...]:
    driven = [hub.id for axle in vehicle.axles if axle.driven for hub in axle.hubs]
    places = {"hub": [hub.id for hub in vehicle.hubs()], "driven_hub": driven, "vehicle": [VEHICLE]}
    found = []
    for cause, row in causes().items():
        where = places[row["at"]] if cause != "sound" else []
        found += [_Single(cause, place, float(row["prior"]) / len(where)) for place in where]
    return tuple(found)


def weigh(said: Sequence[Statement], vehicle: Vehicle) -> Weighed:
    """Return the beliefs about every place of a vehicle. The order of the statements does not matter.

    A doubtful statement is virtual evidence (Pearl, Probabilistic Reasoning in Intelligent Systems, 1988, section 2.2):
    each outcome's likelihood over its overall chance, averaged by the shares of belief in it.
    """
    singles = _singles(vehicle)
    joint = _Joint(singles, said)
    everything = joint.posterior()
    places = [*(hub.id for hub in vehicle.hubs()), VEHICLE]
    without = [joint.posterior(leaving_out=n) for n in range(len(said))]
    beliefs = {place: _beliefs(place, singles, everything, said, without) for place in places}
    vehicle_beliefs = beliefs.pop(VEHICLE)
    return Weighed(beliefs, vehicle_beliefs, everything[1])


Posterior = tuple[Floats, float]  # probability of each single cause being at work, alone or not; and of nothing


class _Joint:
    """Log-likelihoods of every hypothesis, a statement a layer: nothing, singles, pairs."""

    def __init__(self, singles: Sequence[_Single], said: Sequence[Statement]) -> None:
        prior = np.array([single.prior for single in singles])
        self._single = np.log(prior)
        self._nothing = math.log(max(1 - prior.sum(), 1e-6))
        pair = self._single[:, None] + self._single[None, :] + math.log(SECOND)
        self._pair = np.where(_apart(singles), pair, -np.inf)
        self._layers = [_layer(statement, singles) for statement in said]

    def posterior(self, *, leaving_out: int | None = None) -> Posterior:
        layers = [layer for n, layer in enumerate(self._layers) if n != leaving_out]
        nothing = self._nothing + sum(layer[0] for layer in layers)
        single = self._single + sum(layer[1] for layer in layers)
        pair = self._pair + sum(layer[2] for layer in layers)
        top = max(nothing, float(single.max()), float(pair.max()))
        weights = np.exp(single - top), np.exp(pair - top), math.exp(nothing - top)
        total = float(weights[0].sum() + weights[1].sum() / 2 + weights[2])
        return (weights[0] + weights[1].sum(axis=1)) / total, weights[2] / total


def _apart(singles: Sequence[_Single]) -> npt.NDArray[np.bool_]:
    """Return which two causes can be two faults: not the same kind of thing at the same place."""
    group = np.array([f"{s.place} {causes()[s.cause]['group']}" for s in singles])
    return np.asarray(group[:, None] != group[None, :])


def _layer(statement: Statement, singles: Sequence[_Single]) -> tuple[float, Floats, Floats]:
    """Return the log-likelihood of a statement under nothing, each single, and each pair of causes.

    Of two causes that it speaks of, each may be the one it heard; of one that it does not speak of, it hears nothing.
    """
    default = next(iter(statement.said.values()))
    nothing = _likelihood(statement.witness, default, "sound")
    concerned = np.array([s.place in statement.said or s.place == VEHICLE for s in singles])
    each = np.array(
        [
            _likelihood(statement.witness, statement.said.get(s.place, default), s.cause if here else "sound")
            for s, here in zip(singles, concerned, strict=True)
        ]
    )
    both = (each[:, None] + each[None, :]) / 2
    first = np.where(concerned[:, None], each[:, None], each[None, :])
    pair = np.where(concerned[:, None] & concerned[None, :], both, first)
    return math.log(nothing), np.log(each), np.log(pair)


@cache
def _overall(witness: str, outcome: str) -> float:
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


def _likelihood(witness: str, shares: Mapping[str, float], cause: str) -> float:
    return sum(share * chance(witness, name, cause) / _overall(witness, name) for name, share in shares.items())


def _beliefs(
    place: str, singles: Sequence[_Single], now: Posterior, said: Sequence[Statement], without: Sequence[Posterior]
) -> Beliefs:
    own = [n for n, statement in enumerate(said) if place in statement.said]
    here = _bits(place, singles, now)
    weights = [(said[n], here - _bits(place, singles, without[n])) for n in own]
    return Beliefs(_marginal(place, singles, now), tuple(sorted(weights, key=lambda pair: -abs(pair[1]))))


def _marginal(place: str, singles: Sequence[_Single], posterior: Posterior) -> dict[str, float]:
    found = {s.cause: float(p) for s, p in zip(singles, posterior[0], strict=True) if s.place == place}
    return found | {"sound": max(1 - sum(found.values()), 0.0)}


def _bits(place: str, singles: Sequence[_Single], posterior: Posterior) -> float:
    p = Beliefs(_marginal(place, singles, posterior)).bearing
    return math.log2(max(p, 1e-12) / max(1 - p, 1e-12))


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
