"""How much is worth saying, and the words for it: the same on every screen, on paper and on the command line."""

from collections.abc import Mapping
from typing import Any

from hematite.language import say
from hematite.tables import table

HARDLY_BITS = 0.2  # moves the odds by less than a seventh; judgement
WORTH_NAMING, WORTH_A_RULE = 0.02, 0.05  # of a belief: less is left out of a list; judgement
NEVER_SURE = 0.99  # beyond it, and below one less that, nobody is told a figure; judgement


def wording() -> dict[str, Any]:
    """Return the table of shared words."""
    return table("wording.toml")


def hardly_moves(bits: float) -> bool:
    """Return whether a witness of so many bits, either way, hardly moves the odds."""
    return abs(bits) < HARDLY_BITS


def worth_naming(shares: Mapping[str, float]) -> dict[str, float]:
    """Return the shares of a belief that are worth naming, the greatest first."""
    return {name: share for name, share in sorted(shares.items(), key=lambda one: -one[1]) if share >= WORTH_NAMING}


def percent(share: float) -> str:
    """Return a probability in words: never certain, never impossible."""
    whole = round(share * 100)
    most = round(NEVER_SURE * 100)
    return (
        say("over {most} %", most=most)
        if whole > most
        else say("under {most} %", most=100 - most)
        if whole < 100 - most
        else f"{whole} %"
    )
