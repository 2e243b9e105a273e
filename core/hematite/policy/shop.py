"""What a workshop has to work with: hands, a press, opening hours."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.doors import count, finite
from hematite.errors import BadQuantity

MOST_HANDS = 6  # on one job; judgement


@dataclass(frozen=True)
class Shop:
    """Pairs of hands on one job, the press in t (0 for none, None while nobody said), and when it is open, in hours."""

    hands: int = 1
    press_t: float | None = None
    opens_h: float = 8.0
    closes_h: float = 17.0


def read_shop(data: Mapping[str, Any]) -> Shop:
    """Check what a workshop has: `hands`, `press_t`, `opens_h`, `closes_h`. Raises `BadQuantity`."""
    usual = Shop()
    hands = count(data.get("hands") or usual.hands, "The pairs of hands")
    if hands > MOST_HANDS:
        raise BadQuantity(f"{hands} pairs of hands are too many on one job; {MOST_HANDS} is the most.")
    press = data.get("press_t")
    if press is not None and not 0 <= finite(press, "The press in t") <= 500:
        raise BadQuantity(f"A press does between 0 and 500 t; got {press}.")
    opens = _hour(data.get("opens_h"), usual.opens_h, "opens")
    closes = _hour(data.get("closes_h"), usual.closes_h, "closes")
    if closes - opens < 1:
        raise BadQuantity(f"Open from {opens:g} to {closes:g} is not a working day. Check the hours.")
    return Shop(hands, None if press is None else float(press), opens, closes)


def _hour(value: Any, usual: float, what: str) -> float:
    hour = usual if value is None else finite(value, f"The hour at which the workshop {what}")
    if not 0 <= hour <= 24:
        raise BadQuantity(f"The workshop {what} between 0 and 24 hours; got {hour:g}.")
    return hour
