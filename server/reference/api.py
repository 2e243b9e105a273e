"""Words, choices, units and limits: the trade's tables, for the screens."""

from dataclasses import asdict

from django.http import HttpRequest
from hematite.assembly import Part, library
from hematite.beliefs.priors import duties
from hematite.evidence.witnesses import PASSES, causes, witnesses
from hematite.fastenings import SOURCES, kinds
from hematite.hubs import designs
from hematite.inspection import finds, shuts_out
from hematite.jobs import making_safe
from hematite.listening import LOWEST_HZ, NARROWEST
from hematite.play import DIAL_RESOLUTIONS_MM, LEAST_READINGS
from hematite.prices import IN_PAIRS, WORKING_DAY_H
from hematite.simulator import CONDITIONS
from hematite.spectra import THIRD_OCTAVES_HZ
from hematite.speed import LEAST_TAPS
from hematite.sums import Sum, sums
from hematite.tables import table
from hematite.tightening import grades
from hematite.units import quantities
from hematite.verdict import choices
from hematite.wording import NEVER_SURE, wording
from ninja import Router, Schema

router = Router(tags=["reference"])


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


class SeenOut(Schema):
    """A torque that was seen on some vehicle."""

    nm: list[float]
    of: str


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


def _sum(one: Sum) -> dict:
    rows = [
        asdict(field) | {"options": [{"key": key, "words": words} for key, words in field.options]}
        for field in one.fields
    ]
    return {"key": one.key, "label": one.label, "source": one.source, "fields": rows}


def _witness(key: str, row: dict) -> dict:
    asked = row.get("asked") or dict(zip(row["outcomes"], row["words"], strict=True))
    named = {name: row[name] for name in ("label", "act", "stage", "minutes", "why", "standing")}
    texts = {name: row.get(name, "") for name in ("do", "look", "caution", "where", "needs", "apart")}
    return (
        named
        | texts
        | {
            "key": key,
            "place": row.get("place", "hub"),
            "entry": row.get("entry", "answer"),
            "rocked": bool(row.get("rocked")),
            "every_wheel": bool(row.get("every_wheel")),
            "recorded": bool(row.get("recorded") or row.get("asked_as")),
            "only": row.get("only", []),
            "options": [{"key": k, "words": w} for k, w in asked.items()],
        }
    )


def _part(part: Part) -> dict:
    return {name: getattr(part, name) for name in ("key", "label", "kind", "rolls")}


def _marks(name: str = "states") -> list[dict]:
    rows = table("listening/captures.toml")[name]
    return [{"key": key, "words": row["label"], "hotkey": row["key"]} for key, row in rows.items()]


def _options(name: str) -> list[dict]:
    return [{"key": key, "words": words} for key, words in table("listening/captures.toml")[name].items()]


def _speeds() -> list[dict]:
    rows = table("listening/captures.toml")["speeds"]
    return [{"key": key, "spun": "", "warns": ""} | row for key, row in rows.items()]


def _captures() -> list[dict]:
    rows = table("listening/captures.toml")
    marks = {mark["key"]: mark for mark in _marks()}
    return [
        row | {"key": key, "marks": [marks[state] for state in row["marks"]]}
        for key, row in rows.items()
        if "situation" in row
    ]


def _quantity(key: str, row: dict) -> dict:
    units = [{"offset": 0.0} | {k: unit[k] for k in unit if k != "source"} for unit in row["units"]]
    return {"key": key, "label": row["label"], "units": units}


def _causes() -> list[dict]:
    """Return causes and, where a group has no cause of its own name, the group."""
    named = {key: row["label"] for key, row in causes().items()}
    groups = {row["group"]: row["group_label"] for row in causes().values() if "group_label" in row}
    return [{"key": key, "words": words} for key, words in (groups | named).items()]


@router.get("/reference", response=ReferenceOut)
def get_reference(request: HttpRequest):
    """Return the trade's tables."""
    return {
        "designs": [asdict(design) for design in designs().values()],
        "witnesses": [_witness(key, row) for key, row in witnesses().items()],
        "choices": [{"key": key, "words": words} for key, words in choices().items()],
        "causes": _causes(),
        "conditions": [{"key": key, "words": key.replace("_", " ")} for key in CONDITIONS],
        "duties": [{"key": key, "words": words} for key, words in duties().items()],
        "kinds": [
            {"key": key, "words": row["label"], "axles": row["axles"]}
            for key, row in table("vehicle_kinds.toml").items()
        ],
        "line_kinds": [{"key": key, "words": row["short"]} for key, row in table("families/kinds.toml").items()],
        "captures": _captures(),
        "sources": _options("sources"),
        "sensors": _options("sensors"),
        "speeds": _speeds(),
        "levels": table("listening/captures.toml")["levels"],
        "band": {"lowest_hz": LOWEST_HZ, "narrowest": NARROWEST},
        "least_taps": LEAST_TAPS,
        "working_day_h": WORKING_DAY_H,
        "in_pairs": IN_PAIRS,
        "never_sure": NEVER_SURE,
        "wording": wording(),
        "passes": [{"key": key, "words": words} for key, words in PASSES.items()],
        "states": _marks(),
        "surfaces": _marks("surfaces"),
        "third_octaves_hz": THIRD_OCTAVES_HZ,
        "quantities": [_quantity(key, row) for key, row in quantities().items()],
        "least_readings": LEAST_READINGS,
        "dial_resolutions_mm": DIAL_RESOLUTIONS_MM,
        "lifts": [asdict(lift) for lift in making_safe()],
        "parts": {key: _part(part) for key, part in library().items() if part.kind},
        "fastenings": [
            {"key": kind.key, "label": kind.label, "seen": [{"nm": s.nm, "of": s.of} for s in kind.seen]}
            for kind in kinds().values()
        ],
        "fastening_sources": [{"key": key, "words": words} for key, words in SOURCES.items()],
        "grades": list(grades()),
        "finds": [asdict(find) | {"shuts_out": shuts_out(find)} for find in finds().values()],
        "sums": [_sum(one) for one in sums().values()],
    }
