"""The joint of all faults of a vehicle: what was said of it, and the probabilities that follow, summed exactly."""

from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property

import numpy as np

from hematite.beliefs import likelihood, noise
from hematite.beliefs.coupling import PairTerms, by_value, pair_terms, terms_of
from hematite.beliefs.frame import Pair, frame_of
from hematite.beliefs.sums import Part, Sums
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import Floats, witnesses
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
        own = self._said_by_kin[place].items()
        return {name: likelihood.of_kin(space, said) for name, said in own if name not in apart}

    def _vectors(self, place: str) -> Mapping[str, Floats]:
        return self._by_axle[self.frame.axle_of(place)].vectors if place else {}

    def _coupled_groups(self, place: str) -> frozenset[str]:
        return self._by_axle[self.frame.axle_of(place)].groups.get(place, frozenset()) if place else frozenset()

    def _at(self, place: str) -> list[Statement]:
        return [one for one in self.said if one.place == place and not one.of_vehicle]

    @cached_property
    def _said_by_kin(self) -> dict[str, dict[str, list[Statement]]]:
        """Return by place what was said at it by kin, what is read beside its mate left out."""
        own = {place: [one for one in self._at(place) if not _coupled(one)] for place in self.frame.spaces}
        return {place: likelihood.kin(said) for place, said in own.items()}

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
    def _couplings(self) -> dict[str, Floats]:
        """Return by place the factors of axle terms and of terms that span the vehicle, (axle terms, terms, states)."""
        return {place: self._couplings_at(place) for place in self.frame.spaces}

    def _couplings_at(self, place: str) -> Floats:
        size = len(self.frame.spaces[place].states)
        axle = self._vectors(place).get(place, np.ones((1, size)))
        return np.asarray(axle[:, None] * np.array([term.at(place, size) for term in self._terms]))

    @cached_property
    def sums(self) -> Sums:
        """Return the sums over all couplings."""
        return self._sums(None)

    def _sums(self, like: Sums | None) -> Sums:
        terms = np.array([term.weight for term in self._terms])
        parts = {p: Part(self._own[p], self._couplings[p], self._sources[p]) for p in self.frame.spaces}
        return Sums(self.frame, parts, terms, self._nothing, attends=self.attends, like=like)

    @cached_property
    def _now(self) -> float:
        return float(self.sums.evidence({}))

    def chance(self, place: str, wanted: Floats) -> float:
        """Return the probability of one set of a place's states, shape (states,)."""
        around, pair, every = self.sums.around(place), self.sums.of(place, wanted), self.sums.every(place)
        one, all_ = ((around.x * p.x + around.y * p.y).sum() for p in (pair, every))
        return float(min(max(one / all_, 0.0), 1.0))

    def probability(self, weights: Mapping[str, Floats]) -> Floats:
        """Return the expectation of a product of one weight at every place named, each of shape (…, states): (…).

        With weights of 0 and 1 it is the probability that every place named is in its set of states.
        """
        changed = {place: self.sums.of(place, own) for place, own in weights.items()}
        return np.clip(self.sums.evidence(changed) / self._now, 0.0, 1.0)

    def marginal(self, place: str) -> Floats:
        """Return the probability of each state of a place, shape (states,)."""
        return np.asarray(self.by_term(place).sum(axis=0))

    def by_term(self, place: str) -> Floats:
        """Return the share of each axle term in the probability of each state of a place, (axle terms, states)."""
        if place not in self._by_term:
            found = self.sums.spread(place, self.sums.around(place))
            both = np.maximum(found.x + self._sources[place] * found.y, 0.0)
            self._by_term[place] = both / both.sum()
        return self._by_term[place]

    @cached_property
    def _by_term(self) -> dict[str, Floats]:
        return {}

    def beside(self, place: str, other: str, sets: Floats) -> Pair:
        """Return how likely each set of a place's states, (sets, states), comes with each state of another place.

        Shape (sets, axle terms, states of `place`): without the noise's source at `place`, and with it there for each
        unit of that state's `sources`.
        """
        changed = {other: self.sums.of_sets(other, sets)} if place != other else {}
        found = self.sums.spread(place, self.sums.around(place, changed))
        here = sets[:, None] if place == other else np.ones(1)
        return Pair(here * found.x / self._now, here * found.y / self._now)

    def without(self, statements: Sequence[Statement]) -> Floats:
        """Return the probability of each state of a hub had these statements not been made.

        All of one kin there, and none of them beside the mate.
        """
        place = statements[0].place
        joint = (self.by_term(place) * self._without(place, statements)).sum(axis=0)
        return np.asarray(joint / joint.sum())

    def without_each(self, place: str) -> Iterator[tuple[Statement, Floats]]:
        """Yield every statement that is read at one hub alone, and each state's probability had it not been made."""
        for name, said in self._said_by_kin[place].items():
            if name in self._kin[place]:
                rest = likelihood.leaving_out_each(self.frame.spaces[place], said)
                joint = self.marginal(place) * (rest / np.maximum(self._kin[place][name], 1e-300))
                yield from zip(said, joint / joint.sum(axis=-1, keepdims=True), strict=True)

    def _without(self, place: str, statements: Sequence[Statement]) -> Floats:
        """Return what leaving them out changes, shape (states,) or (axle terms, states)."""
        if self.tied(statements[0]):
            left = [one for one in self.said if one not in statements]
            rest = self._mates_anew(left, statements[0])[self.frame.axle_of(place)].vectors[place]
            return np.asarray(rest / np.maximum(self._vectors(place)[place], 1e-300))
        ((name, _),) = likelihood.kin(statements).items()
        own = [one for one in self._said_by_kin[place][name] if one not in statements]
        rest = likelihood.of_kin(self.frame.spaces[place], own) if own else np.ones(1)
        return np.asarray(rest / np.maximum(self._kin[place][name], 1e-300))

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
        if about.of_vehicle or self._only_coupled(about, other):
            other._kin, other._raw, other._own = self._kin, self._raw, self._own
        else:
            other._kin = self._kin | {place: other._of_kin(place) for place in touched}
            other._raw = self._raw | {place: other._product(place) for place in touched}
            other._own = self._own | {place: other._raw[place] / other._raw[place].max() for place in touched}
        if not noise.about_the_noise(about):
            other._sources = self._sources
        if noise.about_the_noise(about) or not (about.of_vehicle or _spans(about)):
            other._couplings = self._couplings | {place: other._couplings_at(place) for place in touched}
        other.sums = other._sums(self.sums)
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
        return self.tied(about) and all(
            self._coupled_groups(place) == other._coupled_groups(place) for place in self.frame.axle_of(about.place)
        )

    def beside_mate(self, statement: Statement) -> dict[str, Floats]:
        """Return how likely each value of what is read beside a mate is at both hubs, (values, states) by place.

        Where no answer that was given ties the two together yet.
        """
        thing, mate = witnesses()[statement.witness]["against"], self.vehicle.mate(statement.place)
        found = {}
        for place in (statement.place, *([mate.id] if mate else [])):
            values = by_value(self._at(place), self.frame.spaces[place], thing)
            found[place] = (values / values.sum(axis=1, keepdims=True)).T
        return found

    def tied(self, statement: Statement) -> bool:
        """Return whether a statement is read with what an answer given already ties to the mate."""
        return witnesses()[statement.witness].get("reads", "") in self._coupled_groups(statement.place)

    def reads_one_hub(self, statement: Statement) -> bool:
        """Return whether a statement is read at one hub, and not beside its mate."""
        return not statement.of_vehicle and not _coupled(statement)

    def reads_alone(self, statement: Statement) -> bool:
        """Return whether a statement concerns one hub's own states, and nothing that couples it to others."""
        return self.reads_one_hub(statement) and not self.tied(statement)

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

    def factors_tied(self, alternatives: Sequence[Statement]) -> tuple[str, Floats]:
        """Return at which hub each of several tied statements would change what, (answers, axle terms, states).

        Another reading at the mate's own place may change what is read beside it at the other hub.
        """
        axle = self.frame.axle_of(alternatives[0].place)
        now = self._by_axle[axle].vectors
        after = [self._mates_anew([*self.said, one], one)[axle].vectors for one in alternatives]
        place = max(axle, key=lambda one: float(np.abs(after[0][one] - now[one]).max()))
        return place, np.array([one[place] for one in after]) / np.maximum(now[place], 1e-300)


def _spans(statement: Statement) -> bool:
    return bool(witnesses()[statement.witness].get("against") == "quietest")


def _coupled(statement: Statement) -> bool:
    return "against" in witnesses()[statement.witness]
