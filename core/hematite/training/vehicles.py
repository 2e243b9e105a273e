"""The made-up vehicles that are learnt on."""

from typing import Any

from hematite.bundles import vehicle_from_json
from hematite.doors import one_of
from hematite.language import say
from hematite.tables import table
from hematite.vehicles import Vehicle

SIDES = ("left", "right")


def described(key: str) -> dict[str, Any]:
    """Return a vehicle as the case format describes it. Raises `UnknownName`."""
    rows = table("training/vehicles.toml")
    row = rows["vehicle"][one_of(key, rows["vehicle"], say("vehicle to learn on"))]
    axles = [
        {
            "driven": own.get("driven", False),
            "steered": own.get("steered", False),
            "hubs": [
                {
                    "id": f"A{n}{side[0].upper()}",
                    "side": side,
                    "design": own["design"],
                    "bearings": [{"row": name} | size for name, size in rows["rows"][own["rows"]].items()],
                    "fastenings": rows["nut"].get(own["design"], {}),
                }
                for side in SIDES
            ],
        }
        for n, own in enumerate(row["axles"], 1)
    ]
    return {"label": row["label"], "tyre": row["tyre_code"], "axles": axles}


def vehicle_of(key: str) -> Vehicle:
    """Return a vehicle to learn on as the core knows it. Raises `UnknownName`."""
    return vehicle_from_json(described(key))
