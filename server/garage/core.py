"""From rows to the core's vehicle."""

from hematite.bearings import fault_orders
from hematite.bundles import vehicle_from_json
from hematite.vehicles import Vehicle as CoreVehicle

from garage.models import Hub, Vehicle


def hub_json(hub: Hub) -> dict:
    """Return a hub as the case format has it."""
    return {
        "id": hub.name,
        "side": hub.side,
        "design": hub.design,
        "rotating_ring": hub.rotating_ring,
        "play_min_mm": hub.play_min_mm,
        "play_max_mm": hub.play_max_mm,
        "bearings": hub.bearings,
    }


def vehicle_json(vehicle: Vehicle) -> dict:
    """Return a vehicle, with its prefetched axles and hubs, as the case format has it."""
    return {
        "label": vehicle.label,
        "tyre": vehicle.tyre,
        "rolling_circumference_m": vehicle.rolling_circumference_m,
        "age_years": vehicle.age_years,
        "distance_km": vehicle.distance_km,
        "duty": vehicle.duty,
        "axles": [
            {"driven": axle.driven, "steered": axle.steered, "hubs": [hub_json(hub) for hub in axle.hubs.all()]}
            for axle in vehicle.axles.all()
        ],
    }


def core_vehicle(vehicle: Vehicle) -> CoreVehicle:
    """Return the core's vehicle."""
    return vehicle_from_json(vehicle_json(vehicle))


def described(vehicle: Vehicle) -> dict:
    """Return a vehicle for the screen: each hub with its play window, turning ring and fault orders."""
    core = core_vehicle(vehicle)
    shown = vehicle_json(vehicle) | {"id": vehicle.id, "circumference_m": core.circumference}
    for axle in shown["axles"]:
        for hub in axle["hubs"]:
            known = core.hub(hub["id"])
            hub["rotating_ring"] = known.rotating
            hub["window_min_mm"], hub["window_max_mm"] = known.play_window_mm
            hub["orders"] = [
                {"row": row.name, **vars(fault_orders(row, rotating=known.rotating))} for row in known.rows
            ]
    return shown
