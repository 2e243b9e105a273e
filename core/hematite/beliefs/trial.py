"""What would be believed were one place spoken of once more: many alternatives at once, at the cost of one."""

import math
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from hematite.beliefs.frame import Pair
from hematite.evidence.tables import Floats

if TYPE_CHECKING:
    from hematite.beliefs.network import Network


@dataclass
class Trial:
    """Several ways in which one place might be spoken of once more, each by its factor on the place's states."""

    network: "Network"
    place: str
    factors: Floats

    @cached_property
    def chances(self) -> Floats:
        """Return how likely each is, as far as the factors are likelihoods, shape (trials,)."""
        return np.asarray(self.factors @ self.network.marginal(self.place))

    @cached_property
    def own(self) -> Floats:
        """Return the probability of each state of the place, shape (trials, states)."""
        joint = self.factors * self.network.marginal(self.place)
        return np.asarray(joint / joint.sum(axis=1, keepdims=True))

    @cached_property
    def _pairs(self) -> dict[str, Pair]:
        pairs = {place: Pair(pair.x[None], pair.y[None]) for place, pair in self.network._all.items()}
        return pairs | {self.place: self.network._pair(self.place, self.factors)}

    @cached_property
    def _now(self) -> Floats:
        return self.network._evidence(self.network._total(self._pairs))

    def probabilities(self, place: str, wanted: Floats) -> Floats:
        """Return the probability of sets of states at a place, `wanted` of shape (sets, states), in each trial."""
        if place == self.place:
            return np.asarray(self.own @ wanted.T)
        around = self.network._around(place, self._pairs)
        sets = self.network.of_sets(place, wanted)
        shape = (-1, math.prod(sets.x.shape[1:]))
        full = (len(self.factors), *sets.x.shape[1:])
        found = sum(
            np.broadcast_to(a, full).reshape(shape) @ b.reshape(shape).T
            for a, b in ((around.x, sets.x), (around.y, sets.y))
        )
        return np.asarray(np.clip(found / self._now[:, None], 0.0, 1.0))
