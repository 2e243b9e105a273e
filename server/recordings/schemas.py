"""Shapes of recordings in the API."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from hematite.doors import most_of
from hematite.listening.situation import SENSORS, SITUATIONS, STATES, SURFACES
from hematite.speed import KINDS
from ninja import Field
from workshop.limits import limited
from workshop.shape import Schema

Point = Annotated[list[float], Field(min_length=2, max_length=2)]


class SpeedIn(Schema):
    """What is known about speed, as the case format has it."""

    kind: Literal[*KINDS]
    kmh: float | None = limited("speed_kmh")
    turns_per_s: float | None = limited("wheel_turns_per_s")
    turns: float | None = limited("turns_counted")
    times_s: list[float] | None = Field(None, max_length=most_of("points"))
    points: list[Point] | None = Field(None, max_length=most_of("points"))


class SegmentIn(Schema):
    """A stretch of a road run."""

    start_s: float = Field(ge=0, le=900)
    end_s: float = Field(gt=0, le=900)
    state: Literal[*STATES]
    speed_kmh: float | None = limited("speed_kmh")
    surface: Literal[*SURFACES] = ""


class MadeIn(Schema):
    """How a recording was made."""

    place: str = Field(max_length=8)
    sensor: Literal[*SENSORS] = "clip"
    situation: Literal[*SITUATIONS] = "stand_driven"
    gain_group: str = Field("", max_length=40)
    speed: SpeedIn = SpeedIn(kind="unknown")
    segments: list[SegmentIn] = Field([], max_length=most_of("segments"))
    after_repair: bool = False

    def stored(self) -> dict:
        """Return the fields of a recording's row."""
        made = self.model_dump()
        return made | {"speed": {name: value for name, value in made["speed"].items() if value is not None}}


class UploadIn(Schema):
    """The form beside an uploaded sound; `made` is JSON of the shape MadeIn."""

    id: UUID
    made: str = Field(max_length=400_000)


class SimulatedIn(Schema):
    """A recording by the simulated pickup; `condition` overrides what the case hides."""

    id: UUID
    made: MadeIn
    condition: str | None = Field(None, max_length=32)


class FindingOut(Schema):
    """Something wrong with a recording."""

    id: str
    level: str
    words: str
    hint: str


class LineOut(Schema):
    """One line: its name, where it stands, and its height over the floor."""

    name: str
    order: float
    db: float


class FamilyOut(Schema):
    """A family of lines. `odds` is what its `strength` comes to beside what luck makes, both in nats."""

    kind: str
    order: float
    found_order: float
    score_db: float
    strength: float
    odds: float
    standing: str
    lines: list[LineOut]
    row: str
    words: str
    by_chance: float
    hubs: list[str]


class LiveFamilyOut(FamilyOut):
    """A family of lines, and how far it is on the way to being decided, from 0 to 1."""

    surely: float


class LiveOut(Schema):
    """What a recording tells while it is still being made; `families` are those that stand out of chance."""

    seconds: float
    turns_per_s: float | None
    speed_words: str
    families: list[LiveFamilyOut]
    decided: bool
    words: str


class LiveIn(Schema):
    """The form beside a sound that is still being made; `made` is JSON of the shape MadeIn."""

    made: str = Field(max_length=400_000)


class RoadTestOut(Schema):
    """What bends, coasting or braking do to the sound."""

    kind: str
    db: float
    doubt_db: float
    band: str
    words: str
    surely: bool


class ToneOut(Schema):
    """A tone that is not the wheel's."""

    kind: str
    at: float
    words: str


class DragOut(Schema):
    """How a wheel ran down: seconds from a speed to half of it."""

    from_turns_per_s: float
    halving_s: float
    sureness: float


class RecordingOut(Schema):
    """A recording with what was heard in it, as far as it is heard."""

    id: UUID
    place: str
    sensor: str
    situation: str
    gain_group: str
    speed: dict
    segments: list[SegmentIn]
    after_repair: bool
    withdrawn: bool
    person: str
    made_at: datetime
    duration_s: float
    rate: int
    withheld: bool
    state: str
    error: str
    heard_by: str
    heard_by_another: bool
    ended_at: datetime | None
    usable: bool
    level_db: float | None
    relative_db: float | None
    turns_per_s: float | None
    speed_words: str
    drag: DragOut | None
    tones: list[ToneOut]
    road: list[RoadTestOut]
    thirds_db: list[float]
    echoes: list[str]
    band_low_hz: float | None
    band_high_hz: float | None
    quality: list[FindingOut]
    families: list[FamilyOut]


class SpeedLogOut(Schema):
    """A logged course of speed: [s, km/h]."""

    points: list[list[float]]


class BandIn(Schema):
    """A band to listen in."""

    low_hz: float = Field(ge=20, le=40_000)
    high_hz: float = Field(gt=20, le=48_000)


class BandMaybe(Schema):
    """A band, or none for the one that was found."""

    low_hz: float | None = Field(None, ge=20, le=40_000)
    high_hz: float | None = Field(None, gt=20, le=48_000)


class PlotOut(Schema):
    """The order spectrum for a plot: heights in dB over the floor by events per wheel turn."""

    orders: list[float]
    db: list[float]


class WithdrawIn(Schema):
    """Set aside or take back."""

    withdrawn: bool
