"""What has been heard so far, while a recording is still being made: whether that is enough, and what would help.

Stopping rule: a wheel on stands is decided when what stands highest does so by 9.2 nats, ten thousand to one, and is
clear of luck, a hundred to one. Over hiss e to the power of a strength is one on average or less, so one family at one
look is wrong at most once in ten thousand (Markov's bound): of some twenty families at eleven looks, at most once in 45
recordings of hiss. A run on the road goes on through its bends.
"""

from dataclasses import dataclass, replace

import numpy as np

from hematite.errors import BadSpeed
from hematite.families import CLEAR, GEARS, Family, surest_first
from hematite.families.words import VERY_STRONG
from hematite.language import later, say
from hematite.listening.heard import Heard
from hematite.listening.hearing import listen
from hematite.listening.situation import Situation
from hematite.recordings import Recording
from hematite.vehicles import Vehicle

LOOK_EVERY_S = 2.5
ENOUGH_NATS = VERY_STRONG
LEAST_S = 5.0  # of sound, before anything is asked of it: shorter is called short afterwards
LONG_S = 30.0  # after so long more of the same brings little; judgement
NO_FAULT = (GEARS, "tread", "whole_orders")  # kinds that decide nothing at a wheel in the air
ENOUGH = later("Enough: by ten thousand to one it is no hiss, by a hundred to one no other noise.")
MORE = later("Something shows. Ten more seconds would tell more.")
BY_LUCK = later(
    "It stands out, but engine or gears may make it by luck. Let the wheel go by hand, or hear the other hubs."
)
NO_SPEED = later("No speed is told by the sound yet. Ten more seconds, turned faster; or tap the turns.")
NOTHING = later("Nothing stands out so far. Ten more seconds; nearer to the bearing or faster shows more.")
LONG = later(
    "Nothing stands out in half a minute. Push the brake pads back, clip nearer, turn it faster, or go to the next hub."
)
WAIT = later("Listening …")
ON_THE_ROAD = later("Go on through bends both ways, marked as they come.")


@dataclass(frozen=True)
class SoFar:
    """So many seconds heard: `heard` is None before `LEAST_S`; `decided` by the rule above."""

    seconds: float
    heard: Heard | None
    decided: bool
    words: str

    @property
    def standing(self) -> list[Family]:
        """Return what stands out of chance, the highest first, one of a kind."""
        return _standing(self.heard) if self.heard else []


def hear_so_far(recording: Recording, situation: Situation, *, vehicle: Vehicle) -> SoFar:
    """Return what the sound tells so far; a speed that cannot be used yet is taken as not known.

    So are turns that were counted: they are of the whole run.
    """
    seconds = recording.duration
    if seconds < LEAST_S:
        return SoFar(seconds, None, decided=False, words=say(WAIT))
    unknown = replace(situation, speed={"kind": "unknown"})
    try:
        counted = situation.speed.get("kind") == "counted"
        heard = listen(recording, unknown if counted else situation, vehicle=vehicle)
    except BadSpeed:
        heard = listen(recording, unknown, vehicle=vehicle)
    return SoFar(seconds, heard, _decided(heard), _words(heard))


def as_it_goes_on(recording: Recording, situation: Situation, *, vehicle: Vehicle) -> list[SoFar]:
    """Return what a recording told at every look while it was being made, and at its end."""
    every = int(LOOK_EVERY_S * recording.rate)
    ends = [*range(every, len(recording.samples), every), len(recording.samples)]
    parts = [replace(recording, samples=recording.samples[:end]) for end in ends]
    return [hear_so_far(part, situation, vehicle=vehicle) for part in parts]


def _standing(heard: Heard) -> list[Family]:
    found: dict[str, Family] = {}
    for family in surest_first(heard.families):
        if family.standing != "nothing":
            found.setdefault(family.kind, family)
    return list(found.values())


def how_surely(family: Family) -> float:
    """Return how far a family is on the way to being decided, from 0 to 1."""
    return float(np.clip(min(family.strength / ENOUGH_NATS, family.odds / CLEAR), 0.0, 1.0))


def _decided(heard: Heard) -> bool:
    lead = _telling(heard)
    return lead is not None and heard.situation.situation != "road" and how_surely(lead) >= 1


def _telling(heard: Heard) -> Family | None:
    return next((f for f in _standing(heard) if f.kind not in NO_FAULT), None)


def _words(heard: Heard) -> str:
    lead = _telling(heard)
    spoils = next((finding for finding in heard.quality if finding.level == "stop" or finding.id == "clipped"), None)
    if spoils is not None:
        return f"{spoils.words} {spoils.hint}"
    if heard.situation.situation == "road":
        return say(ON_THE_ROAD)
    if lead is not None:
        return say(ENOUGH if _decided(heard) else BY_LUCK if lead.strength >= ENOUGH_NATS else MORE)
    if heard.duration_s >= LONG_S:
        return say(LONG)
    return say(NOTHING if heard.turns_per_s else NO_SPEED)
