"""Shapes of the trade's tables in the API."""

from jobs.schemas import SeenOut
from workshop.shape import Schema


class DesignOut(Schema):
    """A hub design."""

    key: str
    label: str
    adjusts: str
    repacks: bool
    sealed: bool
    rotating: str
    found_on: str
    play_min_mm: float
    play_max_mm: float
    play_source: str


class OptionOut(Schema):
    """An answer that a witness can give."""

    key: str
    words: str


class WitnessTable(Schema):
    """A test, with its possible answers."""

    key: str
    label: str
    act: str
    stage: str
    minutes: float
    why: str
    standing: str
    place: str
    recorded: bool
    do: str
    look: str
    caution: str
    only: list[str]
    where: str
    needs: str
    apart: str
    entry: str
    rocked: bool
    every_wheel: bool
    options: list[OptionOut]


class LiftOut(Schema):
    """One of the two lifts, and what must be so before anything is pushed or taken off."""

    key: str
    label: str
    why: str
    steps: list[str]


class KindAxleOut(Schema):
    """An axle as it usually is on a kind of vehicle."""

    design: str
    wheels: int
    driven: bool
    steered: bool


class KindOut(Schema):
    """A kind of vehicle to begin from, axles from front to back."""

    key: str
    words: str
    axles: list[KindAxleOut]


class PartOut(Schema):
    """A part of a hub design."""

    key: str
    label: str
    kind: str
    rolls: bool


class FasteningKindOut(Schema):
    """Whose torque it is, and what was seen elsewhere: to check one's own by."""

    key: str
    label: str
    seen: list[SeenOut]


class FindOut(Schema):
    """What a part can look like, and what it means."""

    key: str
    label: str
    means: str
    kinds: list[str]
    parts: list[str]
    damage: str
    fine: bool
    shuts_out: list[str]


class UnitOut(Schema):
    """A unit: SI = shown × factor + offset."""

    key: str
    label: str
    factor: float
    offset: float
    decimals: int


class QuantityOut(Schema):
    """A quantity with its units."""

    key: str
    label: str
    units: list[UnitOut]


class MarkOut(Schema):
    """A state of the vehicle that may be marked, and the single key that marks it."""

    key: str
    words: str
    hotkey: str


class CaptureOut(Schema):
    """A way of making a recording: what to do, where, for how long, and what may be marked meanwhile."""

    key: str
    label: str
    say: str
    caution: str
    place: str
    sensor: str
    situation: str
    seconds: float
    speed: list[str]
    marks: list[MarkOut]


class SpeedOut(Schema):
    """A kind of speed that may be stated; `spun`: its words where a wheel is let go, when they differ; `warns` else."""

    key: str
    label: str
    spun: str
    warns: str


class LevelsOut(Schema):
    """Shares of full scale: from where a live level is too loud, and under which hardly anything comes in."""

    too_loud: float
    nothing: float


class BandOut(Schema):
    """What a band of hearing may be: from how low, and how many times as high at least."""

    lowest_hz: float
    narrowest: float


class WordingOut(Schema):
    """Sentences and words that more than one screen says."""

    nothing_above: str
    no_torque_made_up: str
    caution_open: str
    caution_prove: str
    sides: dict[str, str]
    adjusts: dict[str, str]
    repacks: dict[str, str]
    orders: dict[str, str]


class SumFieldOut(Schema):
    """A field of a sum; `unit` as it is written in the table, "" for a count; `more`: behind a fold."""

    key: str
    label: str
    kind: str
    unit: str
    least: float
    most: float
    whole: bool
    count: int
    options: list[OptionOut]
    hint: str
    more: bool


class SumOut(Schema):
    """A sum of the setting bench."""

    key: str
    label: str
    source: str
    fields: list[SumFieldOut]


class ReferenceOut(Schema):
    """Everything the screens need to name things."""

    designs: list[DesignOut]
    witnesses: list[WitnessTable]
    choices: list[OptionOut]
    causes: list[OptionOut]
    conditions: list[OptionOut]
    duties: list[OptionOut]
    kinds: list[KindOut]
    line_kinds: list[OptionOut]
    captures: list[CaptureOut]
    sources: list[OptionOut]
    sensors: list[OptionOut]
    speeds: list[SpeedOut]
    levels: LevelsOut
    band: BandOut
    least_taps: int
    played_turns_per_s: float
    working_day_h: float
    in_pairs: list[str]
    never_sure: float
    wording: WordingOut
    passes: list[OptionOut]
    states: list[MarkOut]
    surfaces: list[MarkOut]
    third_octaves_hz: list[float]
    quantities: list[QuantityOut]
    least_readings: int
    dial_resolutions_mm: dict[str, float]
    lifts: list[LiftOut]
    parts: dict[str, PartOut]
    fastenings: list[FasteningKindOut]
    fastening_sources: list[OptionOut]
    grades: list[str]
    finds: list[FindOut]
    sums: list[SumOut]
