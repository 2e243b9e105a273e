"""What is followed at a hub over its visits: a figure from each observation or recording, its limit, and its growth."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from hematite.evidence.observations import OVER_AIR_K
from hematite.evidence.sounds import WHEEL_KINDS
from hematite.language import say, words_once
from hematite.listening import Heard
from hematite.tables import table
from hematite.upkeep.trend import Trend, Visit, trend
from hematite.vehicles import Hub, Vehicle


@dataclass(frozen=True)
class Measure:
    """One quantity that is followed. `grows`: 1 where more is worse, −1 where less is; `kind`: what it is read from."""

    key: str
    label: str
    unit: str
    kind: str
    grows: int
    source: str
    limit: str | float | None = None


@words_once
def measures() -> dict[str, Measure]:
    """Return what is followed, by key."""
    return {key: Measure(key=key, **row) for key, row in table("upkeep/measures.toml").items()}


def limit_of(key: str, hub: Hub, vehicle: Vehicle) -> float | None:
    """Return from where on a quantity says that something is to be done at a hub; None where nobody can say."""
    limit = measures()[key].limit
    if limit == "window":
        return hub.play_window_mm[1]
    if limit == "air":
        return OVER_AIR_K["unbraked" if vehicle.is_trailer or vehicle.is_cycle else "braked"][0]
    return float(limit) if limit is not None else None


def of_observation(kind: str, value: Mapping[str, Any]) -> dict[str, float]:
    """Return what an observation gives to be followed, by key; words without a figure give nothing."""
    if kind == "end_play" and value.get("readings_mm"):
        read = [float(one) for one in value["readings_mm"]]
        return {"play": sum(read) / len(read)}
    if kind == "heat" and "temp_c" in value and value.get("ambient_c") is not None:
        return {"warmth": float(value["temp_c"]) - float(value["ambient_c"])}
    if kind == "coast_down" and "seconds" in value:
        return {"rundown": float(value["seconds"])}
    return {}


def of_sound(heard: Heard, relative_db: float | None) -> dict[str, float]:
    """Return what a recording at a hub gives: its loudness beside the others, the strongest line of its bearing."""
    found = {} if relative_db is None else {"level": relative_db}
    odds = [family.odds for family in heard.families if family.kind not in WHEEL_KINDS]
    if heard.usable and heard.turns_per_s:
        found["lines"] = max(odds, default=0.0)
    return found


def follow(key: str, visits: Sequence[Visit], hub: Hub, vehicle: Vehicle, breaks: Iterable[float]) -> Trend:
    """Return the growth of one quantity at a hub. Where less is worse a growth is a fall."""
    way = measures()[key].grows
    limit = limit_of(key, hub, vehicle)
    turned = [Visit(one.day, way * one.value) for one in visits]
    return trend(turned, limit=None if limit is None else way * limit, breaks=list(breaks))


def beside_its_mate(own: Trend, mate: Trend) -> str:
    """Return in words whether a hub grows faster than its mate; '' where too little is known of either."""
    if own.low is None or own.high is None or mate.low is None or mate.high is None:
        return ""
    if own.low > mate.high:
        return say("It grows faster than its mate.")
    if own.high < mate.low:
        return say("Its mate grows faster.")
    return say("Whether it or its mate grows faster cannot be told.")
