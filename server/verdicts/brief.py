"""What long lists ask of a verdict: a few words of its snapshot, which is a hundred times as long."""

from collections.abc import Mapping
from typing import Any

from hematite.errors import BadBundle
from hematite.language import say


def brief_of(snapshot: Mapping[str, Any], *, hub: str, choice: str) -> dict[str, Any]:
    """Return the `ways` it was decided by, the hub's `design` then, and what the choice costs `now` in its `currency`.

    What the snapshot does not say is left out. Raises `BadBundle` for a snapshot of another shape than ours.
    """
    try:
        return _brief(snapshot, hub, choice)
    except (AttributeError, KeyError, TypeError, ValueError):
        raise BadBundle(say("what it rested on cannot be read.")) from None


def _brief(snapshot: Mapping[str, Any], hub: str, choice: str) -> dict[str, Any]:
    hubs = (row for axle in (snapshot.get("vehicle") or {}).get("axles", []) for row in axle["hubs"])
    design = next((row["design"] for row in hubs if row["id"] == hub), None)
    prices = snapshot.get("prices") or {}
    now = next((row["now"] for row in prices.get("rows", []) if row["choice"] == choice), None)
    ways = (snapshot.get("policy") or {}).get("schools") or {}
    found: dict[str, Any] = {"ways": {str(school): str(option) for school, option in ways.items()}}
    if design is not None:
        found["design"] = str(design)
    if now is not None:
        found |= {"now": float(now), "currency": str(prices["currency"])}
    return found
