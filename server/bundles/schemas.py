"""Shapes of what became of a bundle."""

from datetime import datetime
from uuid import UUID

from workshop.shape import Schema


class TakenCaseOut(Schema):
    """A case of a bundle: `known` where it was here before, and how many entries of it are new."""

    id: UUID
    complaint: str
    opened_at: datetime
    known: bool
    added: int


class TakenVehicleOut(Schema):
    """A vehicle by its name."""

    id: UUID
    label: str
    plate: str


class TakenKindOut(Schema):
    """How many entries of a kind are new, and how many were here."""

    label: str
    new: int
    here: int


class TakenOut(Schema):
    """What taking a bundle in does, or did. `same_plate`: vehicles of the workshop that bear the same plate."""

    vehicle: TakenVehicleOut
    new_vehicle: bool
    same_plate: list[TakenVehicleOut]
    workshop: str
    made_at: str
    cases: list[TakenCaseOut]
    kinds: list[TakenKindOut]
    left_out: list[str]
