"""Shapes of assessments and verdicts in the API."""

from datetime import datetime
from uuid import UUID

from ninja import Field, Schema


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


class HubJudgement(Schema):
    """What is believed of a hub."""

    bearing_fault: float
    standing: str
    standing_label: str
    cause: str
    cause_label: str
    probability: float
    mechanisms: dict[str, float]
    causes: dict[str, float]
    choice: str
    choice_label: str
    rule: str
    because: str
    would_change: str
    witnesses: list[WitnessOut]


class DecisionOut(Schema):
    """The decision at the most suspect hub."""

    hub: str
    choice: str
    label: str
    rule: str
    because: str
    would_change: str


class NextTestOut(Schema):
    """The one next thing worth doing."""

    test: str
    hub: str | None
    label: str
    why: str
    stage: str
    minutes: float
    gain_bits: float = 0.0


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


class AssessmentOut(Schema):
    """The whole vehicle judged."""

    culprits: list[CulpritOut]
    hubs: dict[str, HubJudgement]
    elsewhere: dict[str, float]
    decision: DecisionOut
    next_test: NextTestOut
    nothing_wrong: float = 0.0
    tests: dict[str, list[str]] = {}
    contradictions: list[ContradictionOut] = []
    overturned_by: list[OverturnerOut] = []


class AcceptIn(Schema):
    """What is decided."""

    hub: str = Field(max_length=8)
    choice: str = Field(max_length=24)
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
