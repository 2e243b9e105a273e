"""Shapes of photographs in the API."""

from datetime import datetime
from uuid import UUID

from ninja import Field
from workshop.shape import Schema


class PhotoIn(Schema):
    """What comes beside the picture."""

    id: UUID
    hub: str = Field(max_length=8)
    part: str = Field(max_length=32)


class PhotoOut(Schema):
    """A kept photograph."""

    id: UUID
    hub: str
    part: str
    width: int
    height: int
    person: str
    at: datetime
    withdrawn: bool


class TakenBackIn(Schema):
    """Whether it is taken back."""

    withdrawn: bool
