"""Vehicles, asked for."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from garage import services
from garage.core import described
from garage.schemas import VehicleIn, VehicleOut

router = Router(tags=["garage"])


@router.post("/vehicles", response={201: VehicleOut})
def add_vehicle(request: HttpRequest, payload: VehicleIn):
    """Add a vehicle with its hubs."""
    return 201, described(services.save_vehicle(request.user, payload.dict()))


@router.get("/vehicles/{uuid:vehicle_id}", response=VehicleOut)
def get_vehicle(request: HttpRequest, vehicle_id: UUID):
    """Return one vehicle with its hubs and their fault orders."""
    return described(services.get_vehicle(request.user, vehicle_id))


@router.put("/vehicles/{uuid:vehicle_id}", response=VehicleOut)
def correct_vehicle(request: HttpRequest, vehicle_id: UUID, payload: VehicleIn):
    """Put a corrected vehicle in the place of the old."""
    vehicle = services.get_vehicle(request.user, vehicle_id)
    return described(services.save_vehicle(request.user, payload.dict(), vehicle))
