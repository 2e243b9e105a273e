"""What a sum answers: one line to be read at arm's length, its working behind it, and what a drawing needs."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from hematite.language import figure, say

LEVELS = ("good", "doubt", "bad", "plain", "ask")


@dataclass(frozen=True)
class Answer:
    """An answer in words. `level`: good, doubt, bad, plain, or ask where something has to be said first.

    `working`: label and words of each part; `says`: cautions and what to do; `missing`: fields it cannot do without;
    `picture`: figures that the drawing is made from, in mm, degrees, N·m or °C; `keep`: what the vehicle remembers.
    """

    line: str
    level: str = "plain"
    working: tuple[tuple[str, str], ...] = ()
    says: tuple[str, ...] = ()
    missing: tuple[str, ...] = ()
    picture: Mapping[str, Any] = field(default_factory=dict)
    keep: Mapping[str, Any] = field(default_factory=dict)


def wants(*missing: str, line: str = "") -> Answer:
    """Return the answer of a sum that still misses figures."""
    return Answer(line, "plain", missing=missing)


def spread(least: float, most: float, unit: str, decimals: int = 2) -> str:
    """Return a range in words: 0.05 to 0.11 mm, one figure where both are the same."""
    low, high = (figure(value, f".{decimals}f") for value in (least, most))
    return f"{low} {unit}" if low == high else say("{low} to {high} {unit}", low=low, high=high, unit=unit)
