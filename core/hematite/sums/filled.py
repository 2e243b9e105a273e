"""What a sum is asked with before anybody types: from the hub, its vehicle, its torque book and the workshop's ways."""

import math
from collections.abc import Mapping
from typing import Any

from hematite.assembly import hub_facts
from hematite.bearings import sizes_by_name
from hematite.bearings.catalogue import Size
from hematite.fastenings import Fastening
from hematite.grease.grease import duties
from hematite.jobs import Step
from hematite.loads import rows_of
from hematite.setting import LOCKS, lock_of
from hematite.sums.fields import sums
from hematite.vehicles import Hub, Vehicle

SETTING = ("nut_set", "nut_seat", "axle_nut")  # whose thread an adjusting nut has, the likeliest first
CLAMPED = ("hub_unit", "pressed_double_row")
ON_SHAFTS = ("retaining_ring", "hub_flange")  # parts that are pressed on by their inner ring


def sums_of(step: Step) -> tuple[str, ...]:
    """Return the sums that belong to a step, the one that it cannot do without first."""
    found: list[str] = []
    if step.sum == "nut":
        found += ["nut", "slots"]
    elif step.sum:
        found.append(step.sum)
    if step.part == "pin" and step.act == "on":
        found.append("slots")
    if step.press_t:
        found += ["press", "heat"] if step.act == "on" else ["press"]
    if step.torque == "wheel_nut":
        found.append("wheel_nuts")
    if step.torque:
        found.append("torque")
    if "grease" in step.uses and step.act == "work":
        found.append("grease")
    if step.part == "wheel_spacer":
        found.append("life")
    return tuple(dict.fromkeys(found))


def filled(key: str, hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None = None) -> dict[str, Any]:
    """Return what is known for a sum at a hub, field by field; what nobody said is left out."""
    rule = _RULES.get(key)
    asked = {field.key for field in sums()[key].fields}
    found = rule(hub, vehicle, ways, step) if rule else {}
    return {name: value for name, value in found.items() if name in asked and value not in (None, "", [], ())}


def _nut(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    low, high = hub.play_window_mm
    book = _book(hub, *SETTING, having="thread")
    light = hub.fastenings.get("nut_set")
    return {
        "thread": book.thread if book else None,
        "low_mm": low,
        "high_mm": high,
        "preload_nm": light.aim_nm if light else None,
        "where": ways.get("slack"),
    }


def _slots(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    lock = lock_of(hub.design_key, hub_facts(hub, vehicle, ways))
    book = _book(hub, *SETTING, having="slots")
    return _nut(hub, vehicle, ways, step) | {
        "lock": lock if lock in LOCKS else None,
        "slots": book.slots if book else None,
        "ends": book.holes if book else None,
        "clamped": hub.design_key in CLAMPED or None,
    }


def _shims(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    return {"end_play_mm": hub.play_window_mm[1]}


def _press(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    size = next(iter(_sizes(hub).values()), None)
    on_shaft = hub.design_key == "axle_retained" or (step is not None and step.part in ON_SHAFTS)
    return {"ring": "inner" if on_shaft else "outer"} | _dimensions(size)


def _heat(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    size = next(iter(_sizes(hub).values()), None)
    part = "bearing_sealed" if hub.design.sealed else "inner_ring"
    return {"part": "retaining_ring" if step is not None and step.part == "retaining_ring" else part} | _dimensions(
        size
    )


def _torque(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    book = hub.fastenings.get(step.torque) if step else None
    return {"torque_nm": book.least_nm if book else None, "most_nm": book.most_nm if book else None}


def _wheel_nuts(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    book = hub.fastenings.get("wheel_nut")
    return {"nuts": book.count, "torque_nm": book.aim_nm} if book else {}


def _grease(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    sizes = _sizes(hub)
    names = {"inner_mm": "inboard", "outer_mm": "outboard"}
    return {key: list(sizes[row].dimensions_mm) for key, row in names.items() if row in sizes} | {
        "duty": [word for word in vehicle.duty if word in duties()]
    }


def _life(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str], step: Step | None) -> dict[str, Any]:
    round_m = vehicle.circumference
    return {"radius_mm": round(round_m * 1000 / 2 / math.pi) if round_m else None, "rows": rows_of(hub.design_key)}


def _book(hub: Hub, *keys: str, having: str) -> Fastening | None:
    return next((hub.fastenings[k] for k in keys if k in hub.fastenings and getattr(hub.fastenings[k], having)), None)


def _sizes(hub: Hub) -> dict[str, Size]:
    """Return the sizes of a hub's bearings whose designation the catalogue has, by row."""
    known = sizes_by_name()
    return {row: known[name] for row, name in hub.designations.items() if name in known}


def _dimensions(size: Size | None) -> dict[str, float]:
    return dict(zip(("bore_mm", "outside_mm", "width_mm"), size.dimensions_mm, strict=True)) if size else {}


_RULES = {
    "nut": _nut,
    "slots": _slots,
    "shims": _shims,
    "press": _press,
    "heat": _heat,
    "torque": _torque,
    "wheel_nuts": _wheel_nuts,
    "grease": _grease,
    "life": _life,
    "setting": _nut,
}
