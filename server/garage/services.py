"""Adding and correcting vehicles."""

from dataclasses import asdict
from uuid import UUID, uuid4

from audit.services import What, changed, trace
from django.db import transaction
from django.db.models import Prefetch, QuerySet
from django.http import Http404
from hematite.assembly import read_fittings
from hematite.bearings import counted, sizes_by_name
from hematite.beliefs.priors import duties
from hematite.bundles import vehicle_from_json
from hematite.doors import one_of
from hematite.fastenings import read_fastenings
from hematite.language import say
from hematite.vehicles import hub_names
from people.models import User
from workshop.refusals import Refusal
from workshop.revisions import overtaken

from garage.core import vehicle_json
from garage.models import Axle, Hub, Vehicle

AXLES = ("axles", Prefetch("axles__hubs", queryset=Hub.objects.order_by("position")))  # what makes a vehicle complete


def vehicles_of(user: User) -> QuerySet[Vehicle]:
    """Return the workshop's vehicles with axles and hubs, in three queries whatever their number."""
    return vehicles_in(user.workshop_id)


def vehicles_in(workshop_id: int) -> QuerySet[Vehicle]:
    """Return a workshop's vehicles with axles and hubs."""
    return Vehicle.objects.filter(workshop_id=workshop_id).prefetch_related(*AXLES)


def get_vehicle(user: User, vehicle_id: UUID) -> Vehicle:
    """Return one vehicle of the workshop or raise Http404."""
    vehicle = vehicles_of(user).filter(id=vehicle_id).first()
    if vehicle is None:
        raise Http404
    return vehicle


def _alone(user: User, vehicle_id: UUID) -> Vehicle:
    """Return one vehicle to be changed; others who change it wait until this transaction ends.

    A practice vehicle stays as it is: what it hides was drawn for it.
    """
    if user.at_bench:
        raise Refusal("practice_vehicle", say("A practice vehicle stays as it was put up."))
    Vehicle.objects.seen_by(user).select_for_update().filter(id=vehicle_id).first()
    return get_vehicle(user, vehicle_id)


@transaction.atomic
def add_vehicle(user: User, data: dict) -> Vehicle:
    """Add a vehicle; the core refuses what cannot be. The same number sent again is the same vehicle."""
    number = data.get("id") or uuid4()
    known = Vehicle.objects.filter(id=number).first()
    if known is not None and known.workshop_id != user.workshop_id:
        raise Refusal("id_taken", say("This vehicle's number is taken by another. Save it again."))
    if known:
        return get_vehicle(user, number)
    added = _stored(Vehicle(id=number, workshop_id=user.workshop_id), _named(data))
    trace(user, What.VEHICLE_ADDED, added)
    return added


@transaction.atomic
def correct_vehicle(user: User, vehicle_id: UUID, data: dict) -> Vehicle:
    """Put a corrected vehicle in the place of the old, unless somebody else did meanwhile.

    A hub is refused that would vanish while cases speak of it. One that was logged of as another design is asked about
    first (`set_aside`): what the new design has no place for counts no more.
    """
    vehicle = _alone(user, vehicle_id)
    if data["change"] == vehicle.change:
        return vehicle
    if overtaken(vehicle, data):
        words = say("Somebody changed this vehicle meanwhile. Look at it as it is now, then correct it again.")
        raise Refusal("changed_meanwhile", words)
    data = _with_books(vehicle, _named(data))
    _refuse_lost_hubs(vehicle, {hub["id"] for axle in data["axles"] for hub in axle["hubs"]})
    if not data["set_aside"]:
        _ask_before_another_design(vehicle, data)
    was = _described(vehicle)
    vehicle.revision, vehicle.change = vehicle.revision + 1, data["change"]
    corrected = _stored(vehicle, data)
    trace(user, What.VEHICLE_CHANGED, corrected, changed(was, _described(corrected)))
    return corrected


def _described(vehicle: Vehicle) -> dict:
    """Return what a vehicle says of itself, and hub by hub."""
    said = vehicle_json(vehicle)
    hubs = {hub["id"]: hub for axle in said.pop("axles") for hub in axle["hubs"]}
    return said | {"plate": vehicle.plate} | hubs


def _named(data: dict) -> dict:
    """Return a vehicle whose hubs are called by axle and side."""
    axles = []
    for n, axle in enumerate(data["axles"], 1):
        names = hub_names(n, [hub["side"] for hub in axle["hubs"]])
        axles.append(axle | {"hubs": [hub | {"id": name} for hub, name in zip(axle["hubs"], names, strict=True)]})
    return data | {"axles": axles}


def _stored(vehicle: Vehicle, data: dict) -> Vehicle:
    core = vehicle_from_json(data)
    _ = core.circumference  # reads the tyre code, and refuses nonsense here rather than at the first recording
    for hub in core.hubs():
        low, high = hub.play_window_mm
        if low > high:
            raise Refusal(
                "window", say("{id}: the least play is more than the most. Swap them.", id=hub.id), status=422
            )
    vehicle.label, vehicle.plate, vehicle.tyre = data["label"], data.get("plate") or "", data.get("tyre") or ""
    vehicle.rolling_circumference_m = data.get("rolling_circumference_m")
    vehicle.age_years, vehicle.distance_km = data.get("age_years"), data.get("distance_km")
    vehicle.duty = [one_of(word, duties(), say("kind of duty")) for word in data.get("duty") or []]
    vehicle.save()
    vehicle.axles.all().delete()
    _add_axles(vehicle, data["axles"])
    return vehicles_in(vehicle.workshop_id).get(id=vehicle.id)


def _with_books(vehicle: Vehicle, data: dict) -> dict:
    """Return a correction with what is fitted and the torques as they were, where it says nothing of them."""
    was = {hub.name: hub for axle in vehicle.axles.all() for hub in axle.hubs.all()}
    for axle in data["axles"]:
        for hub in axle["hubs"]:
            for name in ("fittings", "fastenings"):
                if hub.get(name) is None and hub["id"] in was:
                    hub[name] = getattr(was[hub["id"]], name)
    return data


def _refuse_lost_hubs(vehicle: Vehicle, kept: set[str]) -> None:
    gone = {hub.name for axle in vehicle.axles.all() for hub in axle.hubs.all()} - kept
    if gone and vehicle.cases.exists():
        names = ", ".join(sorted(gone))
        raise Refusal(
            "hub_in_use", say("{names} cannot go: cases of this vehicle speak of it. Add a new vehicle.", names=names)
        )


def _ask_before_another_design(vehicle: Vehicle, data: dict) -> None:
    was = {hub.name: hub.design for axle in vehicle.axles.all() for hub in axle.hubs.all()}
    other = {hub["id"] for axle in data["axles"] for hub in axle["hubs"] if hub["design"] != was.get(hub["id"])}
    spoken_of = set(vehicle.cases.filter(observations__hub__in=other).values_list("observations__hub", flat=True))
    if spoken_of & other:
        names = ", ".join(sorted(spoken_of & other))
        words = say("were logged of another kind of hub. What the new one has no place for counts no more.")
        raise Refusal("another_design", say("Entries of {names} {words}", names=names, words=words))


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
            fittings=hub.get("fittings") or {},
            fastenings=_written(hub.get("fastenings")),
            bearings=hub.get("bearings") or [],
        )
        for row, axle in zip(rows, axles, strict=True)
        for n, hub in enumerate(axle["hubs"], 1)
    )


@transaction.atomic
def fit_bearing(user: User, vehicle_id: UUID, data: dict) -> Vehicle:
    """Keep the bearing or the seal that was found for a hub; by default for its mate across the axle too.

    What was counted in a row stays when the row is named for the first time; another bearing takes it away, and
    brings its own geometry where somebody counted it.
    """
    vehicle = _alone(user, vehicle_id)
    rows = {hub.name: hub for axle in vehicle.axles.all() for hub in axle.hubs.all()}
    one_of(data["hub"], rows, say("hub of this vehicle"))
    if data["designation"]:
        one_of(data["designation"], sizes_by_name(), say("bearing of the catalogue"))
    mate = vehicle_from_json(vehicle_json(vehicle)).mate(data["hub"]) if data["both_sides"] else None
    for name in (data["hub"], *([mate.id] if mate else [])):
        _fit(rows[name], data)
    return _changed(user, vehicle, say("bearing or seal fitted"), data["hub"])


@transaction.atomic
def write_book(user: User, vehicle_id: UUID, hub_name: str, data: dict) -> Vehicle:
    """Keep what is fitted at a hub and its torques; by default for its mate across the axle too."""
    vehicle = _alone(user, vehicle_id)
    rows = {hub.name: hub for axle in vehicle.axles.all() for hub in axle.hubs.all()}
    one_of(hub_name, rows, say("hub of this vehicle"))
    mate = vehicle_from_json(vehicle_json(vehicle)).mate(hub_name) if data["both_sides"] else None
    for name in (hub_name, *([mate.id] if mate else [])):
        _write(rows[name], data["fittings"], data["fastenings"])
    return _changed(user, vehicle, say("torque book"), hub_name)


@transaction.atomic
def copy_book(user: User, vehicle_id: UUID, like_id: UUID) -> Vehicle:
    """Take over a like vehicle's fittings and torques, hub by hub of the same design, where nothing is known yet."""
    like, vehicle = get_vehicle(user, like_id), _alone(user, vehicle_id)
    theirs = {hub.name: hub for axle in like.axles.all() for hub in axle.hubs.all()}
    for axle in vehicle.axles.all():
        for hub in axle.hubs.all():
            other = theirs.get(hub.name)
            if other is not None and other.design == hub.design:
                _write(hub, other.fittings | hub.fittings, other.fastenings | hub.fastenings)
    return _changed(user, vehicle, say("torque book of {label}", label=like.label))


def _write(hub: Hub, said: dict, fastenings: dict) -> None:
    known = hub.fittings | said
    hub.fittings = read_fittings(known)
    book = hub.fastenings | fastenings
    hub.fastenings = _written({key: row for key, row in book.items() if row})
    hub.save(update_fields=["fittings", "fastenings"])


def _written(book: dict | None) -> dict:
    """Return a torque book as it is kept: checked by the core, without what says nothing."""
    read = read_fastenings(book or {})
    rows = {key: {name: v for name, v in asdict(row).items() if v not in (None, "")} for key, row in read.items()}
    return {key: kept for key, row in rows.items() if (kept := {n: v for n, v in row.items() if n != "key"})}


def _changed(user: User, vehicle: Vehicle, *words: str) -> Vehicle:
    trace(user, What.VEHICLE_CHANGED, vehicle, words)
    Vehicle.objects.filter(id=vehicle.id).update(revision=vehicle.revision + 1, change=uuid4())
    return get_vehicle(user, vehicle.id)


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
