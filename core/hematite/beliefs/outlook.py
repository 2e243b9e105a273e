"""What further answers would make of the beliefs: all answers of many tests at once, from one set of sums."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from hematite.beliefs import coupling, likelihood, noise
from hematite.beliefs.network import Network
from hematite.beliefs.space import beside_mate
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import Floats, witnesses

# How likely each answer is, shape (answers,), and the sets' probabilities after it, shape (answers, sets).
After = tuple[Floats, Floats]


@dataclass(frozen=True)
class Outlook:
    """Sets of faults, by place of shape (sets there, states), beside every state of every place and every source.

    An answer at a hub weighs that hub's states, an answer about the noise weighs its sources: both are plain sums here.
    """

    network: Network
    sets: Mapping[str, Floats]

    @cached_property
    def now(self) -> Floats:
        """Return the probability of every set, place by place, shape (sets,)."""
        return np.concatenate([own @ self.network.marginal(place) for place, own in self.sets.items()])

    def _beside(self, place: str) -> tuple[Floats, Floats]:
        """Return all sets beside a place's states: in all, by axle term, and where the noise comes from there.

        Shapes (1 + sets, axle terms, states) and (1 + sets, states); the first set is everything.
        """
        if place not in self._known:
            every = np.ones((1, len(self.network.frame.spaces[place].states)))
            parts = [self.network.beside(place, place, every)]
            parts += [self.network.beside(place, other, own) for other, own in self.sets.items()]
            without, there = (np.concatenate(both) for both in zip(*((p.x, p.y) for p in parts), strict=True))
            self._known[place] = without + there * self.network.sums.sources(place), there.sum(axis=1)
        return self._known[place]

    @cached_property
    def _known(self) -> dict[str, tuple[Floats, Floats]]:
        return {}

    @cached_property
    def _sources(self) -> dict[str, Floats]:
        """Return by place the probability that the noise is each fault there, with every set, (faults, 1 + sets)."""
        return {place: self.network.sources(place) @ self._beside(place)[1].T for place in self.network.frame.spaces}

    def at_hub(self, answers: Sequence[Statement]) -> After:
        """Return what answers at a hub would do."""
        return _after(self.network.factor(answers), self._beside(answers[0].place)[0].sum(axis=1).T)

    def tied(self, answers: Sequence[Statement]) -> After:
        """Return what answers would do that are read with what is tied to the mate already."""
        place, factors = self.network.factors_tied(answers)
        return _after(factors, np.moveaxis(self._beside(place)[0], 0, -1))

    def of_noise(self, answers: Sequence[Statement]) -> After:
        """Return what answers about the noise that is complained of would do."""
        everything = np.concatenate([np.ones(1), self.now])
        nothing = np.maximum(everything - sum(own.sum(axis=0) for own in self._sources.values()), 0.0)
        joint = np.outer([noise.from_nothing([one]) for one in answers], nothing)
        for place, own in self._sources.items():
            joint += np.array([self.network.from_faults([one], place) for one in answers]) @ own
        return _after(np.eye(len(answers)), joint)

    def of_clicks(self, answers: Sequence[Statement]) -> After:
        """Return what answers about clicks to either side would do."""
        frame = self.network.frame
        found = [coupling.clicks(one, frame.spaces, frame.where) for one in answers]
        terms = found[0][1]
        factors = {p: np.array([term.get(p, np.ones(len(frame.spaces[p].states))) for term in terms]) for p in terms[1]}
        return _after(np.array([weights for weights, _ in found]), self._of_products(factors))

    def of_mates(self, answers: Sequence[Statement]) -> After:
        """Return what answers read beside a mate, the first that tie the two together, would do."""
        values = self.network.beside_mate(answers[0])
        table = np.array([likelihood.spoken(one, beside_mate(one.witness)) for one in answers])
        own, *mates = values
        if not mates:
            return _after(table[:, :, coupling.NORMAL], self._of_products(values))
        key = (witnesses()[answers[0].witness]["against"], min(values), max(values))
        if key not in self._couples:
            self._couples[key] = self._of_products({key[1]: values[key[1]][:, None], key[2]: values[key[2]]})
        return _after(table if own == key[1] else table.swapaxes(1, 2), self._couples[key])

    @cached_property
    def _couples(self) -> dict[tuple[str, str, str], Floats]:
        return {}

    def _of_products(self, factors: Mapping[str, Floats]) -> Floats:
        """Return the expectation of products of one factor a place, alone and with every set, (…products, 1 + sets).

        `factors` by place have shape (…products, states).
        """
        products = {place: own[..., None, :] for place, own in factors.items()}
        found = [self.network.probability(products)]
        for place, own in self.sets.items():
            found.append(self.network.probability({**products, place: products.get(place, 1.0) * own}))
        return np.concatenate(found, axis=-1)


def _after(weights: Floats, joint: Floats) -> After:
    """Return what answers would do, from the weight of every part in each, (answers, …), and its chances with each set.

    `joint` has shape (…, 1 + sets); the first set is everything.
    """
    both = np.tensordot(weights, joint, weights.ndim - 1)
    return both[:, 0], np.clip(both[:, 1:] / both[:, :1], 0.0, 1.0)
