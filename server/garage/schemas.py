"""Shapes of vehicles in the API; lengths carry their unit in the name, as in the case format."""

from typing import Literal
from uuid import UUID, uuid4

from hematite.doors import most_of
from ninja import Field
from workshop.limits import limited
from workshop.shape import Schema


class BearingIn(Schema):
    """One row; partial geometry is allowed and simply gives no fault orders."""

    row: str = Field("row", max_length=20)
    elements: int | None = limited("elements")
    element_diameter_mm: float | None = limited("element_diameter_mm")
    pitch_diameter_mm: float | None = limited("pitch_diameter_mm")
    contact_angle_deg: float | None = Field(None, ge=0, lt=90)
    designation: str = Field("", max_length=40)


class SealIn(Schema):
    """A seal by its three sizes."""

    shaft_mm: float | None = Field(None, gt=0, le=500)
    housing_mm: float | None = Field(None, gt=0, le=500)
    width_mm: float | None = Field(None, gt=0, le=100)


class FasteningIn(Schema):
    """What is known of one nut or set of bolts. `one_time` null while nobody knows; `source` a key of the reference."""

    least_nm: float | None = limited("torque_nm")
    most_nm: float | None = limited("torque_nm")
    source: str = Field("", max_length=12)
    page: str = Field("", max_length=60)
    on: str = Field("", max_length=10)
    thread: str = Field("", max_length=16)
    grade: str = Field("", max_length=8)
    socket_mm: float | None = Field(None, ge=5, le=120)
    one_time: bool | None = None
    slots: int | None = Field(None, ge=1, le=60)
    holes: int | None = Field(None, ge=1, le=60)
    count: int | None = Field(None, ge=1, le=60)


class HubIn(Schema):
    """One wheel position; what it is called follows from its axle and side."""

    side: Literal["left", "right", "centre"]
    design: str
    rotating_ring: Literal["inner", "outer", ""] = ""
    play_min_mm: float | None = limited("play_mm")
    play_max_mm: float | None = limited("play_mm")
    play_source: str = Field("", max_length=120)
    seal: SealIn = SealIn()
    fittings: dict[str, str] | None = None  # null: as they were
    fastenings: dict[str, FasteningIn] | None = None
    bearings: list[BearingIn] = Field([], max_length=4)


class AxleIn(Schema):
    """One axle, with one to four wheels from left to right."""

    driven: bool = False
    steered: bool = False
    hubs: list[HubIn] = Field(min_length=1, max_length=most_of("hubs_per_axle"))


class VehicleIn(Schema):
    """A vehicle, axles from front to back; numbered where it is entered, so that sent twice it is one."""

    id: UUID = Field(default_factory=uuid4)
    label: str = Field(min_length=1, max_length=80)
    plate: str = Field("", max_length=20)
    tyre: str = Field("", max_length=40)
    rolling_circumference_m: float | None = limited("circumference_m")
    age_years: float | None = limited("age_years")
    distance_km: float | None = limited("distance_km")
    duty: list[str] = Field([], max_length=most_of("duties"))
    axles: list[AxleIn] = Field(min_length=1, max_length=most_of("axles"))


class VehicleChange(VehicleIn):
    """A corrected vehicle: `revision` is that of the vehicle as it was seen when it was corrected.

    `set_aside`: entries that were logged of another design may be set aside.
    """

    change: UUID = Field(default_factory=uuid4)
    revision: int
    after: UUID | None = None  # the person's own change, still on its way, that this one was made on top of
    set_aside: bool = False


class OrdersOut(Schema):
    """Fault orders of a row, events per wheel turn."""

    row: str
    bpfo: float
    bpfi: float
    bsf: float
    ftf: float


class EstimateOut(Schema):
    """Fault orders of a size whose elements nobody counted: the likeliest, and between which they lie."""

    row: str
    designation: str
    elements: int
    bpfo: float
    bpfo_least: float
    bpfo_most: float
    bpfi: float
    bpfi_least: float
    bpfi_most: float


class AnswerOut(Schema):
    """An answer to a question about a hub."""

    key: str
    words: str


class QuestionOut(Schema):
    """What can be asked about a hub's fittings, with what is taken: as it was said, else as usual."""

    key: str
    label: str
    taken: str
    options: list[AnswerOut]


class HubOut(HubIn):
    """A hub with what follows from it; `parts`: those that are looked at when it is opened, as they come off;
    `torques`: whose torques a job at it may ask for; `choices`: what can be carried out at it.
    """

    parts: list[str]
    questions: list[QuestionOut]
    torques: list[str]
    choices: list[str]

    id: str
    words: str
    mate: str
    window_min_mm: float
    window_max_mm: float
    window_source: str
    orders: list[OrdersOut]
    estimates: list[EstimateOut]


class SizeOut(Schema):
    """A bearing of the catalogue."""

    designation: str
    kind: str
    kind_label: str
    bore_mm: float
    outside_mm: float
    width_mm: float
    cone: str
    cup: str
    source: str


class NearMissOut(Schema):
    """A size that is not it, and why."""

    size: SizeOut
    why: str


class FoundOut(Schema):
    """What a caliper's figures fit, the near misses, and what is still to be measured."""

    fits: list[SizeOut]
    near: list[NearMissOut]
    missing: list[str]


class FitIn(Schema):
    """A bearing or a seal chosen for a hub, and for its mate across the axle too when `both_sides`."""

    hub: str = Field(max_length=8)
    row: str = Field("", max_length=20)
    designation: str = Field("", max_length=40)
    seal: SealIn | None = None
    both_sides: bool = True


class BookIn(Schema):
    """What is fitted at a hub and its torque book: what is given replaces what was kept of the same name.

    An empty answer or a `null` clears it. `both_sides`: its mate across the axle too.
    """

    fittings: dict[str, str] = {}
    fastenings: dict[str, FasteningIn | None] = {}
    both_sides: bool = True


class LikeIn(Schema):
    """A like vehicle whose torque book is taken over where nothing is known of one's own."""

    vehicle: UUID


class AxleOut(Schema):
    """An axle with its hubs."""

    driven: bool
    steered: bool
    hubs: list[HubOut]


class VehicleOut(Schema):
    """A vehicle with what follows from it."""

    id: UUID
    revision: int
    label: str
    plate: str
    tyre: str
    rolling_circumference_m: float | None
    age_years: float | None
    distance_km: float | None
    duty: list[str]
    circumference_m: float | None
    axles: list[AxleOut]
