"""Shapes of cases and observations in the API."""

from datetime import datetime
from uuid import UUID, uuid4

from garage.schemas import VehicleOut
from ninja import Field
from workshop.shape import Schema


class CaseIn(Schema):
    """A new case, numbered where it was opened: asked for twice it is one case."""

    id: UUID = Field(default_factory=uuid4)
    vehicle: UUID
    complaint: str = Field("", max_length=400)


class ObservationIn(Schema):
    """What was found; `value` has the fields of the case format for its kind."""

    id: UUID
    hub: str = Field("", max_length=8)
    kind: str = Field(max_length=24)
    value: dict = {}
    supersedes: UUID | None = None
    withdrawn: bool = False
    job: UUID | None = None
    # How long it waited on the device: whatever its clock says, this much is before it came in.
    waited_s: float = Field(0.0, ge=0, le=60 * 60 * 24 * 366)


class ObservationOut(Schema):
    """An entry of the log."""

    id: UUID
    hub: str
    kind: str
    value: dict
    test: str
    words: str
    mean_mm: float | None
    spread_mm: float | None
    person: str
    at: datetime
    found_at: datetime
    superseded: bool
    withdrawn: bool
    unfit: str
    job: UUID | None = None


class CaseBrief(Schema):
    """A case on a list."""

    id: UUID
    vehicle: UUID
    vehicle_label: str
    complaint: str
    opened_at: datetime
    closed_at: datetime | None
    outcome: str
    decided: str
    waits: str = ""  # what an open one waits for, by the key of a column
    ordered: str = ""  # which parts, where it waits for them
    person: str


class VehicleBrief(Schema):
    """A vehicle on a list, with the shape of its axles: hub names per axle."""

    id: UUID
    label: str
    plate: str
    tyre: str
    axles: list[list[str]]


class ColumnOut(Schema):
    """What cases wait for."""

    key: str
    label: str


class YardOut(Schema):
    """The yard: the day's board, a page of vehicles and one of closed cases."""

    columns: list[ColumnOut]
    closed_pages: int
    vehicles: list[VehicleBrief]
    vehicle_count: int
    pages: int
    open_cases: list[CaseBrief]
    open_count: int
    closed_cases: list[CaseBrief]


class StateOut(Schema):
    """How a case stands, as a word that changes with every change of it."""

    state: str


class WorkSaidOut(Schema):
    """What was entered at a step of the job, in words."""

    id: UUID
    hub: str
    words: str
    person: str
    at: datetime
    undone: bool


class CameFromOut(Schema):
    """The bundle that a case was taken in from."""

    workshop: str
    made_at: str
    taken_at: str
    by: str


class CaseOut(CaseBrief):
    """A case with its vehicle and its whole log; once closed, with what was proven."""

    state: str
    closing: str
    unproven_because: str
    vehicle_detail: VehicleOut
    observations: list[ObservationOut]
    work: list[WorkSaidOut]
    came_from: CameFromOut | None
    simulated: bool
    practice: bool
    withheld: str
