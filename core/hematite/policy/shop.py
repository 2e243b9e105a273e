"""What a workshop has to work with: hands, a press, opening hours, torque wrenches, shims."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import count, few, finite, mapped, positive, within
from hematite.errors import BadQuantity
from hematite.language import say
from hematite.tightening import Wrench

MOST_HANDS = 6  # on one job; judgement
THICKEST_MM = 20.0  # a shim; judgement


@dataclass(frozen=True)
class Shop:
    """What there is. The press in t (0 for none, None while nobody said); open from and to in hours.

    `shims`: how many there are of each thickness in mm, None where nobody counted.
    """

    hands: int = 1
    press_t: float | None = None
    opens_h: float = 8.0
    closes_h: float = 17.0
    wrenches: tuple[Wrench, ...] = ()
    shims: Mapping[float, int | None] = field(default_factory=dict, hash=False)


def read_shop(data: Mapping[str, Any]) -> Shop:
    """Check what a workshop has, by the names of `Shop`. Raises `BadQuantity`."""
    usual = Shop()
    hands = count(data.get("hands") or usual.hands, say("The pairs of hands"))
    if hands > MOST_HANDS:
        raise BadQuantity(
            say(
                "{hands} pairs of hands are too many on one job; {most_hands} is the most.",
                hands=hands,
                most_hands=MOST_HANDS,
            )
        )
    press = data.get("press_t")
    if press is not None and not 0 <= finite(press, say("The press in t")) <= 500:
        raise BadQuantity(say("A press does between 0 and 500 t; got {press}.", press=press))
    opens = _hour(data.get("opens_h"), usual.opens_h, say("The hour at which the workshop opens"))
    closes = _hour(data.get("closes_h"), usual.closes_h, say("The hour at which the workshop closes"))
    if closes - opens < 1:
        raise BadQuantity(
            say("Open from {opens:g} to {closes:g} is not a working day. Check the hours.", opens=opens, closes=closes)
        )
    wrenches = tuple(_wrench(row) for row in few(data.get("wrenches") or [], "wrenches", say("Torque wrenches")))
    shims = dict(_shims(row) for row in few(data.get("shims") or [], "shims", say("Shims")))
    return Shop(hands, None if press is None else float(press), opens, closes, wrenches, shims)


def _wrench(row: object) -> Wrench:
    given = mapped(row, say("A torque wrench"))
    least, most = (within(given.get(name), "torque_nm") for name in ("least_nm", "most_nm"))
    label = str(given.get("label") or "").strip()[:40] or say("{least:g} to {most:g} N·m", least=least, most=most)
    if least >= most:
        raise BadQuantity(
            say(
                "{label}: a wrench from {least:g} to {most:g} N·m has no range. Swap them.",
                label=label,
                least=least,
                most=most,
            )
        )
    return Wrench(label, least, most)


def _shims(row: object) -> tuple[float, int | None]:
    given = mapped(row, say("A shim in stock"))
    many = given.get("count")
    thickness = positive(given.get("mm"), say("A shim's thickness in mm"))
    if thickness > THICKEST_MM:
        raise BadQuantity(
            say("A shim of {thickness:g} mm is none. Check the unit and the decimal point.", thickness=thickness)
        )
    return thickness, None if many is None else count(many, say("How many shims there are"), least=0)


def _hour(value: Any, usual: float, what: str) -> float:
    hour = usual if value is None else finite(value, what)
    if not 0 <= hour <= 24:
        raise BadQuantity(say("{what} lies between 0 and 24; got {hour:g}.", what=what, hour=hour))
    return hour
