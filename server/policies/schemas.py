"""Shapes of a policy in the API."""

from datetime import datetime
from uuid import UUID, uuid4

from ninja import Field
from workshop.shape import Schema


class LimitIn(Schema):
    """A window of end play for a hub design, and where it came from."""

    least_mm: float = Field(0.0, ge=0, le=5)
    most_mm: float = Field(ge=0, le=5)
    source: str = Field(max_length=120)


class PricesIn(Schema):
    """The workshop's own figures, by key; what is left out stays an example."""

    currency: str = Field("€", max_length=6)
    figures: dict[str, float] = {}


class WrenchIn(Schema):
    """A torque wrench of the workshop with its own range."""

    label: str = Field("", max_length=40)
    least_nm: float = Field(gt=0, le=2000)
    most_nm: float = Field(gt=0, le=2000)


class ShimIn(Schema):
    """A thickness of shims in stock, and how many there are; null where nobody counted."""

    mm: float = Field(gt=0, le=20)
    count: int | None = Field(None, ge=0, le=10_000)


class ShopIn(Schema):
    """What the workshop has: pairs of hands on a job, its press in t (0: none), when it is open; null as is usual."""

    hands: int | None = Field(None, ge=1, le=6)
    press_t: float | None = Field(None, ge=0, le=500)
    opens_h: float | None = Field(None, ge=0, le=24)
    closes_h: float | None = Field(None, ge=0, le=24)
    wrenches: list[WrenchIn] = Field([], max_length=20)
    shims: list[ShimIn] = Field([], max_length=40)


class ShopOut(Schema):
    """What the workshop has, with what is usual where it said nothing; of the press null: nobody said."""

    hands: int
    press_t: float | None
    opens_h: float
    closes_h: float
    wrenches: list[WrenchIn]
    shims: list[ShimIn]


class PolicyIn(Schema):
    """A whole policy; `revision` is that of the policy as it was seen when it was changed, 0 before any."""

    change: UUID = Field(default_factory=uuid4)
    revision: int
    after: UUID | None = None  # the person's own change, still on its way, that this one was made on top of
    schools: dict[str, str] = {}
    limits: dict[str, LimitIn] = {}
    prices: PricesIn = PricesIn()
    shop: ShopIn = ShopIn()


class SchoolOptionOut(Schema):
    """One way of doing it, with what it gains and costs."""

    key: str
    label: str
    gains: str
    costs: str


class SchoolOut(Schema):
    """One difference of practice with what the workshop chose."""

    key: str
    label: str
    chosen: str
    options: list[SchoolOptionOut]


class LimitOut(Schema):
    """The window of a hub design as it stands; `own` once the workshop entered it."""

    design: str
    label: str
    least_mm: float
    most_mm: float
    source: str
    own: bool


class FigureOut(Schema):
    """A figure of the price list; an example until the workshop enters its own."""

    key: str
    label: str
    unit: str
    value: float
    example: bool


class PolicyOut(Schema):
    """The whole policy, with the tables it is chosen from."""

    schools: list[SchoolOut]
    limits: list[LimitOut]
    currency: str
    figures: list[FigureOut]
    shop: ShopOut
    changed_by: str | None
    changed_at: datetime | None
    revision: int
