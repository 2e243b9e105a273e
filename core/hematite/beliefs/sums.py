"""The couplings' sums: what every place comes to at each point of the couplings, and all of them together.

Places are independent but for a few couplings: the vehicle's life and each axle's age (each easy or hard), what is read
beside the mate, the quietest corner, clicks in bends, and the one noise that is complained of. Given those, every place
is a plain sum over its own states; the couplings are summed out around it. The noise's share 1/Σloud is an integral
over [0, 1] of a product over places, done by Gauss and Legendre's points; its source is carried as a first-order term,
so each sum is a pair (x, y): y holds the source once.
"""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np

from hematite.beliefs import noise
from hematite.beliefs.frame import ONE, Frame, Pair
from hematite.evidence.witnesses import VEHICLE, Floats


class Part(NamedTuple):
    """What was said, at one place: likelihood and sources of the noise, both (states,), and the factors of terms.

    `couplings` have shape (axle terms, terms, states).
    """

    own: Floats
    couplings: Floats
    sources: Floats


class Sums:
    """The sums of one network, each worked out once and when it is asked for."""

    def __init__(
        self,
        frame: Frame,
        parts: Mapping[str, Part],
        terms: Floats,
        nothing: float,
        *,
        attends: bool,
        like: "Sums | None" = None,
    ) -> None:
        """Take what was said by place, the `terms`' weights, and how likely it is were the noise none.

        `attends`: whether the noise's source is carried. Sums of `like` whose arrays are the very same are taken over.
        """
        self.frame, self._parts, self._nothing, self._attends = frame, parts, nothing, attends
        quadrature = noise.nodes()[1] if attends else np.ones(1)
        self._weights = frame.lives[:, None, None, None] * np.outer(terms, quadrature).ravel()
        self._rows: dict[str, Floats] = {}
        self._kernels: dict[str, Floats] = {}
        self._every: dict[str, Pair] = {}
        self._sets: dict[tuple[str, int], tuple[Floats, Pair]] = {}
        self._rests: dict[tuple[str, ...], Pair] = {}
        if like is not None and like._attends == attends:
            self._take(like)

    def _take(self, like: "Sums") -> None:
        both = {place: (part, like._parts[place]) for place, part in self._parts.items()}
        rows = {place for place, (new, old) in both.items() if new.couplings is old.couplings}
        same = {p for p in rows if both[p][0].own is both[p][1].own and both[p][0].sources is both[p][1].sources}
        self._rows = {place: own for place, own in like._rows.items() if place in rows}
        self._every = {place: own for place, own in like._every.items() if place in same}
        self._sets = {key: own for key, own in like._sets.items() if key[0] in same}
        if self._weights.shape == like._weights.shape:
            self._rests = {a: like._rest(a) for a in self.frame.axles if same and same >= self._but(a)}

    def _but(self, axle: Sequence[str]) -> set[str]:
        return self.frame.spaces.keys() - set(axle)

    def rows(self, place: str) -> Floats:
        """Return what the couplings make of each state, shape (axle terms·terms·nodes, states)."""
        if place not in self._rows:
            couplings = self._parts[place].couplings
            powers = self.frame.powers[place] if self._attends else np.ones((1, couplings.shape[-1]))
            self._rows[place] = (couplings[:, :, None] * powers).reshape(-1, couplings.shape[-1])
        return self._rows[place]

    def _prior(self, place: str) -> Floats:
        return self.frame.prior[place] * self._parts[place].own

    def _kernel(self, place: str) -> Floats:
        """Return prior, likelihood and couplings of each state: for many sums.

        Shape (axle terms, lives·ages·terms·nodes, states).
        """
        if place not in self._kernels:
            own, rows = self._prior(place), self.rows(place)
            rows = rows.reshape(len(self._parts[place].couplings), 1, -1, rows.shape[-1])
            self._kernels[place] = (own[:, None] * rows).reshape(len(rows), -1, rows.shape[-1])
        return self._kernels[place]

    def _shape(self, place: str) -> tuple[int, int, int, int]:
        return len(self.frame.lives), len(self.frame.ages), len(self._parts[place].couplings), self._weights.shape[-1]

    def of(self, place: str, weights: Floats) -> Pair:
        """Sum a place's states, weighted by `weights` of shape (…, states): to the couplings."""
        both, many = (weights, weights * self.sources(place)), weights.shape[:-1]
        lives, ages, axle, terms = self._shape(place)
        if not many:
            sums = [(self._prior(place) * part) @ self.rows(place).T for part in both]
            return Pair(*(part.reshape(lives, ages, axle, terms) for part in sums))
        kernel = self._kernel(place).reshape(-1, weights.shape[-1]).T
        split = [(part @ kernel).reshape(*many, axle, lives, ages, terms) for part in both]
        return Pair(*(np.moveaxis(part, -4, -2) for part in split))

    def sources(self, place: str) -> Floats:
        """Return how readily each state is the noise's source, and what was said of that, shape (states,)."""
        return self._parts[place].sources

    def every(self, place: str) -> Pair:
        """Return the sum of all states of a place."""
        if place not in self._every:
            self._every[place] = self.of(place, np.ones(self._parts[place].couplings.shape[-1]))
        return self._every[place]

    def of_sets(self, place: str, sets: Floats) -> Pair:
        """Return the sums of sets of a place's states, shape (sets, states); kept, and the sets with them.

        Were they not, another array could be taken for them by its id.
        """
        if (place, id(sets)) not in self._sets:
            self._sets[place, id(sets)] = (sets, self.of(place, sets))
        return self._sets[place, id(sets)][1]

    def _axle(self, axle: Sequence[str], changed: Mapping[str, Pair], but: str = "") -> Pair:
        found = ONE
        for place in axle:
            found = found * (changed.get(place) or self.every(place)) if place != but else found
        return found

    def _total(self, changed: Mapping[str, Pair], but: Sequence[str] = ()) -> Pair:
        found = self._axle((VEHICLE,), changed, VEHICLE if but == (VEHICLE,) else "-").summed(self.frame.ages)
        for axle in self.frame.axles:
            if axle != but:
                found = found * self._axle(axle, changed).summed(self.frame.ages)
        return found

    def evidence(self, changed: Mapping[str, Pair]) -> Floats:
        """Return the sum of everything, with other sums at some places: shape (…)."""
        total = self._total(changed)
        return np.asarray((self._weights * (self._nothing * total.x + total.y)).sum(axis=(-4, -3, -2, -1)))

    def _rest(self, axle: tuple[str, ...]) -> Pair:
        """Return what all other axles come to."""
        if axle not in self._rests:
            self._rests[axle] = self._total({}, axle)
        return self._rests[axle]

    def around(self, place: str, changed: Mapping[str, Pair] | None = None) -> Pair:
        """Return what all else makes of a place's couplings: evidence = Σ x·(its x) + y·(its y)."""
        axle = self.frame.axle_of(place)
        rest = self._total(changed, axle) if changed else self._rest(axle)
        rest = rest * (ONE if place == VEHICLE else self._axle(axle, changed or {}, place))
        scale = self._weights * self.frame.ages[:, None, None]
        return Pair(scale * (self._nothing * rest.x + rest.y), scale * rest.x)

    def spread(self, place: str, around: Pair) -> Pair:
        """Return what all else makes of each state of a place: without and with the source there.

        Shape (…, axle terms, states); the latter for each unit of the state's `sources`.
        """
        many, shape = around.x.shape[:-4], self._shape(place)
        full = [np.broadcast_to(part, (*many, *shape)) for part in (around.x, around.y)]
        if not many:
            own, rows = self._prior(place), self.rows(place).reshape(*shape[2:], -1)
            parts = [np.moveaxis(part.reshape(len(own), *shape[2:]), 1, 0) @ rows for part in full]
            return Pair(*((part * own).sum(axis=-2) for part in parts))
        parts = [np.moveaxis(part, -2, 0).reshape(shape[2], *many, -1) @ self._kernel(place) for part in full]
        return Pair(*(np.moveaxis(part, 0, -2) for part in parts))
