"""From rows to the core's vehicle."""

from hematite.assembly import asked, assembly, hub_facts, possible_choices, questions
from hematite.bearings import estimate_orders, fault_orders, sizes_by_name
from hematite.bundles import vehicle_from_json
from hematite.policy import Policy
from hematite.vehicles import Hub as CoreHub
from hematite.vehicles import Vehicle as CoreVehicle
from policies.services import policy_of

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
        "play_source": hub.play_source,
        "seal": hub.seal,
        "fittings": hub.fittings,
        "fastenings": hub.fastenings,
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


def core_vehicle(vehicle: Vehicle, policy: Policy | None = None) -> CoreVehicle:
    """Return the core's vehicle; hubs without limits of their own have the workshop's, or those of a known `policy`."""
    return (policy or policy_of(vehicle.workshop_id)).limited(vehicle_from_json(vehicle_json(vehicle)))


def described(vehicle: Vehicle, core: CoreVehicle | None = None) -> dict:
    """Return a vehicle for the screen: each hub with its play window, turning ring and fault orders.

    `core`: the same vehicle as the core knows it, where that was read already.
    """
    core = core or core_vehicle(vehicle)
    shown = vehicle_json(vehicle) | {
        "id": vehicle.id,
        "revision": vehicle.revision,
        "plate": vehicle.plate,
        "circumference_m": core.circumference,
    }
    spoken = core.spoken()
    for axle in shown["axles"]:
        for hub in axle["hubs"]:
            known = core.hub(hub["id"])
            hub["words"] = spoken[hub["id"]]
            mate = core.mate(hub["id"])
            hub["mate"] = mate.id if mate else ""
            hub["rotating_ring"] = known.rotating
            hub["parts"] = _parts(known, core)
            hub["questions"] = _questions(known, core)
            hub["torques"] = _torques(known, core)
            hub["choices"] = possible_choices(known.design_key)
            hub["window_min_mm"], hub["window_max_mm"] = known.play_window_mm
            hub["window_source"] = known.window_source
            hub["estimates"] = _estimates(hub, known.rotating)
            hub["orders"] = [
                {"row": row.name, **vars(fault_orders(row, rotating=known.rotating))} for row in known.rows
            ]
    return shown


def _parts(hub: CoreHub, vehicle: CoreVehicle) -> list[str]:
    """Return the parts that are looked at when a hub is opened, in the order they come off: the same as the plan's."""
    facts = hub_facts(hub, vehicle, {})
    return [key for key, placed in assembly(hub.design_key, facts).items() if placed.part.kind]


def _torques(hub: CoreHub, vehicle: CoreVehicle) -> list[str]:
    """Return whose torques a job at a hub may ask for, in the order in which its parts come off."""
    parts = (placed.part for placed in assembly(hub.design_key, hub_facts(hub, vehicle, {})).values())
    acts = (act for part in parts for act in (*part.off, *part.work, *part.on))
    return list(dict.fromkeys(act.torque for act in acts if act.torque))


def _questions(hub: CoreHub, vehicle: CoreVehicle) -> list[dict]:
    """Return what can be asked about a hub's fittings: what was said, and what is usual where nobody did."""
    facts = hub_facts(hub, vehicle, {})
    plain = {name: facts[name] for name in ("design", "kind", "driven", "steered")}
    return questions(hub, vehicle, asked(plain, hub.fittings))


def _estimates(hub: dict, rotating: str) -> list[dict]:
    """Return estimated orders of rows that are known by their size only."""
    found = []
    for row in hub["bearings"]:
        size = sizes_by_name().get(row.get("designation") or "")
        if size is None or row.get("elements"):
            continue
        estimate = estimate_orders(size, rotating=rotating)
        found.append(
            {
                "row": row.get("row") or "row",
                "designation": size.designation,
                "elements": estimate.row.elements,
                **{
                    f"{name}{end}": getattr(orders, name)
                    for name in ("bpfo", "bpfi")
                    for end, orders in (
                        ("", estimate.likeliest),
                        ("_least", estimate.least),
                        ("_most", estimate.most),
                    )
                },
            }
        )
    return found
