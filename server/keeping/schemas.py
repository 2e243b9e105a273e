"""What is kept, for how long, and who changed what."""

from datetime import datetime

from ninja import Field
from workshop.shape import Schema


class BackupOut(Schema):
    """How the backups go. `where` is '' where none are made."""

    where: str
    sealed: bool
    every_h: float
    begun_at: datetime | None
    done_at: datetime | None
    failed: str


class TraceOut(Schema):
    """One deed."""

    at: datetime
    person: str
    what: str
    about: str
    details: list[str]


class KeepingOut(Schema):
    """What an owner sees."""

    version: str
    backup: BackupOut
    sounds_years: int | None
    sounds: int
    sounds_ended: int
    heard_by_others: int
    hearing_again: bool
    traces: list[TraceOut]
    traces_in_all: int


class KeepingIn(Schema):
    """The rule of years."""

    sounds_years: int | None = Field(None, ge=1, le=99)


class ArrivedOut(Schema):
    """What became of the archive of a workshop."""

    workshop: str
    vehicles: int
    new_vehicles: int
    cases: int
    rows: int
    ways: bool
    left_out: list[str]
