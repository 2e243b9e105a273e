"""Writing a case bundle."""

import io
import json
import math
import zipfile
from collections.abc import Iterable, Mapping
from dataclasses import asdict
from typing import Any

from hematite.bearings import Row
from hematite.errors import BadTyreCode
from hematite.evidence import Observation
from hematite.fastenings import Fastening
from hematite.listening import Situation
from hematite.vehicles import Hub, Vehicle

SEAL = ("shaft_mm", "housing_mm", "width_mm")


def write_bundle(
    vehicle: Vehicle,
    situations: Iterable[Situation],
    sounds: Mapping[str, tuple[str, bytes]],
    observations: Iterable[Observation],
) -> bytes:
    """Return a .zip bundle. `sounds` gives for each situation's id its file name and its encoded bytes."""
    files = {key: f"audio/{name}" for key, (name, _) in sounds.items()}
    data = case_json(vehicle, situations, files, observations)
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as bundle:
        bundle.writestr("case.json", json.dumps(data, indent=1, ensure_ascii=False))
        for key, (_, content) in sounds.items():
            bundle.writestr(files[key], content, zipfile.ZIP_STORED)
    return buffer.getvalue()


def case_json(
    vehicle: Vehicle,
    situations: Iterable[Situation],
    files: Mapping[str, str],
    observations: Iterable[Observation],
) -> dict[str, Any]:
    """Return `case.json`, version 1. `files` gives for each situation's id where its sound lies in the bundle."""
    return {
        "format": "hematite-case",
        "version": 1,
        "vehicle": vehicle_to_json(vehicle),
        "recordings": [_situation(one, files[one.id]) for one in situations],
        "observations": [_observation(one) for one in observations],
    }


def _observation(one: Observation) -> dict[str, Any]:
    """Return an observation as `case.json` holds it; with the job after which it was found, where it was after one."""
    return {"kind": one.kind, "hub": one.hub, **one.value} | ({"job": one.job} if one.job else {})


def vehicle_to_json(vehicle: Vehicle) -> dict[str, Any]:
    """Return a vehicle as `case.json` holds it."""
    return {
        "label": vehicle.label,
        "tyre": vehicle.tyre,
        "rolling_circumference_m": _circumference(vehicle),
        "age_years": vehicle.age_years,
        "distance_km": vehicle.distance_km,
        "duty": list(vehicle.duty),
        "axles": [
            {"driven": axle.driven, "steered": axle.steered, "hubs": [_hub(hub) for hub in axle.hubs]}
            for axle in vehicle.axles
        ],
    }


def _circumference(vehicle: Vehicle) -> float | None:
    """Return metres a turn as far as they are known: a size that cannot be read is kept as it was typed."""
    try:
        return vehicle.circumference
    except BadTyreCode:
        return None


def _hub(hub: Hub) -> dict[str, Any]:
    return {
        "id": hub.id,
        "side": hub.side,
        "design": hub.design_key,
        "rotating_ring": hub.rotating,
        "play_min_mm": hub.play_min_mm,
        "play_max_mm": hub.play_max_mm,
        "play_source": hub.play_source,
        "seal": dict(zip(SEAL, hub.seal_mm, strict=True)),
        "fittings": dict(hub.fittings),
        "fastenings": {key: _fastening(row) for key, row in hub.fastenings.items()},
        "bearings": [
            *(_row(row) | _called(row.name, hub) for row in hub.rows),
            *({"elements": n} for n in hub.counts),
            *({"row": name} | _called(name, hub) for name in _unmeasured(hub)),
        ],
    }


def _called(name: str, hub: Hub) -> dict[str, Any]:
    return {"designation": hub.designations[name]} if name in hub.designations else {}


def _unmeasured(hub: Hub) -> list[str]:
    """Return the rows of which only the number is known."""
    return [name for name in hub.designations if name not in {row.name for row in hub.rows}]


def _fastening(row: Fastening) -> dict[str, Any]:
    return {name: value for name, value in asdict(row).items() if name != "key" and value not in (None, "")}


def _row(row: Row) -> dict[str, Any]:
    return {
        "row": row.name,
        "elements": row.elements,
        "element_diameter_mm": round(row.element_diameter * 1000, 6),
        "pitch_diameter_mm": round(row.pitch_diameter * 1000, 6),
        "contact_angle_deg": round(math.degrees(row.contact_angle), 6),
    }


def _situation(situation: Situation, file: str) -> dict[str, Any]:
    return {
        "id": situation.id,
        "file": file,
        "place": situation.place,
        "sensor": situation.sensor,
        "situation": situation.situation,
        "gain_group": situation.gain_group or None,
        "speed": dict(situation.speed),
        "segments": [asdict(segment) for segment in situation.segments],
    } | ({"job": situation.job} if situation.job else {})
