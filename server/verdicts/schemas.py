"""Shapes of assessments and verdicts in the API."""

from datetime import datetime
from uuid import UUID, uuid4

from cases.schemas import CaseOut, ObservationOut
from hematite.wording import WORTH_A_RULE, hardly_moves, worth_naming
from ninja import Field
from policies.schemas import SchoolOut
from pydantic import computed_field
from workshop.shape import Schema


class WitnessOut(Schema):
    """What one witness did to the odds of a bearing fault, in bits."""

    witness: str
    label: str
    words: str
    share: float
    bits: float
    source: str
    why: str
    standing: str

    @computed_field
    @property
    def hardly(self) -> bool:
        """Return whether it hardly moves the odds."""
        return hardly_moves(self.bits)


class RuleOut(Schema):
    """A rule that fired, and how much of the belief it speaks for."""

    id: str
    because: str
    share: float


class AlternativeOut(Schema):
    """Another choice, and why it is not the one."""

    choice: str
    label: str
    probability: float
    because: str
    possible: bool


class RoadOut(Schema):
    """How far the vehicle can go until it is mended."""

    key: str
    label: str
    because: list[str]
    cautions: list[str]


class VehicleRoadOut(RoadOut):
    """How far the vehicle as a whole can go, and which hub says so."""

    hub: str


class NextTestOut(Schema):
    """A test worth doing."""

    test: str
    hub: str | None
    label: str
    why: str
    stage: str
    minutes: float
    gain_bits: float = 0.0


class PartLookedOut(Schema):
    """A part that was looked at."""

    part: str
    words: str
    damage: list[str]
    fine: bool
    note: str


class InspectionOut(Schema):
    """What was looked at in an opened hub."""

    complete: bool
    looked: list[PartLookedOut]


class ChoiceOut(Schema):
    """The choice at a hub: how likely it is the right one, the rules behind it, the others, and how far it can go."""

    choice: str
    choice_probability: float = 1.0
    settled: bool = True
    off_road: bool = False
    rule: str
    because: str
    would_change: str
    rules: list[RuleOut] = []
    overruled: list[RuleOut] = []
    then: str = ""
    also: list[str] = []
    alternatives: list[AlternativeOut] = []
    road: RoadOut

    @computed_field
    @property
    def also_because(self) -> list[RuleOut]:
        """Return the rules beside the leading one that speak for enough of the belief to be told."""
        return [rule for rule in self.rules[1:] if rule.share >= WORTH_A_RULE]


class HubJudgement(ChoiceOut):
    """What is believed of a hub."""

    bearing_fault: float
    standing: str
    standing_label: str
    cause: str
    cause_label: str
    probability: float
    mechanism: str = ""
    mechanism_label: str = ""
    mechanism_probability: float = 0.0
    play: dict[str, float] = {}
    mechanisms: dict[str, float]
    causes: dict[str, float]
    choice_label: str
    settle: NextTestOut | None = None
    inspection: InspectionOut
    witnesses: list[WitnessOut]

    @computed_field
    @property
    def named(self) -> dict[str, float]:
        """Return the mechanisms that are worth naming, the likeliest first."""
        return worth_naming(self.mechanisms)


class DecisionOut(ChoiceOut):
    """The decision about the vehicle: at a hub, or with none of the vehicle as a whole; how grave it is."""

    hub: str | None
    label: str
    grade: str = ""
    grade_label: str = ""


class ContradictionOut(Schema):
    """Two witnesses of one hub that pull strongly apart."""

    hub: str
    speaks_for: str
    speaks_against: str


class OverturnerOut(Schema):
    """A fact that would overturn the leading suspicion."""

    hub: str | None
    words: str
    chance: float
    leaves: float


class CulpritOut(Schema):
    """A cause certain enough to act on."""

    cause: str
    cause_label: str
    hub: str | None
    side: str | None
    probability: float
    mechanism: str | None = None
    mechanism_label: str = ""
    mechanism_probability: float = 0.0


class AssessmentOut(Schema):
    """The whole vehicle judged."""

    culprits: list[CulpritOut]
    hubs: dict[str, HubJudgement]
    elsewhere: dict[str, float]
    decision: DecisionOut
    road: VehicleRoadOut
    next_test: NextTestOut
    nothing_wrong: float = 0.0
    tests: dict[str, list[str]] = {}
    contradictions: list[ContradictionOut] = []
    overturned_by: list[OverturnerOut] = []

    @computed_field
    @property
    def beside(self) -> dict[str, float]:
        """Return the causes elsewhere that are worth naming, the likeliest first."""
        return worth_naming(self.elsewhere)


class ShownOut(Schema):
    """A case as the screens show it, and how it is judged."""

    detail: CaseOut
    assessment: AssessmentOut


class LoggedOut(ObservationOut):
    """What was logged; `shown`: what became of the case by it, where that was asked for and could be said."""

    shown: ShownOut | None


class AcceptIn(Schema):
    """What is decided, numbered where it was: accepted twice it is one verdict. `seen`: the advice as it was seen."""

    id: UUID = Field(default_factory=uuid4)
    hub: str = Field(max_length=8)
    choice: str = Field(max_length=24)
    seen: str = Field("", max_length=24)
    both: bool = False  # the mate across the axle too
    reason: str = Field("", max_length=400)


class PricedOut(Schema):
    """One choice priced: now, and counting the chance that it comes back."""

    choice: str
    label: str
    parts: float
    labour: float
    fees: float
    consumables: float
    now: float
    hours: float
    wait_days: float
    days: float
    comeback: float
    expected: float
    expected_days: float
    example: bool


class FlipOut(Schema):
    """Where another choice would cost less."""

    choice: str
    label: str
    below_probability: float | None
    parts_above: float | None


class SidesOut(Schema):
    """Both sides at once against one."""

    both_now: float
    one_now: float
    chance: float


class PricesOut(Schema):
    """What each choice costs."""

    currency: str
    cheapest: str
    rows: list[PricedOut]
    flips: list[FlipOut]
    sides: SidesOut | None


class DepartureOut(Schema):
    """One case going another way than the workshop."""

    school: str
    option: str
    reason: str
    person: str
    at: datetime


class DecidingOut(Schema):
    """What there is to decide with at a hub."""

    prices: PricesOut
    schools: list[SchoolOut]
    departures: list[DepartureOut]


class DepartIn(Schema):
    """A departure from the workshop's way; an empty option goes back to it."""

    id: UUID = Field(default_factory=uuid4)
    school: str = Field(max_length=24)
    option: str = Field("", max_length=24)
    reason: str = Field("", max_length=400)


class VerdictOut(Schema):
    """A frozen verdict."""

    id: UUID
    hub: str
    choice: str
    choice_label: str
    advised: str
    reason: str
    because: str
    core_version: str
    person: str
    at: datetime
    news: int = 0


class WayOut(Schema):
    """What the workshop, or this case, chose where mechanics differ."""

    school: str
    way: str
    reason: str


class ReadingOut(Schema):
    """End play as it was read, in millimetres."""

    hub: str
    mean_mm: float
    spread_mm: float
    least_mm: float
    most_mm: float
    source: str


class VerdictPageOut(VerdictOut):
    """A frozen verdict as its page shows it."""

    case: UUID
    vehicle_label: str
    complaint: str
    workshop: str
    design_label: str
    side: str
    advised_label: str
    judged: HubJudgement
    road: VehicleRoadOut
    overturned_by: list[OverturnerOut]
    prices: PricesOut | None
    ways: list[WayOut]
    readings: list[ReadingOut]
    photos: list[UUID]
    recordings: int
    newer: UUID | None
    older: UUID | None
