"""Vehicles, asked for."""

from dataclasses import asdict
from uuid import UUID

from django.http import HttpRequest
from hematite.bearings import KINDS, Size, find_bearing
from hematite.language import say
from ninja import Query, Router

from garage import services
from garage.core import described
from garage.schemas import BookIn, FitIn, FoundOut, LikeIn, VehicleChange, VehicleIn, VehicleOut

router = Router(tags=["garage"])


@router.post("/vehicles", response={201: VehicleOut})
def add_vehicle(request: HttpRequest, payload: VehicleIn):
    """Add a vehicle with its hubs."""
    return 201, described(services.add_vehicle(request.user, payload.dict()))


@router.get("/vehicles/{uuid:vehicle_id}", response=VehicleOut)
def get_vehicle(request: HttpRequest, vehicle_id: UUID):
    """Return one vehicle with its hubs and their fault orders."""
    return described(services.get_vehicle(request.user, vehicle_id))


@router.put("/vehicles/{uuid:vehicle_id}", response=VehicleOut)
def correct_vehicle(request: HttpRequest, vehicle_id: UUID, payload: VehicleChange):
    """Put a corrected vehicle in the place of the old, unless somebody changed it meanwhile."""
    return described(services.correct_vehicle(request.user, vehicle_id, payload.dict()))


@router.post("/vehicles/{uuid:vehicle_id}/bearings", response=VehicleOut)
def fit_bearing(request: HttpRequest, vehicle_id: UUID, payload: FitIn):
    """Keep the bearing or the seal that was found for a hub, and for its mate across the axle."""
    return described(services.fit_bearing(request.user, vehicle_id, payload.dict()))


@router.post("/vehicles/{uuid:vehicle_id}/hubs/{hub}/book", response=VehicleOut)
def write_book(request: HttpRequest, vehicle_id: UUID, hub: str, payload: BookIn):
    """Keep what is fitted at a hub, and its torques, threads and sockets; for its mate across the axle too."""
    return described(services.write_book(request.user, vehicle_id, hub, payload.dict()))


@router.post("/vehicles/{uuid:vehicle_id}/book/copy", response=VehicleOut)
def copy_book(request: HttpRequest, vehicle_id: UUID, payload: LikeIn):
    """Take over a like vehicle's fittings and torques where nothing is known of one's own."""
    return described(services.copy_book(request.user, vehicle_id, payload.vehicle))


@router.get("/bearings", response=FoundOut)
def find(
    request: HttpRequest,
    bore_mm: float | None = Query(None),
    outside_mm: float | None = Query(None),
    width_mm: float | None = Query(None),
):
    """Return the bearings that a caliper's figures fit, the near misses, and why those are not it."""
    found = find_bearing(bore_mm=bore_mm, outside_mm=outside_mm, width_mm=width_mm)
    return {
        "fits": [_size(size) for size in found.fits],
        "near": [{"size": _size(miss.size), "why": miss.why} for miss in found.near],
        "missing": [say(name) for name in found.missing],
    }


def _size(size: Size) -> dict:
    cone, cup = size.pair or ("", "")
    return asdict(size) | {"kind_label": say(KINDS[size.kind]), "cone": cone, "cup": cup}
