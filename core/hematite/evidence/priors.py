"""Priors: what may be wrong where on this vehicle, before any test, by design, age, distance and duty."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.evidence.tables import causes
from hematite.tables import table
from hematite.vehicles import Axle, Hub, Vehicle

VEHICLE = ""  # the place of a cause that sits at no hub
MOST_WRONG = 0.95  # something is wrong with a vehicle that is brought in, but not always; judgement
MOST_DOUBLINGS = 3.0
SECOND = 0.25  # how much likelier or rarer a second fault is than chance alone would have it; judgement
SAME_AXLE = 4.0  # times that for the two bearings of one axle, which age together; judgement


@dataclass(frozen=True)
class Single:
    """One cause at one place, with its prior."""

    cause: str
    place: str
    prior: float
    axle: int = 0

    @property
    def group(self) -> str:
        """Return the cause as a case bundle names it."""
        return str(causes()[self.cause]["group"])


def duties() -> dict[str, str]:
    """Return the kinds of duty with their words."""
    return {key: row["label"] for key, row in table("evidence/priors.toml")["duty"].items()}


def singles(vehicle: Vehicle) -> tuple[Single, ...]:
    """Return every cause at every place where it can be, with its prior; together at most `MOST_WRONG`."""
    found = [
        Single(cause, place, float(row["prior"]) * weight, axle)
        for cause, row in causes().items()
        if cause != "sound"
        for place, weight, axle in _places(cause, row, vehicle)
    ]
    total = sum(single.prior for single in found)
    scale = min(1.0, MOST_WRONG / total)
    return tuple(Single(s.cause, s.place, s.prior * scale, s.axle) for s in found)


def _places(cause: str, row: Mapping[str, Any], vehicle: Vehicle) -> list[tuple[str, float, int]]:
    """Return (place, share of the prior, axle) of a cause; a cause of the whole vehicle needs a driven axle."""
    driven = any(axle.driven for axle in vehicle.axles)
    if row["at"] == "vehicle":
        return [(VEHICLE, _worn(cause, vehicle), 0)] if driven else []
    wanted = {"hub": _any, "driven_hub": _driven, "steered_hub": _steered if _says_steered(vehicle) else _any}[
        row["at"]
    ]
    allowed = row.get("only")
    places = [
        (hub, number)
        for number, axle in enumerate(vehicle.axles, start=1)
        if wanted(axle)
        for hub in axle.hubs
        if allowed is None or hub.design_key in allowed
    ]
    return [(hub.id, _factor(cause, hub, vehicle) / len(places), number) for hub, number in places]


def _any(axle: Axle) -> bool:
    return True


def _driven(axle: Axle) -> bool:
    return axle.driven


def _steered(axle: Axle) -> bool:
    return axle.steered


def _says_steered(vehicle: Vehicle) -> bool:
    """Return whether it is known which axles steer; a vehicle that drives and names none leaves it open."""
    return any(axle.steered for axle in vehicle.axles) or not any(axle.driven for axle in vehicle.axles)


def _factor(cause: str, hub: Hub, vehicle: Vehicle) -> float:
    tables = table("evidence/priors.toml")
    factor = float(tables["design"].get(hub.design_key, {}).get(cause, 1.0))
    for duty in vehicle.duty:
        factor *= float(tables["duty"].get(duty, {}).get(cause, 1.0))
    return factor * _worn(cause, vehicle)


def _worn(cause: str, vehicle: Vehicle) -> float:
    tables, factor = table("evidence/priors.toml"), 1.0
    for name, value in (("age_years", vehicle.age_years), ("distance_km", vehicle.distance_km)):
        row = tables[name]
        if value and cause in row["causes"]:
            doublings = min(max(math.log2(value / row["at"]), -MOST_DOUBLINGS), MOST_DOUBLINGS)
            factor *= float(row["doubling"]) ** doublings
    return factor
