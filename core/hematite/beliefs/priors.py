"""Priors: how many faults of each kind a vehicle has before any test, by design, age, distance and duty."""

import math
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

import numpy as np

from hematite.evidence.witnesses import VEHICLE, Floats, causes
from hematite.tables import table
from hematite.vehicles import Axle, Hub, Vehicle

MOST_DOUBLINGS = 3.0
VEHICLES_KEPT = 256


@lru_cache(maxsize=VEHICLES_KEPT)
def rates(vehicle: Vehicle) -> Mapping[str, Mapping[str, float]]:
    """Return for every hub, and under '' for the vehicle, how many of each fault there are on average.

    A complaint is about the vehicle, so a kind of fault is shared out over the places where it can be: of eight wheels
    none is likelier to be worn than of four.
    """
    found: dict[str, dict[str, float]] = {VEHICLE: {}, **{hub.id: {} for hub in vehicle.hubs()}}
    for cause, row in causes().items():
        for place, share in _places(cause, row, vehicle) if row["group"] != "sound" else ():
            found[place][cause] = float(row["prior"]) * share
    return found


def duties() -> dict[str, str]:
    """Return the kinds of duty with their words."""
    return {key: row["label"] for key, row in table("beliefs/priors.toml")["duty"].items()}


def life(vehicle: Vehicle) -> tuple[Floats, Floats]:
    """Return the chances of an easy and a hard life, shape (2,), and what each does to every bearing, shape (2,).

    What nobody knows of a vehicle's life reaches all its hubs alike. The factors leave the average as it is.
    """
    row = table("beliefs/priors.toml")["life"]
    hard = float(row["hard_after_duty"] if vehicle.duty else row["hard"])
    return _mixed(hard, float(row["times"]))


def ageing() -> tuple[Floats, Floats]:
    """Return the same of an axle: its bearings age together."""
    row = table("beliefs/priors.toml")["axle"]
    return _mixed(float(row["aged"]), float(row["times"]))


def _mixed(share: float, times: float) -> tuple[Floats, Floats]:
    usual = 1 / (1 - share + share * times)
    return np.array([1 - share, share]), np.array([usual, usual * times])


def _places(cause: str, row: Mapping[str, Any], vehicle: Vehicle) -> list[tuple[str, float]]:
    """Return (place, share of the prior); a cause of the whole vehicle needs a driven axle."""
    if vehicle.is_cycle and row.get("powered"):
        return []
    if row["at"] == "vehicle":
        driven = any(axle.driven for axle in vehicle.axles)
        return [(VEHICLE, _worn(cause, vehicle))] if driven else []
    hubs = [hub for axle in vehicle.axles if _sits(row["at"], axle, vehicle) for hub in axle.hubs if _has(row, hub)]
    return [(hub.id, _factor(cause, hub, vehicle) / len(hubs)) for hub in hubs]


def _sits(at: str, axle: Axle, vehicle: Vehicle) -> bool:
    if at == "driven_hub":
        return axle.driven
    return at != "steered_hub" or axle.steered or not _says_steered(vehicle)


def _says_steered(vehicle: Vehicle) -> bool:
    """Return whether it is known which axles steer; a vehicle that drives and names none leaves it open."""
    return any(axle.steered for axle in vehicle.axles) or not any(axle.driven for axle in vehicle.axles)


def _has(row: Mapping[str, Any], hub: Hub) -> bool:
    return hub.design_key in row.get("only", (hub.design_key,)) and bool(hub.design.adjusts or not row.get("adjusts"))


def _factor(cause: str, hub: Hub, vehicle: Vehicle) -> float:
    tables = table("beliefs/priors.toml")
    factor = float(tables["design"].get(hub.design_key, {}).get(cause, 1.0))
    for duty in vehicle.duty:
        factor *= float(tables["duty"].get(duty, {}).get(cause, 1.0))
    return factor * _worn(cause, vehicle)


def _worn(cause: str, vehicle: Vehicle) -> float:
    tables, factor = table("beliefs/priors.toml"), 1.0
    for name, value in (("age_years", vehicle.age_years), ("distance_km", vehicle.distance_km)):
        row = tables[name]
        if value and cause in row["causes"]:
            doublings = min(max(math.log2(value / row["at"]), -MOST_DOUBLINGS), MOST_DOUBLINGS)
            factor *= float(row["doubling"]) ** doublings
    return factor
