"""Shapes of rounds and exercises in the API. Nothing of what is hidden is in one that is not answered."""

from datetime import date, datetime
from typing import Annotated
from uuid import UUID, uuid4

from ninja import Field
from workshop.shape import Schema


class RoundIn(Schema):
    """A round to begin; asked for twice it is one. `topic`: only of that."""

    id: UUID = Field(default_factory=uuid4)
    topic: str = Field("", max_length=12)


class EarIn(Schema):
    """What an ear says, and how sure it is, in percent."""

    key: str = Field(max_length=24)
    sure: int = Field(ge=0, le=100)


class AnswerIn(EarIn):
    """An answer; `hub` where the question asks for one beside, `order` of a job's steps in place of a key."""

    key: str = Field("", max_length=24)
    hub: str = Field("", max_length=8)
    order: list[Annotated[str, Field(max_length=48)]] = Field([], max_length=24)


class HandIn(Schema):
    """A test to be made on a practice vehicle."""

    id: UUID
    hub: str = Field("", max_length=8)
    kind: str = Field(max_length=24)
    supersedes: UUID | None = None


class PartLookIn(Schema):
    """A part of a practice hub to be looked at."""

    id: UUID
    hub: str = Field(max_length=8)
    part: str = Field(max_length=24)
    supersedes: UUID | None = None


class StrokesOut(Schema):
    """What the simulated gauge's pointer travels, stroke by stroke."""

    strokes_mm: list[float]


class LessonIn(Schema):
    """Whether a case of real work is to be learnt on."""

    kept: bool


class LessonOut(Schema):
    """Whether a case is learnt on, why it cannot be, '' where it can, and how often it was answered."""

    kept: bool
    why_not: str
    answered: int


class SureOut(Schema):
    """A degree of sureness."""

    percent: int
    words: str


class AnswerableOut(Schema):
    """One answer that can be given."""

    key: str
    words: str


class SpokenOut(Schema):
    """What a witness said at a hub, how strongly, and for what or against; the recording that it was heard in."""

    hub: str
    words: str
    speaks: str
    recording: str = ""


class PlacedOut(Schema):
    """A step as it was put into an order; `after`: what it was put before, and comes after."""

    words: str
    after: str


class WayStepOut(Schema):
    """A test that the bench itself would have made."""

    test: str
    label: str
    hub: str
    words: str
    minutes: float


class WatchedOut(Schema):
    """What the bench itself would have answered, knowing no more than can be found."""

    hub: str
    key: str
    words: str
    probability: float
    minutes: float
    right: bool
    steps: list[WayStepOut]


class ToldOut(Schema):
    """How an answer stands."""

    right: bool
    hub: str
    key: str
    words: str
    because: str
    harmed: str
    harm: str
    stops: bool
    hidden: str
    ear_right: bool | None
    tests: int
    minutes: float
    spoke: list[SpokenOut]
    misled: list[SpokenOut]
    placed: list[PlacedOut] = []
    followed: list[str] = []
    watched: WatchedOut | None


class ExerciseOut(Schema):
    """One question of a round. `at`: the hub that it is about, where the question names it.

    `asks`: what the answer names: a hub, one of options, a choice, or steps in an order.
    """

    id: UUID
    round: UUID
    number: int
    of: int
    topic: str
    topic_label: str
    level: int
    level_label: str
    ask: str
    stage: str
    by_ear: bool
    asks: str
    at: str
    names_a_hub: bool
    hubs: list[AnswerableOut]
    options: list[AnswerableOut]
    sure_steps: list[SureOut]
    begun: bool
    ear: str
    ear_sure: float | None
    answer: str
    answer_hub: str
    sure: float | None
    told: ToldOut | None
    next: UUID | None


class PlaceOut(Schema):
    """An exercise in a round's list."""

    id: UUID
    number: int
    topic: str
    topic_label: str
    level: int
    begun: bool
    right: bool | None
    sure: float | None
    harm: str


class RoundOut(Schema):
    """A round with its exercises."""

    id: UUID
    topic: str
    begun_at: datetime
    done: bool
    exercises: list[PlaceOut]


class HeldOut(Schema):
    """What came of one degree of sureness."""

    said: float
    right: int
    of: int
    low: float
    high: float


class ScoreOut(Schema):
    """How good answers were: proper scores (lower is better), calibration, and a word on it."""

    of: int
    right: int
    brier: float
    log: float
    reliability: float
    resolution: float
    uncertainty: float
    held: list[HeldOut]
    lean: str
    words: str


class TopicOut(Schema):
    """A topic, and how somebody stands in it."""

    key: str
    label: str
    level: int
    level_label: str
    of: int
    right: int
    due: int


class PractisedOut(Schema):
    """A day of practice."""

    day: date
    right: int
    of: int


class MatterOut(Schema):
    """What comes back, and when."""

    topic_label: str
    label: str
    due_at: datetime


class DeskOut(Schema):
    """Where somebody stands."""

    open_round: UUID | None
    set_by: str
    due: int
    topics: list[TopicOut]
    days: list[PractisedOut]
    score: ScoreOut | None
    ear: ScoreOut | None
    missed: list[MatterOut]
    harm: int
    levels: int


class TrialIn(Schema):
    """A trial of a pair to begin; asked for twice it is one."""

    id: UUID = Field(default_factory=uuid4)
    pair: str = Field(max_length=16)
    level: int = Field(1, ge=1, le=9)


class SaidIn(Schema):
    """What X is said to be."""

    said: str = Field(max_length=1)


class TrialToldOut(Schema):
    """How it stands, what X was, and what the others were."""

    right: bool
    was: str
    names: dict[str, str]
    tell: str


class TrialOut(Schema):
    """A trial: its sounds, what can be answered."""

    id: UUID
    pair: str
    sounds: list[str]
    answers: list[str]
    said: str
    told: TrialToldOut | None


class PairOut(Schema):
    """A pair, how often it was told, and how often guessing does as well."""

    key: str
    label: str
    of: int
    right: int
    by_chance: float


class EarsOut(Schema):
    """What somebody's ears told apart."""

    pairs: list[PairOut]
    levels: list[AnswerableOut]
    headphones: bool | None
    headphones_label: str
    headphones_of: int
    headphones_done: int


class SetRoundIn(RoundIn):
    """A round to set for somebody."""

    person: int = Field(ge=1)


class LearnerOut(Schema):
    """How somebody of the workshop stands, for who teaches."""

    person: int
    name: str
    of: int
    right: int
    brier: float | None
    lean: str
    days: int
    danger: int
    weakest: str
    waiting: bool
