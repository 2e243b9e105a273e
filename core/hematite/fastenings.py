"""Fastenings: what is known of a vehicle's nuts and bolts, its torque book; and whose torque each is."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.doors import count, finite, mapped, one_of, within
from hematite.errors import BadQuantity
from hematite.language import later, say, words_once
from hematite.tables import table
from hematite.threads import read_thread

DATE = re.compile(r"\d{4}-\d{2}-\d{2}")
SOURCES = {
    "manual": later("the manual"),
    "plate": later("a plate on the vehicle"),
    "measured": later("measured"),
    "told": later("told"),
}


@dataclass(frozen=True)
class Seen:
    """A torque that was seen on some vehicle, in N·m: to check one's own by, never a default for another."""

    nm: tuple[float, ...]
    of: str


@dataclass(frozen=True)
class Kind:
    """Whose torque it is, what was seen elsewhere, how many there usually are, and whether a stop-gap may do."""

    key: str
    label: str
    seen: tuple[Seen, ...] = ()
    usual: int = 5
    stop_gap: bool = True


@dataclass(frozen=True)
class Fastening:
    """What is known of one nut or set of bolts. Torque in N·m, `most_nm` only for a range; `socket_mm` across flats.

    `source`: a key of `SOURCES`; `page` and `on` (a date) as they were written down. `one_time`: None while unknown;
    `count`: how many there are, as the nuts of a wheel.
    """

    key: str
    least_nm: float | None = None
    most_nm: float | None = None
    source: str = ""
    page: str = ""
    on: str = ""
    thread: str = ""
    grade: str = ""
    socket_mm: float | None = None
    one_time: bool | None = None
    slots: int | None = None
    holes: int | None = None
    count: int | None = None

    @property
    def aim_nm(self) -> float | None:
        """Return the torque to set: a range is aimed at its middle."""
        if self.least_nm is None:
            return None
        return (self.least_nm + (self.most_nm if self.most_nm is not None else self.least_nm)) / 2

    @property
    def source_words(self) -> str:
        """Return where the torque came from, in words."""
        said = ", ".join(part for part in (say(SOURCES.get(self.source, "")), self.page, self.on) if part)
        return said or say("no source given")


@words_once
def kinds() -> dict[str, Kind]:
    """Return every fastening whose torque a job may ask for."""
    return {
        key: Kind(
            key,
            row["label"],
            tuple(Seen(tuple(map(float, s["nm"])), s["of"]) for s in row.get("seen", ())),
            row.get("usual", 5),
            row.get("stop_gap", True),
        )
        for key, row in table("fastenings.toml").items()
    }


def read_fastenings(value: object) -> dict[str, Fastening]:
    """Check a torque book, by whose torque it is. Raises `UnknownName`, `BadQuantity`."""
    rows = mapped(value or {}, say("The torque book"))
    return {one_of(str(key), kinds(), say("fastening")): _read(str(key), row) for key, row in rows.items()}


def _read(key: str, value: object) -> Fastening:
    row = mapped(value, say("The torque book ({label})", label=kinds()[key].label))
    label = kinds()[key].label
    least, most = (_torque(row.get(name)) for name in ("least_nm", "most_nm"))
    if least is None and most is not None:
        least, most = most, None
    if least is not None and most is not None and least > most:
        raise BadQuantity(
            say(
                "{label}: the least torque, {least:g} N·m, is more than the most, {most:g} N·m. Swap them.",
                label=label,
                least=least,
                most=most,
            )
        )
    on = str(row.get("on") or "")
    if on and not DATE.fullmatch(on):
        raise BadQuantity(say("{label}: “{on}” is no date. Write it as year-month-day.", label=label, on=on[:20]))
    source = str(row.get("source") or "")
    one_time = row.get("one_time")
    if one_time not in (None, True, False):
        raise BadQuantity(say("{label}: say yes or no to whether it is used once.", label=label))
    if source:
        one_of(source, SOURCES, say("source of a torque"))
    return Fastening(
        key=key, least_nm=least, most_nm=most, source=source,
        page=str(row.get("page") or "")[:60], on=on, thread=_thread(row.get("thread"), label),
        grade=str(row.get("grade") or "")[:8], socket_mm=_of(row, "socket_mm", label, 5, 120), one_time=one_time,
        slots=_counted(row, "slots", label), holes=_counted(row, "holes", label),
        count=_counted(row, "count", label),
    )  # fmt: skip


def _torque(value: Any) -> float | None:
    return None if value is None else within(value, "torque_nm")


def _of(row: Mapping[str, Any], name: str, label: str, least: float, most: float) -> float | None:
    if row.get(name) is None:
        return None
    number = finite(row[name], say("{label}: its socket", label=label))
    if not least <= number <= most:
        raise BadQuantity(
            say(
                "{label}: a socket lies between {least:g} and {most:g} mm; got {number:g}.",
                label=label,
                least=least,
                most=most,
                number=number,
            )
        )
    return number


COUNTED = {
    "slots": later("{label}: its slots"),
    "holes": later("{label}: its holes"),
    "count": later("{label}: how many there are"),
}


def _counted(row: Mapping[str, Any], name: str, label: str) -> int | None:
    if row.get(name) is None:
        return None
    number = count(row[name], say(COUNTED[name], label=label))
    if number > 60:
        raise BadQuantity(say("{label}: {number} are too many. Count them again.", label=label, number=number))
    return number


def _thread(value: Any, label: str) -> str:
    text = re.sub(r"(?<=\d)\s*[x×X*]\s*(?=\d)", "×", str(value or "").strip()).upper()
    try:
        return text if not text or read_thread(text) else ""
    except BadQuantity as refusal:
        raise BadQuantity(f"{label}: {refusal}") from None
