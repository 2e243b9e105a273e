"""What hands, eyes and a dial find at a vehicle that hides something: drawn by the tables of evidence, once a test."""

from typing import Any
from zlib import crc32

import numpy as np

from hematite.assembly import Part, parts_of
from hematite.beliefs.frame import frame_of
from hematite.beliefs.noise import answers, whereabouts
from hematite.beliefs.space import beside_mate, by_hidden
from hematite.errors import HematiteError
from hematite.evidence.witnesses import Floats, group, of_vehicle, outcomes, states, witnesses
from hematite.inspection.finds import Find, finds_of
from hematite.inspection.inspection import CALLED
from hematite.language import say
from hematite.training.drawing import pick
from hematite.training.kept import found_of, seen_of
from hematite.training.truth import Truth
from hematite.vehicles import Hub, Vehicle

SCATTER_MM = 0.006  # of one stroke of a dial gauge by hand; judgement
SPANS = 12  # strokes of the simulated gauge before they come round again


def can_be_felt(witness: str) -> bool:
    """Return whether a test is one that a hidden truth answers in a word: not the driver, a recording, or a part."""
    row = witnesses()[witness]
    told_otherwise = row.get("recorded") or "asked_as" in row or row.get("apart") == "opened" or "needs" in row
    return not (told_otherwise or witness in ("complaint", "fault_lines", "level") or _sided(witness))


def _sided(witness: str) -> bool:
    return witnesses()[witness].get("shows") in ("each_side", "anywhere")


def entry_of(truth: Truth, vehicle: Vehicle, witness: str, place: str) -> dict[str, Any]:
    """Return what is entered when a test is made at a hub, or of the vehicle with place ''. Raises as `felt` does."""
    if truth.kept:
        return found_of(truth, witness, place)
    return {"answer": felt(truth, vehicle, witness, place)}


def felt(truth: Truth, vehicle: Vehicle, witness: str, place: str) -> str:
    """Return the answer to a test at a hub, or of the vehicle with place ''; asked again it is the same.

    Raises `HematiteError` for what only a recording, the driver or an opened hub can tell.
    """
    if not can_be_felt(witness):
        raise HematiteError(say("That cannot be done on a practice hub. Say “not done”, and go on."))
    chances = _chances(truth, vehicle, witness, place)
    return pick(outcomes(witness), chances, _dice(truth, f"{witness} {place}"), errs=truth.errs)


def _dice(truth: Truth, what: str) -> np.random.Generator:
    return np.random.default_rng([truth.seed, crc32(what.encode())])


def _chances(truth: Truth, vehicle: Vehicle, witness: str, place: str) -> Floats:
    row = witnesses()[witness]
    if of_vehicle(witness):
        at, cause = truth.noise
        where = whereabouts(vehicle, at)
        return answers(witness, cause, where.side if "left" in outcomes(witness) else where.end, misled=False)
    own = truth.values[place]
    if "against" in row:
        mate = vehicle.mate(place)
        thing, values = row["against"], states()[row["against"]]["values"]
        other = truth.values[mate.id][thing] if mate else values[0]
        return np.asarray(beside_mate(witness)[:, values.index(own[thing]), values.index(other)])
    if "reads" in row:
        at_values = tuple(states()[name]["values"].index(own[name]) for name in group(row["reads"]))
        return np.asarray(by_hidden(witness)[(slice(None), *at_values)])
    space = frame_of(vehicle).spaces[place]
    cause = truth.causes.get(place, "")
    return np.asarray(space.by_cause(witness)[space.states.index(frozenset({cause} if cause else ()))])


def strokes_mm(truth: Truth, place: str, *, first: int = 0) -> list[float]:
    """Return what the pointer of a dial travels, stroke by stroke, in mm: the hub's play with a hand's scatter.

    Raises `HematiteError` at a vehicle of real work where nobody read one.
    """
    if truth.kept:
        return [float(reading) for reading in found_of(truth, "end_play", place)["readings_mm"]]
    return scattered_mm(truth.play_mm[place], seed=truth.seed, what=f"{place} {first}")


def scattered_mm(play_mm: float, *, seed: int, what: str) -> list[float]:
    """Return `SPANS` strokes of a dial over a play in mm."""
    dice = np.random.default_rng([seed, crc32(f"strokes {what}".encode())])
    return [round(max(play_mm + float(dice.normal(0, SCATTER_MM)), 0.0), 3) for _ in range(SPANS)]


def seen(truth: Truth, hub: Hub, part_key: str) -> list[str]:
    """Return the finds at one part of an opened hub, by their keys. Raises `HematiteError` for a part it has not."""
    if truth.kept:
        return seen_of(truth, hub.id, part_key)
    parts = {part.key: part for part in parts_of(hub.design_key) if part.kind}
    if part_key not in parts:
        raise HematiteError(say("This hub has no such part. Look at another."))
    part = parts[part_key]
    shown = _worst(truth, hub, list(parts.values()))
    found = [shown[part.key]] if part.key in shown else _fine(part)
    return [find.key for find in [*found, *_in_the_hand(truth, hub, part)]]


def _fine(part: Part) -> list[Find]:
    return [find for find in finds_of(part) if find.fine and not find.hand][:1]


def _worst(truth: Truth, hub: Hub, parts: list[Part]) -> dict[str, Find]:
    """Return the find that shows what a hub looks like inside, at the one or two parts that show it."""
    outcome = truth.opened[hub.id]
    facts = {fact for fact, called in CALLED.items() if called == outcome} | ({"dry"} if outcome == "dry" else set())
    showing = [
        (part, find)
        for part in parts
        if part.rolls
        for find in finds_of(part)
        if facts & set(find.facts) and not find.fine and "cracked" not in find.facts
    ]
    if not showing:
        return {}
    dice = _dice(truth, f"inside {hub.id}")
    places = list(dict.fromkeys(part.key for part, _ in showing))
    chosen = [str(name) for name in dice.choice(places, size=min(2, len(places)), replace=False)]
    found = {}
    for name in chosen:
        own = [find for part, find in showing if part.key == name]
        found[name] = own[int(dice.integers(len(own)))]
    return found


def _in_the_hand(truth: Truth, hub: Hub, part: Part) -> list[Find]:
    hands = {find.hand: find for find in finds_of(part) if find.hand}
    if not hands:
        return []
    own = truth.values[hub.id]
    at_values = tuple(states()[name]["values"].index(own[name]) for name in group("rolling"))
    chances = by_hidden("hand_turned")[(slice(None), *at_values)]
    says = pick(outcomes("hand_turned"), chances, _dice(truth, f"hand {hub.id} {part.key}"), errs=truth.errs)
    return [hands[says]] if says in hands else []
