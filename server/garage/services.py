"""Adding and correcting vehicles."""

from django.db import transaction
from django.db.models import Prefetch, QuerySet
from django.http import Http404
from hematite.bearings import counted, sizes_by_name
from hematite.beliefs.priors import duties
from hematite.bundles import vehicle_from_json
from hematite.doors import one_of
from people.models import User
from workshop.refusals import Refusal

from garage.core import vehicle_json
from garage.models import Axle, Hub, Vehicle

AXLES = ("axles", Prefetch("axles__hubs", queryset=Hub.objects.order_by("position")))  # what makes a vehicle complete


def vehicles_of(user: User) -> QuerySet[Vehicle]:
    """Return the workshop's vehicles with axles and hubs, in three queries whatever their number."""
    return Vehicle.objects.seen_by(user).prefetch_related(*AXLES)


def get_vehicle(user: User, vehicle_id: str) -> Vehicle:
    """Return one vehicle of the workshop or raise Http404."""
    vehicle = vehicles_of(user).filter(id=vehicle_id).first()
    if vehicle is None:
        raise Http404
    return vehicle


@transaction.atomic
def save_vehicle(user: User, data: dict, vehicle: Vehicle | None = None) -> Vehicle:
    """Add a vehicle, or put a corrected one in its place; the core refuses what cannot be.

    Hubs keep their names: a hub with recordings or observations is refused if it would vanish.
    """
    core = vehicle_from_json(data)
    _ = core.circumference  # reads the tyre code, and refuses nonsense here rather than at the first recording
    for hub in core.hubs():
        low, high = hub.play_window_mm
        if low > high:
            raise Refusal("window", f"{hub.id}: the least play is more than the most. Swap them.", status=422)
    if vehicle is not None:
        _refuse_lost_hubs(vehicle, {hub.id for hub in core.hubs()})
        vehicle.axles.all().delete()
    vehicle = vehicle or Vehicle(workshop_id=user.workshop_id)
    vehicle.label, vehicle.tyre = data["label"], data.get("tyre") or ""
    vehicle.rolling_circumference_m = data.get("rolling_circumference_m")
    vehicle.age_years, vehicle.distance_km = data.get("age_years"), data.get("distance_km")
    vehicle.duty = [one_of(word, duties(), "kind of duty") for word in data.get("duty") or []]
    vehicle.save()
    _add_axles(vehicle, data["axles"])
    return get_vehicle(user, vehicle.id)


def _refuse_lost_hubs(vehicle: Vehicle, kept: set[str]) -> None:
    gone = {hub.name for axle in vehicle.axles.all() for hub in axle.hubs.all()} - kept
    if gone and vehicle.cases.exists():
        names = ", ".join(sorted(gone))
        raise Refusal("hub_in_use", f"{names} cannot go: cases of this vehicle speak of it. Add a new vehicle.")


def _add_axles(vehicle: Vehicle, axles: list[dict]) -> None:
    rows = Axle.objects.bulk_create(
        Axle(vehicle=vehicle, position=n, driven=axle["driven"], steered=axle["steered"])
        for n, axle in enumerate(axles, 1)
    )
    stored = {axle.position: axle for axle in vehicle.axles.model.objects.filter(vehicle=vehicle)}
    Hub.objects.bulk_create(
        Hub(
            axle=stored[row.position],
            position=n,
            name=hub["id"],
            side=hub["side"],
            design=hub["design"],
            rotating_ring=hub.get("rotating_ring") or "",
            play_min_mm=hub.get("play_min_mm"),
            play_max_mm=hub.get("play_max_mm"),
            play_source=hub.get("play_source") or "",
            seal=hub.get("seal") or {},
            bearings=hub.get("bearings") or [],
        )
        for row, axle in zip(rows, axles, strict=True)
        for n, hub in enumerate(axle["hubs"], 1)
    )


@transaction.atomic
def fit_bearing(user: User, vehicle_id: str, data: dict) -> Vehicle:
    """Keep the bearing or the seal that was found for a hub; by default for its mate across the axle too.

    What was counted in a row stays when the row is named for the first time; another bearing takes it away, and
    brings its own geometry where somebody counted it.
    """
    vehicle = get_vehicle(user, vehicle_id)
    rows = {hub.name: hub for axle in vehicle.axles.all() for hub in axle.hubs.all()}
    one_of(data["hub"], rows, "hub of this vehicle")
    if data["designation"]:
        one_of(data["designation"], sizes_by_name(), "bearing of the catalogue")
    mate = vehicle_from_json(vehicle_json(vehicle)).mate(data["hub"]) if data["both_sides"] else None
    for name in (data["hub"], *([mate.id] if mate else [])):
        _fit(rows[name], data)
    return get_vehicle(user, vehicle_id)


def _fit(hub: Hub, data: dict) -> None:
    if data["designation"]:
        place = data["row"] or "row"
        others = [row for row in hub.bearings if (row.get("row") or "row") != place]
        old = next((row for row in hub.bearings if (row.get("row") or "row") == place), {})
        kept = old if old.get("designation") in (None, "", data["designation"]) else {}
        known = counted(data["designation"]) if not kept.get("elements") else {}
        hub.bearings = [*others, kept | known | {"row": place, "designation": data["designation"]}]
    if data["seal"]:
        hub.seal = data["seal"]
    hub.save(update_fields=["bearings", "seal"])
