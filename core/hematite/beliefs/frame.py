"""A vehicle before anything is said: the spaces of its places, their priors, and sums over what couples them."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from hematite.beliefs import noise
from hematite.beliefs.priors import VEHICLES_KEPT, ageing, life, rates
from hematite.beliefs.space import Space, space_of
from hematite.evidence.witnesses import VEHICLE, Floats
from hematite.vehicles import Vehicle


@dataclass(frozen=True)
class Frame:
    """What a vehicle is before anything is said: the spaces of its places, the vehicle's own last, and their priors.

    `prior` by place has shape (lives·ages, states); `powers` are point^loud, shape (nodes, states); `lives` and `ages`
    the chances of an easy and a hard life, and of an axle.
    """

    vehicle: Vehicle
    spaces: Mapping[str, Space]
    prior: Mapping[str, Floats]
    powers: Mapping[str, Floats]
    axles: tuple[tuple[str, ...], ...]
    where: Mapping[str, noise.Whereabouts]
    lives: Floats
    ages: Floats

    def axle_of(self, place: str) -> tuple[str, ...]:
        """Return the places of a place's axle; the vehicle's own stands alone."""
        return next((own for own in self.axles if place in own), (VEHICLE,))


@lru_cache(maxsize=VEHICLES_KEPT)
def frame_of(vehicle: Vehicle) -> Frame:
    """Return the frame of a vehicle, worked out once."""
    usual = rates(vehicle)
    slack = {hub.id: hub.design.slack for hub in vehicle.hubs()}
    spaces = {place: space_of(tuple(own), slack.get(place, "none")) for place, own in usual.items()}
    times = np.outer(life(vehicle)[1], ageing()[1]).ravel()
    points, _ = noise.nodes()
    return Frame(
        vehicle=vehicle,
        spaces=spaces,
        prior={p: np.array([space.prior(usual[p], t) for t in times]) for p, space in spaces.items()},
        powers={place: points[:, None] ** space.loud for place, space in spaces.items()},
        axles=tuple(tuple(hub.id for hub in axle.hubs) for axle in vehicle.axles),
        where={place: noise.whereabouts(vehicle, place) for place in spaces},
        lives=life(vehicle)[0],
        ages=ageing()[0],
    )


@dataclass(frozen=True)
class Pair:
    """Two sums over the couplings, shape (…, lives, ages, axle terms, terms): without and with the noise's source."""

    x: Floats
    y: Floats

    def __mul__(self, other: "Pair") -> "Pair":
        return Pair(self.x * other.x, self.x * other.y + self.y * other.x)

    def summed(self, weights: Floats) -> "Pair":
        """Sum out an axle's age and terms: to shape (…, lives, 1, 1, terms)."""
        both = ((part * weights[:, None, None]).sum(axis=(-3, -2), keepdims=True) for part in (self.x, self.y))
        return Pair(*both)


ONE = Pair(np.ones((1, 1, 1, 1)), np.zeros((1, 1, 1, 1)))
