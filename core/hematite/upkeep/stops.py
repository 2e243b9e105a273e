"""Stops on the way: where to feel the hubs, what was felt at each against its mate, and what to do when one is warm."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from hematite.doors import one_of, positive
from hematite.language import say
from hematite.tables import table
from hematite.vehicles import Vehicle

LEVELS = ("stop", "look", "watch", "good")  # the gravest first
FARTHEST_KM = 5000.0
MOST_STOPS = 60


@dataclass(frozen=True)
class Felt:
    """What is to be done about one hub as it was felt, and why. `level`: stop, look, watch or good."""

    hub: str
    felt: str
    mate: str
    level: str
    do: str
    why: str


def feelings() -> dict[str, str]:
    """Return what a hand can feel, in words by key."""
    return dict(table("upkeep/stops.toml")["felt"])


def judge_stop(vehicle: Vehicle, felt: Mapping[str, str]) -> tuple[Felt, ...]:
    """Return what to do about every hub that was felt at one stop, the gravest first. Raises `UnknownName`."""
    known = [hub.id for hub in vehicle.hubs()]
    said = {one_of(hub, known, say("hub")): one_of(word, feelings(), "warmth") for hub, word in felt.items()}
    found = [_judged(vehicle, hub, said) for hub in known if hub in said]
    return tuple(sorted(found, key=lambda one: LEVELS.index(one.level)))


def _judged(vehicle: Vehicle, hub: str, said: Mapping[str, str]) -> Felt:
    mate = vehicle.mate(hub)
    beside = said.get(mate.id, "") if mate else ""
    braked = not (vehicle.is_trailer or vehicle.is_cycle)
    for row in table("upkeep/stops.toml")["rule"]:
        if said[hub] in row["here"] and beside in row.get("mate", (beside,)) and row.get("braked", braked) == braked:
            return Felt(hub, said[hub], beside, row["level"], row["do"], row["why"])
    raise AssertionError(said[hub])  # the table ends with a row for each


def stops(far_km: float, *, just_worked_on: bool = False, every_km: float | None = None) -> tuple[float, ...]:
    """Return after how many km to stop and feel the hubs on a trip. Raises `BadQuantity`."""
    rows = table("upkeep/stops.toml")
    far = min(positive(far_km, say("The distance of the trip")), FARTHEST_KM)
    every = positive(every_km, say("The distance between stops")) if every_km is not None else float(rows["every_km"])
    every = max(every, far / MOST_STOPS)
    early: Sequence[float] = rows["after_work_km"] if just_worked_on else (rows["first_km"],)
    later = [early[-1] + every * n for n in range(1, MOST_STOPS)]
    return tuple(float(one) for one in (*early, *later) if one < far)
