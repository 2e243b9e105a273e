"""Threads as they are written down: M24×1.5, M12, 3/4-16 UNF, 1-14, 7/8 UNC."""

import re
from dataclasses import dataclass

from hematite.errors import BadQuantity
from hematite.language import say
from hematite.tables import table

METRIC = re.compile(r"M ?(\d{1,2}(?:\.\d)?)(?: ?[X×*-] ?(\d(?:\.\d{1,2})?))?")
INCH = re.compile(r'(\d(?: \d/\d{1,2})?|\d{1,2}/\d{1,2})"?(?: ?- ?(\d{1,2}))? ?(UNF|UNC|UNS|UNEF|UN)?')
INCH_MM = 25.4
LARGEST_MM = 100.0  # judgement: no nut of a wheel is larger
PITCHES_MM = (0.35, 6.0)


@dataclass(frozen=True)
class Thread:
    """A thread: outside diameter and pitch in millimetres, and how it is written."""

    diameter_mm: float
    pitch_mm: float
    words: str


def read_thread(text: object) -> Thread:
    """Return the thread that a designation stands for. Raises `BadQuantity` for one that names no pitch.

    Metric by ISO 261, coarse where no pitch is written; inch by ASME B1.1, its pitch an inch over the turns.
    """
    given = " ".join(str(text or "").upper().replace(",", ".").split())[:24]
    thread = _metric(given) or _inch(given)
    if thread is None:
        raise BadQuantity(say("“{given}” is no thread that is known here. Write it as M24×1.5 or 3/4-16.", given=given))
    if not PITCHES_MM[0] <= thread.pitch_mm <= PITCHES_MM[1] or thread.pitch_mm > thread.diameter_mm / 3:
        raise BadQuantity(
            say(
                "No thread {given} is cut: its pitch would be {pitch_mm:g} mm. Read it again.",
                given=given,
                pitch_mm=thread.pitch_mm,
            )
        )
    if thread.diameter_mm > LARGEST_MM:
        raise BadQuantity(
            say("A thread of {diameter_mm:g} mm holds no wheel. Read it again.", diameter_mm=thread.diameter_mm)
        )
    return thread


def _metric(given: str) -> Thread | None:
    found = METRIC.fullmatch(given)
    if not found:
        return None
    size = f"{float(found[1]):g}"
    pitch = float(found[2]) if found[2] else table("threads.toml")["coarse_mm"].get(size)
    if not pitch:
        raise BadQuantity(
            say("The pitch of M{size} is not known here. Write it with its pitch, as M{size}×1.5.", size=size)
        )
    return Thread(float(size), pitch, f"M{size}×{pitch:g}")


def _inch(given: str) -> Thread | None:
    found = INCH.fullmatch(given)
    if not found:
        return None
    size, series = found[1], found[3] or ""
    turns = int(found[2]) if found[2] else table("threads.toml").get(series.lower(), {}).get(size)
    if not turns:
        raise BadQuantity(say("How many turns an inch has {given}? Write it as {size}-16.", given=given, size=size))
    diameter = sum(_fraction(part) for part in size.split())
    return Thread(diameter * INCH_MM, INCH_MM / turns, f"{size}-{turns}{' ' + series if series else ''}")


def _fraction(text: str) -> float:
    top, _, bottom = text.partition("/")
    if bottom and int(bottom) == 0:
        raise BadQuantity(say("“{text}” is no size. Write it as 3/4.", text=text))
    return int(top) / int(bottom or 1)
