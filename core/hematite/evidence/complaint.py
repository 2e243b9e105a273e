"""The driver's own words: typed or ticked, matched as words, with what he denies, and where and when he hears it."""

import re
from collections.abc import Iterable, Mapping
from functools import cache
from typing import Any

from hematite.doors import listed, one_of
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import VEHICLE, outcomes, witnesses
from hematite.language import say

DENIED = re.compile(r"\b(?:no|not|never|without|isn't|doesn't|none)\b[^,.;:!?]*$")
NO_NOISE = "nothing"  # the answer of a routine check
PLACES = {"side": "complaint_side", "end": "complaint_end", "bends": "complaint_bends"}


def complaint_statements(value: Mapping[str, Any], source: str = "") -> list[Statement]:
    """Return what a driver's complaint says: `words` or an `answer`, free `text`, and `side`, `end` and `bends`.

    Several words of one driver tell of one trouble and share its evidence. Raises `UnknownName` for other
    words.
    """
    read = read_text(str(value.get("text") or ""))
    named = [
        _named(str(word)) for word in listed(value.get("words") or _one(value.get("answer")), say("The driver's words"))
    ]
    kinds = list(dict.fromkeys([*named, *read["kinds"]]))
    said = [Statement("complaint", VEHICLE, {kind: 1 / len(kinds) for kind in kinds}, source)] if kinds else []
    for key, witness in PLACES.items():
        where = one_of(str(value[key]), outcomes(witness), say("place")) if value.get(key) else read[key]
        said += [Statement(witness, VEHICLE, {where: 1.0}, source)] if where else []
    return said


def read_text(text: str) -> dict[str, Any]:
    """Return what free text names: `kinds` of trouble, and `side`, `end` and `bends`, '' where it says none or several.

    What is denied ("no hum") is not named; where only silence is told it is a routine check.
    """
    row = witnesses()["complaint"]
    bends = next((key for key, said in row["bends"].items() if _names(text, said)), "")
    without = re.sub(r"\b(?:left|right)(?:-hand)?\s+(?:bend|turn)|\bturning\s+(?:left|right)", " ", text.lower())
    kinds = [key for key, said in row["called"].items() if key != NO_NOISE and _names(text, said)]
    if not kinds and _names(text, row["called"][NO_NOISE], denied=True):
        kinds = [NO_NOISE]
    found = {key: [name for name, said in row[key].items() if _names(without, said)] for key in ("side", "end")}
    return {"kinds": kinds, "bends": bends} | {key: own[0] if len(own) == 1 else "" for key, own in found.items()}


def _one(answer: object) -> list[object]:
    return [answer] if answer else []


def _named(word: str) -> str:
    called = witnesses()["complaint"]["called"]
    known = next((name for name, said in called.items() if word.lower() in said), word.lower())
    return one_of(known, outcomes("complaint"), say("kind of complaint"))


def _names(text: str, said: Iterable[str], *, denied: bool = False) -> bool:
    """Return whether text names one of some words, in any form of it, and, unless `denied`, does not deny it."""
    low = text.lower().replace("’", "'")
    return any(
        denied or not DENIED.search(low[: found.start()]) for word in said for found in _form(word).finditer(low)
    )


@cache
def _form(word: str) -> re.Pattern[str]:
    stem = word[:-1] if word.endswith("e") and " " not in word else word
    return re.compile(rf"\b{re.escape(stem)}(?:e|es|s|d|y|{re.escape(stem[-1])}?(?:ing|ed))?\b")
