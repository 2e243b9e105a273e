"""A statement: what one witness says of one hub, or of the whole vehicle."""

from collections.abc import Mapping
from dataclasses import dataclass

from hematite.evidence.witnesses import VEHICLE, words_for


@dataclass(frozen=True)
class Statement:
    """What one witness says at a hub, or with `place` '' of the vehicle.

    `shares` over its answers add up to 1: several only where a recording or figures leave it open. `trust`: how often
    the witness is right, else any answer comes as well as another. `hubs`: for a recording at no hub, those that it may
    be of.
    """

    witness: str
    place: str
    shares: Mapping[str, float]
    source: str = ""
    trust: float = 1.0
    hubs: frozenset[str] = frozenset()

    @property
    def outcome(self) -> str:
        """Return the answer with the largest share."""
        return max(self.shares, key=lambda name: self.shares[name])

    @property
    def words(self) -> str:
        """Return that answer in the trade's words."""
        return words_for(self.witness)[self.outcome]

    @property
    def of_vehicle(self) -> bool:
        """Return whether it speaks of no single hub."""
        return self.place == VEHICLE
