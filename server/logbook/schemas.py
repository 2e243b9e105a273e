"""Shapes of the logbook in the API."""

from datetime import date, datetime
from uuid import UUID

from ninja import Schema


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


class LogKindOut(Schema):
    """A kind of line."""

    key: str
    label: str


class LogbookOut(Schema):
    """A page of a vehicle's logbook, the latest first."""

    vehicle_label: str
    hubs: list[str]
    kinds: list[LogKindOut]
    rows: list[LogRowOut]
    count: int
    pages: int


class PointOut(Schema):
    """One figure of a series."""

    at: datetime
    value: float
    case: UUID


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
