"""A statement: what one witness says of one hub or of many."""

from collections.abc import Mapping
from dataclasses import dataclass

from hematite.evidence.tables import witnesses


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

    @property
    def places(self) -> frozenset[str]:
        """Return the hubs that it speaks of."""
        return frozenset(self.said)

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
