"""The tables of evidence: what can be wrong, what is hidden, who witnesses it, and how likely each answer is."""

from functools import cache
from typing import Any

import numpy as np
import numpy.typing as npt

from hematite.doors import one_of
from hematite.language import later, say, words_once
from hematite.tables import table

Floats = npt.NDArray[np.float64]

UNSURE = "unsure"
PASSES = {UNSURE: later("could not tell"), "not_done": later("not done")}  # answers, but such as weigh nothing
LIFT_MINUTES, OPEN_MINUTES = 6.0, 20.0  # to lift and make safe, to take a hub apart; judgement
VEHICLE = ""  # the place of what sits at no hub


@words_once
def causes() -> dict[str, Any]:
    """Return the causes that can be at work."""
    return table("evidence/causes.toml")


@words_once
def states() -> dict[str, Any]:
    """Return the hidden things that witnesses look at."""
    return table("evidence/states.toml")


@cache
def group(name: str) -> tuple[str, ...]:
    """Return the hidden things that are looked at together."""
    return tuple(key for key, row in states().items() if row["group"] == name)


@words_once
def witnesses() -> dict[str, Any]:
    """Return the witnesses with their outcomes, words and chances: what hands do first, then what recordings say."""
    return table("evidence/hands.toml") | table("evidence/sounds.toml")


@cache
def of_vehicle(witness: str) -> bool:
    """Return whether a witness speaks of the whole vehicle, not of one hub."""
    return bool(witnesses()[witness].get("place") == "vehicle")


@cache
def outcomes(witness: str) -> tuple[str, ...]:
    """Return what a witness may say: its outcomes, or what one who is asked answers where that differs."""
    row = witnesses()[one_of(witness, witnesses(), say("witness"))]
    return tuple(row.get("asked") or row["outcomes"])


@words_once
def words_for(witness: str) -> dict[str, str]:
    """Return the words of every answer."""
    row = witnesses()[witness]
    return dict(row.get("asked") or zip(row["outcomes"], row["words"], strict=True))


@cache
def outcome_index(witness: str, outcome: str) -> int:
    """Return the place of an answer among `outcomes`. Raises `UnknownName`."""
    names = outcomes(witness)
    return names.index(one_of(outcome, names, say("answer to “{label}”", label=witnesses()[witness]["label"])))


def label_of(cause: str) -> str:
    """Return a cause in words."""
    return str(causes()[cause]["label"])


def mechanism_of(cause: str) -> str:
    """Return the mechanism under which the case format knows a cause, '' where its kind has but one."""
    row = causes()[cause]
    return str(row.get("mechanism", cause if row["group"] == "bearing" else ""))


@cache
def slot_of(cause: str) -> str:
    """Return what a cause excludes: of one slot a hub has at most one."""
    return str(causes()[cause].get("slot", cause))


@cache
def rows_of(witness: str) -> dict[str, Floats]:
    """Return the rows of a witness by what is true, each of shape (outcomes,)."""
    return {key: np.array(row, dtype=float) for key, row in witnesses()[witness]["chances"].items()}


@cache
def overall(witness: str) -> Floats:
    """Return how often each answer is given at all: half the time where nothing is there, else by what is usual."""
    row = witnesses()[witness]
    if row.get("flat"):
        return np.ones(len(outcomes(witness)))
    rows = rows_of(witness)
    base = "base" if "base" in rows else next(iter(rows))  # read beside a mate: both are as they should be
    usual = [float(causes()[key]["prior"]) if key in causes() else 1.0 for key in rows if key != base]
    others = [chances for key, chances in rows.items() if key != base]
    mixed = 0.5 * rows[base] + 0.5 * np.average(others, axis=0, weights=usual) if others else rows[base]
    if "here_for" not in row:
        return np.asarray(mixed)
    here, away = (row["outcomes"].index(name) for name in ("here", "away"))
    sided = (mixed[here] + mixed[away]) / 2
    return np.array(
        [sided if name in row["here_for"] else mixed[row["outcomes"].index(name)] for name in outcomes(witness)]
    )
