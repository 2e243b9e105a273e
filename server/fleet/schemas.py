"""Shapes of the fleet in the API."""

from datetime import date
from uuid import UUID

from workshop.shape import Schema


class WeekOut(Schema):
    """One week in minutes; `share`: how full it is with what is carried into it, None where there are no hours."""

    begins: date
    looks: float
    jobs: float
    carried: float
    there_are: float
    share: float | None


class WantedOut(Schema):
    """For which case a part is wanted."""

    case: UUID
    vehicle_label: str
    hubs: list[str]


class OrderOut(Schema):
    """One part to order, for all open jobs together."""

    label: str
    size: str
    count: int
    wanted: list[WantedOut]


class ComebackOut(Schema):
    """How many of a group of repairs came back within a year, the share's range, and what that proves.

    `few`: too few to say anything.
    """

    by: str
    name: str
    back: int
    of: int
    low: float
    high: float
    few: bool
    words: str


class CostOut(Schema):
    """What a vehicle cost in a year, by currency; `unknown`: verdicts of which no price is known."""

    vehicle: UUID
    label: str
    cost: dict[str, float]
    cases: int
    unknown: int


class FleetOut(Schema):
    """The work to come and the parts to order; `more`: open cases with a job that are too many to be counted."""

    weeks: list[WeekOut]
    orders: list[OrderOut]
    more: int


class PastOut(Schema):
    """What came back; what the dearest vehicles cost, of how many `vehicles` that cost anything."""

    comebacks: list[ComebackOut]
    costs: list[CostOut]
    vehicles: int
