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
from hematite.language import say
from hematite.listening import LOWEST_HZ, NARROWEST
from hematite.play import DIAL_RESOLUTIONS_MM, LEAST_READINGS
from hematite.prices import IN_PAIRS, WORKING_DAY_H
from hematite.simulator import CONDITIONS, PLAYED_TURNS_PER_S
from hematite.spectra import THIRD_OCTAVES_HZ
from hematite.speed import LEAST_TAPS
from hematite.sums import Sum, sums
from hematite.tables import table
from hematite.tightening import grades
from hematite.units import quantities
from hematite.verdict import choices
from hematite.wording import NEVER_SURE, wording
from ninja import Router

from reference.schemas import ReferenceOut

router = Router(tags=["reference"])


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
        "played_turns_per_s": PLAYED_TURNS_PER_S,
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
        "passes": [{"key": key, "words": say(words)} for key, words in PASSES.items()],
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
        "fastening_sources": [{"key": key, "words": say(words)} for key, words in SOURCES.items()],
        "grades": list(grades()),
        "finds": [asdict(find) | {"shuts_out": shuts_out(find)} for find in finds().values()],
        "sums": [_sum(one) for one in sums().values()],
    }
