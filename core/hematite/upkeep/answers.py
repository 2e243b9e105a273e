"""How a recheck is answered, and what that says: good, or outside, with what a new case begins with."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.doors import one_of
from hematite.errors import BadQuantity
from hematite.evidence import Observation, statements, words_of
from hematite.language import say
from hematite.tables import table
from hematite.vehicles import Vehicle

FINE = {"end_play": ("none", "within"), "heat_over_mate": ("cool",), "heat_over_air": ("cool",)}


@dataclass(frozen=True)
class Ask:
    """How a recheck is answered: the words of good and bad, its minutes, and what may be measured instead."""

    good: str
    bad: str
    minutes: float
    reading: str = ""


@dataclass(frozen=True)
class Answered:
    """What an answer says: whether it is `outside`, in words, and the observation a new case begins with, if any."""

    outside: bool
    words: str
    observation: Observation | None = None


def asks() -> dict[str, Ask]:
    """Return how each kind of recheck is answered."""
    rows = table("upkeep/answers.toml")
    return {
        key: Ask(row["good"], row["bad"], float(row["minutes"]), row.get("reading", "")) for key, row in rows.items()
    }


def judge(
    kind: str, hub: str, vehicle: Vehicle, *, answer: str = "", reading: Mapping[str, Any] | None = None
) -> Answered:
    """Return what an answer ('good' or 'bad') or a reading says; a reading by its own limits, whatever was tapped.

    `reading` has the fields of the case format for its witness. Raises `UnknownName`, `BadQuantity`.
    """
    ask = asks()[one_of(kind, asks(), say("recheck"))]
    if reading:
        if not ask.reading:
            raise BadQuantity(say("This is answered in words: there is nothing to measure."))
        one_of(hub, [known.id for known in vehicle.hubs()], say("hub of this vehicle"))  # by whose limits it is judged
        return _measured(Observation(ask.reading, hub, reading), vehicle)
    outside = one_of(answer, ("good", "bad"), "answer") == "bad"
    finds = table("upkeep/answers.toml")[kind].get("finds")
    found = Observation(finds["kind"], hub, {"answer": finds["answer"]}) if outside and finds else None
    return Answered(outside, ask.bad if outside else ask.good, found)


def _measured(seen: Observation, vehicle: Vehicle) -> Answered:
    """Judge figures: outside where that is as likely as not."""
    said = statements(seen, vehicle)
    fine = min((sum(s.shares.get(name, 0.0) for name in FINE[s.witness]) for s in said), default=1.0)
    return Answered(fine < 0.5, words_of(seen, vehicle), seen)
