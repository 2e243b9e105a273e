"""Shapes of upkeep in the API."""

from datetime import date, datetime
from typing import Any
from uuid import UUID, uuid4

from ninja import Field
from workshop.limits import limited
from workshop.shape import Schema


class OdometerIn(Schema):
    """What stood on the odometer or the hour meter on a day; `supersedes` corrects an earlier one."""

    id: UUID
    on: date
    km: float | None = limited("odometer_km")
    hours: float | None = limited("hours_of_work")
    supersedes: UUID | None = None
    withdrawn: bool = False


class OdometerOut(Schema):
    """A reading that counts."""

    id: UUID
    on: date
    km: float | None
    hours: float | None
    person: str


class RateOut(Schema):
    """How much is gathered a day, with its range where enough was read."""

    per_day: float
    low: float | None
    high: float | None
    stretches: int
    words: str


class PlanIn(Schema):
    """A recheck to be planned: by date, by distance from now, by hours of work from now."""

    id: UUID = Field(default_factory=uuid4)
    hub: str = Field("", max_length=8)
    key: str = Field("own", max_length=24)
    label: str = Field(min_length=1, max_length=120)
    asks: str = Field("look", max_length=16)
    why: str = Field("", max_length=400)
    due_on: date | None = None
    after_km: int | None = Field(None, ge=1, le=200_000)
    after_hours: int | None = Field(None, ge=1, le=20_000)


class PlannedOut(Schema):
    """A recheck, how it stands and how it was answered. The dates between come from how much it is driven."""

    id: UUID
    vehicle: UUID
    vehicle_label: str
    case: UUID | None
    hub: str
    key: str
    label: str
    asks: str
    why: str
    due_on: date | None
    after_km: int | None
    due_km: float | None
    after_hours: int | None
    due_hours: float | None
    expected_on: date | None
    soonest_on: date | None
    latest_on: date | None
    state: str
    state_label: str
    planned_by: str
    done_at: datetime | None
    done_by: str
    outside: bool | None
    said: str
    opened: UUID | None


class DueListOut(Schema):
    """A page of what is to be looked at again."""

    rows: list[PlannedOut]
    count: int
    pages: int


class AskOut(Schema):
    """How a recheck is answered."""

    key: str
    good: str
    bad: str
    reading: str


class UpkeepOut(Schema):
    """A vehicle's odometer and what is to be looked at again."""

    readings: list[OdometerOut]
    km_a_day: RateOut | None
    hours_a_day: RateOut | None
    rechecks: list[PlannedOut]
    asks: list[AskOut]


class RecheckAnswerIn(Schema):
    """What was found: good or bad, or a reading; what lies outside opens a case of this number."""

    case: UUID
    answer: str = Field("", max_length=8)
    reading: dict[str, Any] = {}
    note: str = Field("", max_length=200)
    km: float | None = limited("odometer_km")
    reading_id: UUID = Field(default_factory=uuid4)


class DropIn(Schema):
    """Why a recheck is not done."""

    because: str = Field(min_length=1, max_length=200)


class EventIn(Schema):
    """What the vehicle went through just now."""

    id: UUID
    duty: str = Field(max_length=24)


class FeedOut(Schema):
    """The address that a calendar is given."""

    address: str
    made_at: datetime
    person: str


class FeelIn(Schema):
    """What a hand felt at a hub at a stop; `waited_s`: how long it waited on the device."""

    id: UUID
    trip: UUID
    stop: int = Field(1, ge=1, le=500)
    place: str = Field("", max_length=80)
    hub: str = Field(max_length=8)
    felt: str = Field(max_length=8)
    waited_s: float = Field(0.0, ge=0, le=60 * 60 * 24 * 366)


class FeelOut(Schema):
    """What was felt."""

    id: UUID
    trip: UUID
    stop: int
    place: str
    hub: str
    felt: str
    felt_at: datetime
    person: str


class KitItemOut(Schema):
    """One thing that goes along."""

    key: str
    label: str
    size: str
    hubs: list[str]
    why: str


class CardLineOut(Schema):
    """One torque of a card; null where nobody wrote it down."""

    label: str
    figure: str
    torque_nm: float | None
    source: str


class CardOut(Schema):
    """How hubs of one build are set."""

    hubs: list[str]
    design: str
    moves: list[str]
    play_mm: list[float]
    play_source: str
    torques: list[CardLineOut]


class KitOut(Schema):
    """What goes along for a vehicle's hubs."""

    parts: list[KitItemOut]
    tools: list[KitItemOut]
    uses: list[KitItemOut]
    unknown: list[str]
    not_on_the_road: list[list[str]]
    cards: list[CardOut]


class MeansOut(Schema):
    """What a feeling means beside what was felt at the mate."""

    here: str
    mate: str
    level: str
    do: str
    why: str


class RoadHubOut(Schema):
    """A hub to be felt, with its mate and what each feeling means."""

    id: str
    words: str
    mate: str
    means: list[MeansOut]


class FeelingOut(Schema):
    """A word for what a hand feels."""

    key: str
    words: str


class OnTheRoadOut(Schema):
    """All that a phone needs away from the workshop."""

    vehicle_label: str
    kit: KitOut
    stops_km: list[float]
    feelings: list[FeelingOut]
    hubs: list[RoadHubOut]
    felt: list[FeelOut]
