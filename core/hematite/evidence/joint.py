"""The joint sums: nothing wrong, every single cause and every pair of causes, each weighed by all that was said.

Statements that read one hidden state of one place make one layer: the state is summed out, so several looks at one
noise or one movement count as looks at it, not as so many faults.
"""

import math
from collections.abc import Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
import numpy.typing as npt

from hematite.evidence.priors import SAME_AXLE, SECOND, VEHICLE, Single, singles
from hematite.evidence.statement import Statement
from hematite.evidence.tables import cause_names, outcome_index, states_by_cause, telling, witnesses
from hematite.vehicles import Vehicle

Floats = npt.NDArray[np.float64]
TINY = 1e-12
VEHICLES_KEPT = 256  # whose hypotheses are kept worked out


@dataclass(frozen=True)
class Layer:
    """Log-likelihoods of nothing, of each single cause, shape (singles,), and of each pair, (singles, singles)."""

    nothing: float
    single: Floats
    pair: Floats


@dataclass(frozen=True)
class Posterior:
    """Probability of each single cause being at work, alone or not, shape (singles,); and of nothing being wrong.

    `log_evidence` is the logarithm of how likely all that was said is, over what is said anyhow.
    """

    singles: Floats
    nothing: float
    log_evidence: float


def layer_key(statement: Statement) -> Hashable:
    """Return what makes statements one layer: the same hidden state of the same places, else the witness itself."""
    return witnesses()[statement.witness].get("reads", statement.witness), statement.places


def layers_of(said: Iterable[Statement]) -> dict[Hashable, list[Statement]]:
    """Return statements by layer."""
    grouped: dict[Hashable, list[Statement]] = {}
    for statement in said:
        grouped.setdefault(layer_key(statement), []).append(statement)
    return grouped


class Joint:
    """Every hypothesis about a vehicle with its log-prior, and the layers that statements make on them."""

    def __init__(self, vehicle: Vehicle) -> None:
        self.singles = singles(vehicle)
        prior = np.array([single.prior for single in self.singles])
        pair = np.log(prior)[:, None] + np.log(prior)[None, :] + np.log(SECOND * _together(self.singles))
        self.prior = Layer(math.log(1 - prior.sum()), np.log(prior), np.where(_apart(self.singles), pair, -np.inf))
        self._column = np.array([cause_names().index(single.cause) for single in self.singles])
        self._at = {
            place: np.array([single.place == place for single in self.singles])
            for place in (VEHICLE, *(hub.id for hub in vehicle.hubs()))
        }

    def told(self, statements: Sequence[Statement]) -> tuple[float, Floats, npt.NDArray[np.bool_]]:
        """Return the likelihood of statements of one layer under nothing and each single; and which it speaks of."""
        places = statements[0].said
        by_place = {place: _by_cause(statements, place) for place in places}
        default = next(iter(by_place.values()))
        nothing = float(default[0])
        each = np.full(len(self.singles), nothing)
        concerned = self._at[VEHICLE].copy()
        each[concerned] = default[self._column[concerned]]
        for place, likelihood in by_place.items():
            here = self._at[place]
            each[here] = likelihood[self._column[here]]
            concerned |= here
        return nothing, each, concerned

    def layer(self, statements: Sequence[Statement]) -> Layer:
        """Return the log-likelihoods of statements of one layer.

        Of two causes that it speaks of, each may be the one that showed; of one that it does not speak of, it shows
        nothing.
        """
        nothing, each, concerned = self.told(statements)
        log = np.log(each + TINY)
        both = np.log((each[:, None] + each[None, :]) / 2 + TINY)
        first = np.where(concerned[:, None], log[:, None], log[None, :])
        return Layer(math.log(nothing + TINY), log, np.where(concerned[:, None] & concerned[None, :], both, first))


@lru_cache(maxsize=VEHICLES_KEPT)
def joint_of(vehicle: Vehicle) -> Joint:
    """Return the hypotheses about a vehicle, worked out once."""
    return Joint(vehicle)


def _by_cause(statements: Sequence[Statement], place: str) -> Floats:
    """Return the likelihood of what was said at a place under each cause, in the order of `cause_names`."""
    reads = witnesses()[statements[0].witness].get("reads")
    together = np.prod([_told(s.witness, s.said[place]) for s in statements], axis=0)
    return np.asarray(states_by_cause(reads) @ together if reads else together)


def _told(witness: str, shares: Mapping[str, float]) -> Floats:
    """Return how an answer, maybe a doubtful one, tells the states or causes apart.

    Virtual evidence: Pearl, Probabilistic Reasoning in Intelligent Systems, 1988, section 2.2.
    """
    table = telling(witness)
    return np.asarray(sum(share * table[outcome_index(witness, name)] for name, share in shares.items()))


def _summed(layers: Iterable[Layer]) -> Layer:
    layers = list(layers)
    return Layer(
        sum(layer.nothing for layer in layers),
        np.sum([layer.single for layer in layers], axis=0),
        np.sum([layer.pair for layer in layers], axis=0),
    )


def _changed(total: Layer, less: Layer | None, more: Layer | None) -> Layer:
    nothing, single, pair = total.nothing, total.single, total.pair
    if less is not None:
        nothing, single, pair = nothing - less.nothing, single - less.single, pair - less.pair
    if more is not None:
        nothing, single, pair = nothing + more.nothing, single + more.single, pair + more.pair
    return Layer(nothing, single, pair)


def _normalised(sums: Layer) -> Posterior:
    top = max(sums.nothing, float(sums.single.max()), float(sums.pair.max()))
    alone, together, none = np.exp(sums.single - top), np.exp(sums.pair - top), math.exp(sums.nothing - top)
    total = float(alone.sum() + together.sum() / 2 + none)
    return Posterior((alone + together.sum(axis=1)) / total, none / total, top + math.log(total))


def _apart(every: Sequence[Single]) -> npt.NDArray[np.bool_]:
    """Return which two causes can be two faults: not the same kind of thing at the same place."""
    group = np.array([f"{s.place} {s.group}" for s in every])
    return np.asarray(group[:, None] != group[None, :])


def _together(every: Sequence[Single]) -> Floats:
    """Return how much likelier two causes go together: the bearings of one axle age together."""
    axle = np.array([s.axle if s.group == "bearing" else -n for n, s in enumerate(every, start=1)])
    return np.where(axle[:, None] == axle[None, :], SAME_AXLE, 1.0)


@dataclass(frozen=True)
class Body:
    """All that was said of a vehicle, its layers worked out once, so that one statement more or less costs little."""

    joint: Joint
    said: tuple[Statement, ...]

    @cached_property
    def layers(self) -> dict[Hashable, Layer]:
        """Return each layer's log-likelihoods."""
        return {key: self.joint.layer(own) for key, own in layers_of(self.said).items()}

    @cached_property
    def sums(self) -> Layer:
        """Return prior and all layers together."""
        return _summed([self.joint.prior, *self.layers.values()])

    @cached_property
    def posterior(self) -> Posterior:
        """Return the probabilities after everything."""
        return _normalised(self.sums)

    def without(self, statement: Statement) -> Posterior:
        """Return the probabilities had one statement not been made."""
        key = layer_key(statement)
        rest = [own for own in self.said if own is not statement and layer_key(own) == key]
        return _normalised(_changed(self.sums, self.layers[key], self.joint.layer(rest) if rest else None))

    def without_layer(self, key: Hashable) -> Posterior:
        """Return the probabilities had nothing been said of one hidden state, or by one witness."""
        return _normalised(_changed(self.sums, self.layers[key], None))

    def _base(self, key: Hashable) -> "_Weights":
        """Return the weights of every hypothesis after all but one layer."""
        if key not in self._bases:
            self._bases[key] = _Weights.of(_changed(self.sums, self.layers.get(key), None))
        return self._bases[key]

    @cached_property
    def _bases(self) -> dict[Hashable, "_Weights"]:
        return {}

    def adding(self, alternatives: Sequence[Statement]) -> list[Posterior]:
        """Return the probabilities were one statement more made, for each of several that one test may bring.

        They must be of one witness and the same places. `log_evidence` is up to a constant common to all.
        """
        key = layer_key(alternatives[0])
        own = [known for known in self.said if layer_key(known) == key]
        base = self._base(key)
        return [base.times(*self.joint.told([*own, statement])) for statement in alternatives]


@dataclass(frozen=True)
class _Weights:
    """Weights of nothing, singles, shape (n,), and pairs, shape (n, n): to be multiplied quickly."""

    nothing: float
    single: Floats
    pair: Floats

    @classmethod
    def of(cls, sums: Layer) -> "_Weights":
        top = max(sums.nothing, float(sums.single.max()), float(sums.pair.max()))
        return cls(math.exp(sums.nothing - top), np.exp(sums.single - top), np.exp(sums.pair - top))

    @cached_property
    def _rows(self) -> Floats:
        return np.asarray(self.pair.sum(axis=1))

    def times(self, nothing: float, each: Floats, concerned: npt.NDArray[np.bool_]) -> Posterior:
        """Return the posterior after one layer: what `Joint.layer` does to pairs, done by row sums alone."""
        here = concerned.astype(np.float64)
        with_here = self.pair @ here
        weighted = self.pair @ (here * each)
        elsewhere = self._rows - with_here
        pairs = np.where(
            concerned, each * with_here / 2 + weighted / 2 + each * elsewhere, weighted + nothing * elsewhere
        )
        none, alone = self.nothing * nothing, self.single * each
        total = float(none + alone.sum() + pairs.sum() / 2)
        return Posterior((alone + pairs) / total, none / total, math.log(total))
