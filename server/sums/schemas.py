"""Shapes of sums in the API."""

from datetime import datetime
from typing import Any
from uuid import UUID

from jobs.schemas import TorqueOut
from ninja import Field
from workshop.shape import Schema


class SumIn(Schema):
    """What a sum is asked with, by its fields; `case` and `hub`: where, so that what is known there counts."""

    values: dict[str, Any] = {}
    case: UUID | None = None
    hub: str = Field("", max_length=8)


class WorkingOut(Schema):
    """One part of the working."""

    label: str
    words: str


class SumAnswerOut(Schema):
    """An answer: one line, its level, its working, what to do, what is wanted, and the figures of its drawing."""

    line: str
    level: str
    working: list[WorkingOut]
    says: list[str]
    missing: list[str]
    picture: dict[str, Any]


class WorkedOut(Schema):
    """What was worked out and kept."""

    id: UUID
    case: UUID
    hub: str
    step: str
    sum: str
    label: str
    values: dict[str, Any]
    line: str
    level: str
    person: str
    at: datetime


class HubSumOut(Schema):
    """A sum at a hub: what is filled before anybody types, and what was worked out there last."""

    key: str
    values: dict[str, Any]
    last: WorkedOut | None


class MoveOut(Schema):
    """One move of setting a nut."""

    id: str
    do: str
    shows: str
    asks: str
    drags: bool
    torque: TorqueOut | None


class WornOut(Schema):
    """What is entered of a hub that drags before its slack is gone."""

    kind: str
    answer: str


class HubSumsOut(Schema):
    """All sums at a hub, those of the step first, and the moves of setting its nut; none where no nut is set."""

    at_step: list[str]
    sums: list[HubSumOut]
    moves: list[MoveOut]
    worn: WornOut
    worked: list[WorkedOut]


class KeepIn(Schema):
    """A sum to be kept."""

    id: UUID
    hub: str = Field(max_length=8)
    step: str = Field("", max_length=60)
    sum: str = Field(max_length=16)
    values: dict[str, Any]


class TurnIn(Schema):
    """A nut turned at a simulated hub."""

    hub: str = Field(max_length=8)
    thread: str = Field(max_length=24)
    angle_deg: float = Field(ge=0, le=720)
    preload_nm: float = Field(0, ge=0, le=1000)
    locked: bool = False


class TurnOut(Schema):
    """What the simulated gauge finds then, stroke by stroke, and the hand; how far back the lock's first place lies."""

    strokes_mm: list[float]
    next_deg: float | None
    drags: bool


class LeverIn(Schema):
    """Movement seen at the tyre."""

    tyre_movement_mm: float = Field(ge=0, le=200)
    tyre_radius_mm: float = Field(gt=0, le=1000)
    hub_radius_mm: float = Field(gt=0, le=500)


class LeverOut(Schema):
    """Movement at the hub."""

    hub_movement_mm: float
