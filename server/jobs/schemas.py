"""Shapes of jobs and proofs in the API."""

from datetime import date, datetime
from typing import Literal
from uuid import UUID, uuid4

from cases.schemas import CaseOut
from garage.schemas import QuestionOut
from ninja import Field
from upkeep.schemas import PlanIn, PlannedOut
from verdicts.schemas import VerdictOut
from workshop.limits import limited
from workshop.shape import Schema


class SeenOut(Schema):
    """A torque seen on some vehicle: to check one's own by."""

    nm: list[float]
    of: str


class StopGapOut(Schema):
    """A range for a bolt of a size and grade, where its own torque is not known."""

    least_nm: float
    most_nm: float
    assumes: str
    source: str


class TorqueOut(Schema):
    """Whose torque it is and what is known of it; `aim_nm` is what to set, null while nobody entered it."""

    key: str
    label: str
    least_nm: float | None
    most_nm: float | None
    aim_nm: float | None
    source: str
    socket_mm: float | None
    count: int | None
    star: list[int]
    seen: list[SeenOut]
    stop_gap: StopGapOut | None


class RungOut(Schema):
    """One thing to try when a part will not move, and the step it becomes: its cost, what it ruins, when to stop."""

    key: str
    step: str
    label: str
    do: str
    stop: str
    minutes: float
    wait: float
    cautions: list[str]
    ruins: list[str]
    money: float
    example: bool


class EntryOut(Schema):
    """What somebody entered at a step."""

    id: UUID
    kind: str
    rung: str
    note: str
    quantity: str
    value: float | None
    person: str
    at: datetime


class StepOut(Schema):
    """One step with what was entered at it; `start`, `end` in minutes from the first day's opening, if it is left."""

    id: str
    hub: str
    part: str
    part_label: str
    held_by: str
    act: str
    act_words: str
    do: str
    see: str
    cautions: list[str]
    tools: list[str]
    uses: list[str]
    torque: TorqueOut | None
    minutes: float
    wait: float
    wait_before: float
    wait_for: str
    wait_since: list[str]
    where: str
    where_words: str
    picture: str
    fate: str
    needs: list[str]
    looks: list[str]
    sums: list[str]
    source: str
    ladder: list[RungOut]
    rung: str
    done: bool
    entries: list[EntryOut]
    start: float | None
    end: float | None


class ItemOut(Schema):
    """One line of a list."""

    key: str
    label: str
    size: str
    hubs: list[str]
    why: str


class ListsOut(Schema):
    """Tools to lay out, parts to buy, what is used up; minutes by hand and minutes that nobody stands by."""

    tools: list[ItemOut]
    parts: list[ItemOut]
    uses: list[ItemOut]
    minutes: float
    waiting: float


class DayOut(Schema):
    """The order of the day for what is left; minutes from the opening of the first day."""

    end: float
    proven: bool
    blocked: list[str]
    first: list[str]
    hands: int
    opens_h: float
    closes_h: float
    currency: str


class HubJobOut(Schema):
    """One hub's job, with what nobody said of it."""

    hub: str
    choice: str
    choice_label: str
    repair_label: str
    verdict: VerdictOut
    left: int
    steps: int
    assumed: list[QuestionOut]


class UsualRecheckOut(Schema):
    """A recheck that this job usually asks for; `shortened`: why sooner than usual."""

    key: str
    hub: str
    label: str
    asks: str
    why: str
    shortened: list[str]
    minutes: int
    due_on: date | None
    after_km: int | None
    after_hours: int | None


class JobOut(Schema):
    """The one plan of a case's jobs; `verdict` is the one that was asked for, else the latest."""

    verdict: VerdictOut | None
    jobs: list[HubJobOut] = []
    steps: list[StepOut] = []
    lists: ListsOut | None = None
    day: DayOut | None = None
    usual_rechecks: list[UsualRecheckOut] = []
    rechecks: list[PlannedOut] = []


class EntryIn(Schema):
    """Something entered at a step: done, undone, stuck with a rung, or a note; a figure in SI where there is one."""

    id: UUID
    step: str = Field(max_length=60)
    kind: Literal["done", "undone", "stuck", "note"]
    rung: str = Field("", max_length=24)
    note: str = Field("", max_length=400)
    quantity: str = Field("", max_length=20)
    value: float | None = None


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
    convicting: bool


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


class OwnerCheckOut(Schema):
    """One thing that was checked after a job, beside what was found before it."""

    label: str
    before: list[str]
    after: str
    good: bool


class OwnerJobOut(Schema):
    """One job as its owner is told of it. `before` and `after`: the recordings that are held against each other."""

    hub: str
    where: str
    decided: str
    found: list[str]
    parts: list[str]
    checks: list[OwnerCheckOut]
    untouched: bool
    sound: str
    before: UUID | None
    after: UUID | None
    open: list[str]


class OwnerOut(Schema):
    """A case for its owner."""

    workshop: str
    vehicle_label: str
    plate: str
    complaint: str
    opened_at: datetime
    closed_at: datetime | None
    person: str
    jobs: list[OwnerJobOut]
    outcome: str
    unproven_because: str
    again: list[PlannedOut]
    photos: list[UUID]
    nothing_above: str


class FinishIn(Schema):
    """The end of a case: how it ended, what is looked at again, and what stood on the odometer."""

    outcome: str = Field(min_length=1, max_length=400)
    rechecks: list[PlanIn] = Field([], max_length=60)
    unproven_because: str = Field("", max_length=400)
    odometer_km: float | None = limited("odometer_km")
    reading_id: UUID = Field(default_factory=uuid4)


class FinishOut(Schema):
    """A closed case."""

    case: CaseOut
