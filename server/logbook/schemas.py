"""Shapes of the logbook in the API."""

from datetime import date, datetime
from uuid import UUID

from ninja import Field
from workshop.limits import limited
from workshop.shape import Schema


class LogRowOut(Schema):
    """One line of the logbook."""

    at: datetime
    kind: str
    kind_label: str
    hub: str
    words: str
    person: str
    case: UUID | None
    struck: bool
    written: UUID | None


class LogKindOut(Schema):
    """A kind of line."""

    key: str
    label: str


class BroughtKindOut(Schema):
    """How many lines of a kind are new."""

    label: str
    count: int


class LineIn(Schema):
    """A line written by hand; a figure in mm, N·m or km. `withdrawn`: it only takes back what it supersedes."""

    id: UUID
    hub: str = Field("", max_length=8)
    on: date
    kind: str = Field(max_length=8)
    part: str = Field("", max_length=80)
    number: str = Field("", max_length=40)
    batch: str = Field("", max_length=40)
    grease: str = Field("", max_length=60)
    torque_nm: float | None = limited("torque_nm")
    play_mm: float | None = limited("play_mm")
    km: float | None = limited("odometer_km")
    words: str = Field("", max_length=400)
    by: str = Field("", max_length=80)
    supersedes: UUID | None = None
    withdrawn: bool = False


class BookColumnOut(Schema):
    """A column of a table: what it was taken for, '' where it is left out."""

    heading: str
    taken_for: str


class BroughtOut(Schema):
    """What bringing a table along does, or did. `open_dates`: day first or month first, nobody knows."""

    columns: list[BookColumnOut]
    open_dates: bool
    first_on: date | None
    last_on: date | None
    new: list[BroughtKindOut]
    here: int
    amiss: list[str]


class LogbookOut(Schema):
    """A page of a vehicle's logbook, the latest first."""

    vehicle_label: str
    hubs: list[str]
    kinds: list[LogKindOut]
    writes: list[LogKindOut]
    rows: list[LogRowOut]
    count: int
    pages: int


class PointOut(Schema):
    """One figure of a series."""

    at: datetime
    value: float
    case: UUID | None


class TrendOut(Schema):
    """Growth a year since the last repair with its range (80 %), and the dates between which a limit is reached."""

    visits: int
    since: datetime
    slope: float | None
    low: float | None
    high: float | None
    grows: str
    outside: bool
    soonest_on: date | None
    expected_on: date | None
    latest_on: date | None
    words: str


class SeriesOut(Schema):
    """What was measured of one quantity at one hub. `limit`: from where on something is to be done."""

    hub: str
    key: str
    label: str
    unit: str
    source: str
    limit: float | None
    grows: int
    points: list[PointOut]
    breaks: list[datetime]
    trend: TrendOut | None
    mate: str
    beside_mate: str


class GrowthOut(Schema):
    """Every series of a vehicle."""

    vehicle_label: str
    series: list[SeriesOut]
