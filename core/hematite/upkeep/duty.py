"""What a vehicle goes through, and by how much that shortens the time until it is looked at again."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from hematite.doors import one_of, positive
from hematite.language import say
from hematite.tables import table

LEAST = 0.1  # no interval is shortened below a tenth: then it is looked at on every trip anyway; judgement


@dataclass(frozen=True)
class Shortening:
    """What is left of an interval, as a share, and why: the words of every duty that counts, the gravest first."""

    times: float
    why: tuple[str, ...] = ()


def shortening(duty: Sequence[str] = (), *, life_ratio: float | None = None) -> Shortening:
    """Return how a vehicle's duty shortens what wears. `life_ratio`: of ISO 281, where wheels were set outward.

    A ratio that was worked out stands in the place of the table's guess for spacers; a gain never lengthens.
    Raises `UnknownName`, `BadQuantity`.
    """
    rows = table("upkeep/duty.toml")
    shares = {
        one_of(key, rows, say("kind of duty")): (float(rows[key]["times"]), str(rows[key]["why"])) for key in duty
    }
    if life_ratio is not None:
        share = min(1.0, positive(life_ratio, say("What is left of its life")))
        shares["spacers"] = (share, say("by its loads {share:.0%} of its life is left (ISO 281, a ratio)", share=share))
    counted = sorted((one for one in shares.values() if one[0] < 1.0), key=lambda one: one[0])
    times = 1.0
    for n, (share, _) in enumerate(counted):
        times *= share if n == 0 else (1 + share) / 2
    return Shortening(max(LEAST, times), tuple(why for _, why in counted))


def due_at_once(duty: str) -> Mapping[str, Any] | None:
    """Return what is to be looked at right after an event such as a water crossing; None where nothing is."""
    rows = table("upkeep/duty.toml")
    row = rows[one_of(duty, rows, say("kind of duty"))].get("at_once")
    return dict(row) if row else None
