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
    """The plan of a verdict, and every job of the case: the latest verdict at each hub."""

    verdict: VerdictOut | None
    jobs: list[VerdictOut]
    steps: list[StepOut]
    usual_recheck: RecheckOut | None
    recheck: RecheckOut | None


class TickIn(Schema):
    """A step done, or not after all."""

    id: UUID
    verdict: UUID
    step: str = Field(max_length=40)
    done: bool
    note: str = Field("", max_length=200)


class LineChangeOut(Schema):
    """A fault family before and after, by strength; null where it was not found. `convicting`: what was blamed."""

    kind: str
    before: float | None
    after: float | None
    convicting: bool
    went: bool
    stands: bool
    came: bool


class SoundProofOut(Schema):
    """The hub heard after against before."""

    outcome: str
    label: str
    words: str
    level_change_db: float | None
    lines: list[LineChangeOut]


class CheckOut(Schema):
    """A check after the job, beside what was found before."""

    key: str
    label: str
    ask: str
    words: dict[str, str]
    before: list[str]
    answer: str
    note: str
    later: bool


class ClosingOut(Schema):
    """What closing says: proven, against it, left open."""

    proven: list[str]
    against: list[str]
    open: list[str]
    complete: bool
    words: str


class ProofOut(Schema):
    """What proves a job; not ready before anything is decided."""

    ready: bool
    verdict: VerdictOut | None = None
    stands_from: float = 0.0
    sound: SoundProofOut | None = None
    before: UUID | None = None
    after: UUID | None = None
    checks: list[CheckOut] = []
    closing: ClosingOut | None = None
    untouched: bool = False


class FinishIn(Schema):
    """The end of a case."""

    outcome: str = Field(min_length=1, max_length=400)
    due_on: date | None = None
    after_km: int | None = Field(None, ge=1, le=200_000)
    why: str = Field("", max_length=200)
    unproven_because: str = Field("", max_length=400)


class FinishOut(Schema):
    """A closed case with its recheck."""

    case: CaseOut
    recheck: RecheckOut


class NutIn(Schema):
    """A nut backed off."""

    pitch_mm: float = Field(gt=0, le=10)
    angle_deg: float = Field(ge=0)
    preload_nm: float = Field(0, ge=0, le=1000)
    nut_diameter_mm: float | None = Field(None, gt=0, le=200)


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
    tolerance_mm: float | None = Field(None, gt=0, le=1)


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
