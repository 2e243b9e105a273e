"""The joint of all faults of a vehicle, summed exactly.

Places are independent but for a few couplings: the vehicle's life and each axle's age (each easy or hard), what is read
beside the mate, the quietest corner, clicks in bends, and the one noise that is complained of. Given those, every place
is a plain sum over its own states; the couplings are summed out around it. The noise's share 1/Σloud is an integral
over [0, 1] of a product over places, done by Gauss and Legendre's points; its source is carried as a first-order term,
so each sum is a pair (x, y): y holds the source once.
"""

import math
from collections.abc import Mapping, Sequence
from functools import cached_property

import numpy as np

from hematite.beliefs import likelihood, noise
from hematite.beliefs.coupling import PairTerms, by_value, pair_terms, terms_of
from hematite.beliefs.frame import ONE, Pair, frame_of
from hematite.evidence.statement import Statement
from hematite.evidence.tables import VEHICLE, Floats, states, witnesses
from hematite.vehicles import Vehicle

ByAxle = dict[tuple[str, ...], PairTerms]


class Network:
    """All that was said of a vehicle, and the probabilities that follow."""

    def __init__(
        self, vehicle: Vehicle, said: Sequence[Statement], by_axle: ByAxle | None = None, *, attends: bool = False
    ) -> None:
        """Take what was said; `by_axle`: what mates' readings make of each axle, where that is known.

        `attends`: whether the noise's source is carried also where nobody has spoken of a noise yet.
        """
        self.frame = frame_of(vehicle)
        self.said = tuple(said)
        self._heard = [one for one in self.said if noise.about_the_noise(one)]
        self.attends = attends or bool(self._heard)
        self._terms = terms_of(self.said, self.frame.spaces, self.frame.where)
        self._by_axle = by_axle or {
            axle: pair_terms(self.said, self.frame.spaces, axle, vehicle) for axle in self.frame.axles
        }

    @property
    def vehicle(self) -> Vehicle:
        """Return the vehicle."""
        return self.frame.vehicle

    @cached_property
    def _own(self) -> dict[str, Floats]:
        """Return the likelihood of what each hub's own witnesses said, shape (states,), its largest 1."""
        return {place: found / found.max() for place, found in self._raw.items()}

    @cached_property
    def _raw(self) -> dict[str, Floats]:
        return {place: self._product(place) for place in self.frame.spaces}

    def _product(self, place: str) -> Floats:
        size = len(self.frame.spaces[place].states)
        return np.asarray(np.prod([np.ones(size), *self._kin[place].values()], axis=0))

    @cached_property
    def _kin(self) -> dict[str, dict[str, Floats]]:
        """Return by place what each kin of its own statements makes of its states, shape (states,)."""
        return {place: self._of_kin(place) for place in self.frame.spaces}

    def _of_kin(self, place: str) -> dict[str, Floats]:
        space, apart = self.frame.spaces[place], self._coupled_groups(place)
        own = likelihood.kin(one for one in self._at(place) if not _coupled(one))
        return {name: likelihood.of_kin(space, said) for name, said in own.items() if name not in apart}

    def _vectors(self, place: str) -> Mapping[str, Floats]:
        return self._by_axle[self.frame.axle_of(place)].vectors if place else {}

    def _coupled_groups(self, place: str) -> frozenset[str]:
        return self._by_axle[self.frame.axle_of(place)].groups.get(place, frozenset()) if place else frozenset()

    def _at(self, place: str) -> list[Statement]:
        return [one for one in self.said if one.place == place and not one.of_vehicle]

    @cached_property
    def _nothing(self) -> float:
        return noise.NOTHING * noise.from_nothing(self._heard) if self.attends else 1.0

    @cached_property
    def _sources(self) -> dict[str, Floats]:
        """Return by place Σ loud·P(said | source) of each state, shape (states,)."""
        if not self.attends:
            return {place: np.zeros(len(space.states)) for place, space in self.frame.spaces.items()}
        return {place: self.from_faults(self._heard, place) @ space.louds for place, space in self.frame.spaces.items()}

    def sources(self, place: str) -> Floats:
        """Return loud·P(what was said of the noise | it comes from a fault) where that is there, (faults, states)."""
        return self.from_faults(self._heard, place)[:, None] * self.frame.spaces[place].louds

    def from_faults(self, said: Sequence[Statement], place: str) -> Floats:
        """Return how likely what was said of the noise is were it each of a place's faults, shape (faults,)."""
        where = self.frame.where[place]
        return noise.from_faults(said, place, self.frame.spaces[place], where, self.vehicle.all_driven)

    @cached_property
    def _weights(self) -> Floats:
        """Return the weights of lives and terms, shape (lives, 1, 1, terms)."""
        quadrature = noise.nodes()[1] if self.attends else np.ones(1)
        of_terms = np.outer([term.weight for term in self._terms], quadrature).ravel()
        return np.asarray(self.frame.lives[:, None, None, None] * of_terms)

    @cached_property
    def _rows(self) -> dict[str, Floats]:
        """Return by place what the couplings make of each state, shape (axle terms·terms·nodes, states)."""
        return {place: self._rows_at(place) for place in self.frame.spaces}

    def _rows_at(self, place: str) -> Floats:
        size = len(self.frame.spaces[place].states)
        axle = self._vectors(place).get(place, np.ones((1, size)))
        powers = self.frame.powers[place] if self.attends else np.ones((1, size))
        return np.asarray((axle[:, None, None] * self._factors[place][:, None] * powers).reshape(-1, size))

    def _kernel(self, place: str) -> Floats:
        """Return prior, likelihood and couplings of each state, shape (lives·ages·rows, states): kept for many sums."""
        if place not in self._kernels:
            own, rows = self.frame.prior[place] * self._own[place], self._rows[place]
            self._kernels[place] = (own[:, None] * rows).reshape(-1, rows.shape[1])
        return self._kernels[place]

    @cached_property
    def _kernels(self) -> dict[str, Floats]:
        return {}

    @cached_property
    def _factors(self) -> dict[str, Floats]:
        """Return by place the factors of the terms that span the vehicle, shape (terms, states)."""
        sizes = {place: len(space.states) for place, space in self.frame.spaces.items()}
        return {place: np.array([term.at(place, size) for term in self._terms]) for place, size in sizes.items()}

    def _shape(self, place: str) -> tuple[int, int, int, int]:
        return (
            len(self.frame.lives),
            len(self.frame.ages),
            len(self._vectors(place).get(place, ((),))),
            self._weights.shape[-1],
        )

    def _pair(self, place: str, weights: Floats) -> Pair:
        """Sum a place's states, weighted by `weights` of shape (…, states): to the couplings."""
        both = weights, weights * self._sources[place]
        if weights.ndim > 1:
            sums = [part @ self._kernel(place).T for part in both]
        else:
            sums = [(self.frame.prior[place] * self._own[place] * part) @ self._rows[place].T for part in both]
        return Pair(*(part.reshape(*weights.shape[:-1], *self._shape(place)) for part in sums))

    def _every(self, place: str) -> Pair:
        return self._pair(place, np.ones(len(self.frame.spaces[place].states)))

    @cached_property
    def _all(self) -> dict[str, Pair]:
        return {place: self._every(place) for place in self.frame.spaces}

    def _axle(self, axle: Sequence[str], pairs: Mapping[str, Pair], but: str = "") -> Pair:
        found = ONE
        for place in axle:
            found = found * pairs[place] if place != but else found
        return found

    def _total(self, pairs: Mapping[str, Pair], but: Sequence[str] = ()) -> Pair:
        found = ONE if but == (VEHICLE,) else pairs[VEHICLE].summed(self.frame.ages)
        for axle in self.frame.axles:
            if axle != but:
                found = found * self._axle(axle, pairs).summed(self.frame.ages)
        return found

    def _evidence(self, total: Pair) -> Floats:
        return np.asarray((self._weights * (self._nothing * total.x + total.y)).sum(axis=(-4, -3, -2, -1)))

    def _around(self, place: str, pairs: Mapping[str, Pair]) -> Pair:
        """Return what all else makes of a place's couplings: evidence = Σ x·(its x) + y·(its y)."""
        axle = self.frame.axle_of(place)
        rest = self._rest(axle) if pairs is self._all else self._total(pairs, axle)
        rest = rest * (ONE if place == VEHICLE else self._axle(axle, pairs, place))
        scale = self._weights * self.frame.ages[:, None, None]
        return Pair(scale * (self._nothing * rest.x + rest.y), scale * rest.x)

    def _rest(self, axle: tuple[str, ...]) -> Pair:
        """Return what all other axles come to."""
        if axle not in self._rests:
            self._rests[axle] = self._total(self._all, axle)
        return self._rests[axle]

    @cached_property
    def _rests(self) -> dict[tuple[str, ...], Pair]:
        return {}

    @cached_property
    def _now(self) -> float:
        return float(self._evidence(self._total(self._all)))

    @cached_property
    def log_evidence(self) -> float:
        """Return the logarithm of the probability of all that was said."""
        scales = sum(math.log(float(raw.max())) for raw in self._raw.values())
        return math.log(max(self._now, 1e-300)) + scales

    def probabilities(self, place: str, sets: Floats) -> Floats:
        """Return the probability of sets of a place's states, `sets` of shape (sets, states)."""
        if (place, id(sets)) not in self._kept:
            return np.asarray(sets @ self.marginal(place))
        around, pair = self._around(place, self._all), self.of_sets(place, sets)
        found = (around.x * pair.x + around.y * pair.y).sum(axis=(-4, -3, -2, -1)) / self._now
        return np.asarray(np.clip(found, 0.0, 1.0))

    def chance(self, place: str, wanted: Floats) -> float:
        """Return the probability of one set of a place's states, shape (states,)."""
        around, pair, every = self._around(place, self._all), self._pair(place, wanted), self._all[place]
        one, all_ = ((around.x * p.x + around.y * p.y).sum() for p in (pair, every))
        return float(min(max(one / all_, 0.0), 1.0))

    def of_sets(self, place: str, sets: Floats) -> Pair:
        """Return the couplings' sums of sets of a place's states, shape (sets, states); kept."""
        key = (place, id(sets))
        if key not in self._kept:
            self._kept[key] = (sets, self._pair(place, sets))
        return self._kept[key][1]

    @cached_property
    def _kept(self) -> dict[tuple[str, int], tuple[Floats, Pair]]:
        return {}  # the sets are held too: another array could else be taken for them by its id

    def probability(self, weights: Mapping[str, Floats]) -> Floats:
        """Return the expectation of a product of one weight at every place named, each of shape (…, states): (…).

        With weights of 0 and 1 it is the probability that every place named is in its set of states.
        """
        pairs = self._all | {place: self._pair(place, own) for place, own in weights.items()}
        return np.clip(self._evidence(self._total(pairs)) / self._now, 0.0, 1.0)

    def marginal(self, place: str) -> Floats:
        """Return the probability of each state of a place, shape (states,)."""
        if place not in self._marginals:
            self._marginals[place] = self._marginal(place)
        return self._marginals[place]

    @cached_property
    def _marginals(self) -> dict[str, Floats]:
        return {}

    def _marginal(self, place: str) -> Floats:
        found = self._spread(place, self._around(place, self._all))
        both = np.maximum(found.x + self._sources[place] * found.y, 0.0)
        return np.asarray(both / both.sum())

    def _spread(self, place: str, around: Pair) -> Pair:
        """Return what all else makes of each state of a place, shape (…, states): without and with the source there."""
        many = around.x.shape[:-4]
        x, y = (np.broadcast_to(part, (*many, *self._shape(place))).reshape(*many, -1) for part in (around.x, around.y))
        if many:
            return Pair(x @ self._kernel(place), y @ self._kernel(place))
        own, rows = self.frame.prior[place] * self._own[place], self._rows[place]
        return Pair(*(((part.reshape(len(own), -1) @ rows) * own).sum(axis=0) for part in (x, y)))

    def beside(self, place: str, other: str, sets: Floats) -> Pair:
        """Return how likely each set of a place's states, (sets, states), comes with each state of another place.

        Shape (sets, states of `place`): without the noise's source at `place`, and with it there for each unit of that
        state's `sources`.
        """
        if place == other:
            found, sets_here = self._spread(place, self._around(place, self._all)), sets
        else:
            pairs = {**self._all, other: self.of_sets(other, sets)}
            found, sets_here = self._spread(place, self._around(place, pairs)), np.ones(1)
        return Pair(sets_here * found.x / self._now, sets_here * found.y / self._now)

    def without(self, statements: Sequence[Statement]) -> Floats:
        """Return the probability of each state of a hub had these statements, all of one kin there, not been made."""
        place = statements[0].place
        ((name, _),) = likelihood.kin(statements).items()
        left = [one for one in likelihood.kin(self._at(place))[name] if one not in statements and not _coupled(one)]
        rest = likelihood.of_kin(self.frame.spaces[place], left) if left else 1.0
        joint = self.marginal(place) * rest / np.maximum(self._kin[place][name], 1e-300)
        return np.asarray(joint / joint.sum())

    def attending(self) -> "Network":
        """Return the same network with the noise's source carried, as further words about it need."""
        if self.attends:
            return self
        other = Network(self.vehicle, self.said, self._by_axle, attends=True)
        other._kin, other._raw, other._own = self._kin, self._raw, self._own
        return other

    def changed(self, said: Sequence[Statement], about: Statement) -> "Network":
        """Return the network of other statements that differ in one: places it does not touch keep their sums."""
        touched = () if about.of_vehicle else self.frame.axle_of(about.place)
        other = Network(self.vehicle, said, self._by_axle | self._mates_anew(said, about), attends=self.attends)
        if about.of_vehicle:
            other._kin, other._raw, other._own = self._kin, self._raw, self._own
            if other.attends == self.attends and noise.about_the_noise(about):
                other._rows = self._rows
        elif len(other._terms) == len(self._terms) and not _spans(about):
            if self._only_coupled(about, other):
                other._kin, other._raw, other._own = self._kin, self._raw, self._own
            else:
                other._kin = self._kin | {place: other._of_kin(place) for place in touched}
                other._raw = self._raw | {place: other._product(place) for place in touched}
            other._sources, other._factors = self._sources, self._factors
            other._rows = self._rows | {place: other._rows_at(place) for place in touched}
            other._all = self._all | {place: other._every(place) for place in touched}
            other._rests = {touched: self._rest(touched)}
            other._kept = {key: kept for key, kept in self._kept.items() if key[0] not in touched}
        return other

    def _mates_anew(self, said: Sequence[Statement], about: Statement) -> ByAxle:
        """Return what mates' readings make of the one axle that a statement touches."""
        if about.of_vehicle:
            return {}
        axle = self.frame.axle_of(about.place)
        values = self._by_axle[axle].values
        known = {at: own for at, own in values.items() if at[1] != about.place or _coupled(about)}
        return {axle: pair_terms(said, self.frame.spaces, axle, self.vehicle, known)}

    def _only_coupled(self, about: Statement, other: "Network") -> bool:
        """Return whether a statement speaks only through what is read beside the mate, before and after."""
        axle = self.frame.axle_of(about.place)
        same = all(self._coupled_groups(place) == other._coupled_groups(place) for place in axle)
        return same and witnesses()[about.witness].get("reads", "") in self._coupled_groups(about.place)

    def beside_mate(self, statement: Statement) -> dict[str, Floats] | None:
        """Return how likely each value of what is read beside a mate is at both hubs, (values, states) by place.

        None where it is not read so, or where an answer that was given already ties the two together.
        """
        thing, place = witnesses()[statement.witness].get("against", "quietest"), statement.place
        if thing == "quietest" or states()[thing]["group"] in self._coupled_groups(place):
            return None
        mate = self.vehicle.mate(place)
        found = {}
        for one in (place, *([mate.id] if mate else [])):
            values = by_value(self._at(one), self.frame.spaces[one], thing)
            found[one] = (values / values.sum(axis=1, keepdims=True)).T
        return found

    def reads_alone(self, statement: Statement) -> bool:
        """Return whether a statement concerns one hub's own states, and nothing that couples it to others."""
        apart = self._coupled_groups(statement.place)
        reads = witnesses()[statement.witness].get("reads", "")
        return not statement.of_vehicle and not _coupled(statement) and reads not in apart

    def factor(self, alternatives: Sequence[Statement]) -> Floats:
        """Return how each of several statements at one hub would change the likelihood of its states."""
        place = alternatives[0].place
        space, own = self.frame.spaces[place], self._at(place)
        reads = witnesses()[alternatives[0].witness].get("reads", "")
        if not reads:
            return np.array([likelihood.spoken(one, space.by_cause(one.witness).T) for one in alternatives])
        kin = [one for one in own if witnesses()[one.witness].get("reads") == reads and not _coupled(one)]
        now = likelihood.of_values(reads, kin)
        more = np.array([now * likelihood.of_values(reads, [one]) for one in alternatives])
        together = likelihood.summed(space, reads, np.concatenate([now[None], more]))
        return np.asarray(together[1:] / np.maximum(together[0], 1e-300))


def _spans(statement: Statement) -> bool:
    return bool(witnesses()[statement.witness].get("against") == "quietest")


def _coupled(statement: Statement) -> bool:
    return "against" in witnesses()[statement.witness]
