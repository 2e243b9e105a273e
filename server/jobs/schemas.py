"""Shapes of jobs, proofs and sums in the API."""

from datetime import date
from uuid import UUID

from cases.schemas import CaseOut
from ninja import Field, Schema
from verdicts.schemas import VerdictOut


class StepOut(Schema):
    """One physical step."""

    id: str
    text: str
    caution: str
    torque_nm: list[float]
    torque_note: str
    sum: str
    source: str
    done: bool
    note: str


class RecheckOut(Schema):
    """When to look again."""

    due_on: date | None
    after_km: int | None
    why: str


class JobOut(Schema):
    """The plan of the latest verdict."""

    verdict: VerdictOut | None
    steps: list[StepOut]
    usual_recheck: RecheckOut | None
    recheck: RecheckOut | None


class TickIn(Schema):
    """A step done, or not after all."""

    id: UUID
    step: str = Field(max_length=40)
    done: bool
    note: str = Field("", max_length=200)


class LineChangeOut(Schema):
    """A fault family before and after, by strength."""

    kind: str
    before: float
    after: float
    went: bool
    stayed: bool


class ProofOut(Schema):
    """Before against after."""

    ready: bool
    stands_from: float
    outcome: str
    words: str
    level_change_db: float | None
    lines: list[LineChangeOut]
    before: UUID | None
    after: UUID | None


class FinishIn(Schema):
    """The end of a case."""

    outcome: str = Field(min_length=1, max_length=400)
    due_on: date | None = None
    after_km: int | None = Field(None, ge=1, le=200_000)
    why: str = Field("", max_length=200)


class FinishOut(Schema):
    """A closed case with its recheck."""

    case: CaseOut
    recheck: RecheckOut


class NutIn(Schema):
    """A nut backed off."""

    pitch_mm: float = Field(gt=0, le=10)
    angle_deg: float = Field(ge=0)
    preload_nm: float = Field(0, ge=0, le=1000)
    nut_diameter_mm: float = Field(24, gt=0, le=200)


class NutOut(Schema):
    """End play to be expected, as a range."""

    least_mm: float
    most_mm: float
    geometric_mm: float


class ShimsIn(Schema):
    """A gap to be shimmed."""

    gap_mm: float = Field(gt=0, le=50)
    end_play_mm: float = Field(ge=0, le=5)
    sides: int = Field(1, ge=1, le=2)
    stock_mm: list[float] = Field(min_length=1, max_length=12)
    tolerance_mm: float = Field(0.02, gt=0, le=1)


class PackOut(Schema):
    """A pack of shims."""

    shims_mm: list[float]
    total_mm: float
    error_mm: float


class ShimsOut(Schema):
    """The pack wanted, and the packs that make it, fewest shims first."""

    total_mm: float
    packs: list[PackOut]


class LeverIn(Schema):
    """Movement seen at the tyre."""

    tyre_movement_mm: float = Field(ge=0, le=200)
    tyre_radius_mm: float = Field(gt=0, le=1000)
    hub_radius_mm: float = Field(gt=0, le=500)


class LeverOut(Schema):
    """Movement at the hub."""

    hub_movement_mm: float
