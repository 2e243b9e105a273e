"""Seeded populations of cases with a known truth, to count how often the right corner and cause are named.

Every figure of a case is drawn anew: vehicle, geometry and what the catalogue gets wrong of it, protocol, speed and how
it is stated, slip, leak, hiss, gusts, tones. The populations judge the listening; no threshold is fitted to them.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from hematite.bearings import Row
from hematite.bundles.case import Case
from hematite.listening import Situation
from hematite.listening.situation import segments_from_json
from hematite.recordings.decoding import Recording
from hematite.simulator.scenes import Drive, Scene, Trouble, coast_down, record, road_run, steady
from hematite.vehicles import Axle, Hub, Vehicle

PROTOCOLS = ("stand_driven", "stand_spin", "road_clip", "road_cabin")
BEARING = ("outer_race", "inner_race", "rolling_element", "distributed_wear", "dry", "cage")
OTHER = ("brake", "tyre", "tread", "engine", "drive_joint")
CAUSES = {"dry": ("bearing", "dry_or_dirty"), "brake": ("brake", ""), "tyre": ("tyre", "cupped"),
          "tread": ("tyre", "tread"), "engine": ("engine", ""), "drive_joint": ("drive_joint", "")}  # fmt: skip
LEVELS: Mapping[str, dict[str, tuple[float, float]]] = {
    "medium": {"severity": (0.45, 1.2), "leak_db": (-22, -14), "slip": (0.005, 0.015), "growth": (1, 2),
               "drift": (0, 0.01), "hiss": (0.0008, 0.003), "gusts": (0, 0.05), "knocks": (0, 0.1), "hum": (0, 0.01),
               "engine": (0, 0.01)},
    "hard": {"severity": (0.2, 0.7), "leak_db": (-15, -8), "slip": (0.01, 0.02), "growth": (1, 2),
             "drift": (0.005, 0.03), "hiss": (0.002, 0.006), "gusts": (0.02, 0.2), "knocks": (0.05, 0.4),
             "hum": (0, 0.04), "engine": (0.005, 0.04)},
}  # fmt: skip


@dataclass(frozen=True)
class Truth:
    """What is hidden: cause, hub and side (empty when there is none), mechanism, and how the case was recorded."""

    cause: str
    hub: str
    side: str
    mechanism: str
    protocol: str
    known_geometry: bool


def trials(level: str, *, count: int, seed: int) -> Iterator[tuple[Case, Truth]]:
    """Yield `count` cases of a level ('medium' or 'hard') with their truth."""
    for number in range(count):
        yield _trial(level, np.random.default_rng([seed, number]))


def _trial(level: str, dice: np.random.Generator) -> tuple[Case, Truth]:
    protocol = str(dice.choice(PROTOCOLS, p=(0.4, 0.25, 0.15, 0.2)))
    truth_vehicle, driven = _vehicle(dice)
    condition = _condition(dice, protocol, driven=bool(driven))
    hubs = [hub for hub in truth_vehicle.hubs() if condition != "drive_joint" or hub.id in driven]
    culprit = hubs[int(dice.integers(len(hubs)))]
    on_vehicle = condition not in ("sound", "engine")
    trouble = Trouble(**{name: float(dice.uniform(*span)) for name, span in LEVELS[level].items()})
    if protocol == "road_cabin":
        trouble = replace(trouble, leak_db=-4.0)
    scene = Scene(
        vehicle=truth_vehicle,
        hidden={culprit.id: condition} if on_vehicle else {},
        trouble=trouble,
        seed=int(dice.integers(2**31)),
        elsewhere=frozenset({"engine"}) if condition == "engine" else frozenset(),
    )
    known = bool(dice.uniform() < 0.65)
    situations, sounds = _recorded(scene, protocol, dice)
    case = Case(vehicle=_believed(truth_vehicle, dice, known=known), situations=situations, sounds=sounds)
    cause, mechanism = CAUSES.get(condition, ("bearing", condition))
    if condition == "sound":
        cause = mechanism = ""
    place = (culprit.id, culprit.side) if on_vehicle else ("", "")
    return case, Truth(cause, *place, mechanism, protocol, known)


def _condition(dice: np.random.Generator, protocol: str, *, driven: bool) -> str:
    kind = dice.uniform()
    if kind < 0.6:
        return str(dice.choice(BEARING, p=(0.25, 0.25, 0.18, 0.18, 0.09, 0.05)))
    if kind < 0.75:
        return "sound"
    allowed = [c for c in OTHER if protocol.startswith("road") or c in ("brake", "tyre")]
    silent = {"tyre"} if protocol == "stand_spin" else set() if driven else {"drive_joint"}
    return str(dice.choice([c for c in allowed if c not in silent]))


def _row(dice: np.random.Generator) -> Row:
    pitch = float(dice.uniform(35, 90))
    count = int(dice.integers(8, 20))
    return Row.from_mm(
        elements=count,
        element_diameter_mm=float(dice.uniform(0.6, 0.9)) * np.pi * pitch / count,
        pitch_diameter_mm=pitch,
        contact_angle_deg=float(dice.uniform(0, 38)),
    )


def _vehicle(dice: np.random.Generator) -> tuple[Vehicle, set[str]]:
    kinds = (("hub_unit", "hub_unit"), ("hub_unit", "taper_clamp"), ("taper_pressurised",) * 2,
             ("taper_locknut", "axle_retained"), ("pressed_double_row",) * 2)  # fmt: skip
    designs = kinds[int(dice.integers(len(kinds)))]
    axles, driven = [], set()
    for n, design in enumerate(designs, start=1):
        row = _row(dice)
        rows = (row, _row(dice)) if design.startswith("taper") else (row, row)
        is_driven = not design.startswith("taper_p") and (n == 1 or design == "pressed_double_row")
        hubs = tuple(Hub(f"A{n}{s[0].upper()}", s, design, rows) for s in ("left", "right"))
        driven |= {hub.id for hub in hubs} if is_driven else set()
        axles.append(Axle(hubs, driven=is_driven, steered=n == 1))
    return Vehicle(tuple(axles), rolling_circumference_m=float(dice.uniform(1.6, 2.3))), driven


def _believed(vehicle: Vehicle, dice: np.random.Generator, *, known: bool) -> Vehicle:
    """Return the vehicle as the garage knows it: contact angles a degree or two off, or no geometry at all."""

    def row(true: Row) -> Row:
        angle = true.contact_angle + np.radians(dice.uniform(-2, 2))
        return replace(true, contact_angle=float(np.clip(angle, 0, 1.2)))

    axles = tuple(
        replace(axle, hubs=tuple(replace(h, rows=tuple(map(row, h.rows)) if known else ()) for h in axle.hubs))
        for axle in vehicle.axles
    )
    believed = vehicle.rolling_circumference_m or 2.0
    return replace(vehicle, axles=axles, rolling_circumference_m=believed * float(dice.uniform(0.985, 1.015)))


Recorded = tuple[tuple[Situation, ...], dict[str, Any]]


def _recorded(scene: Scene, protocol: str, dice: np.random.Generator) -> Recorded:
    rate = int(dice.choice((16_000, 22_050, 44_100)))
    places = ["cabin"] if protocol == "road_cabin" else [hub.id for hub in scene.vehicle.hubs()]
    situations, sounds = [], {}
    nominal = float(dice.uniform(5, 12) if protocol == "stand_driven" else dice.uniform(2.5, 6))
    for number, place in enumerate(places):
        drive, made = _driven(scene, protocol, rate, nominal * float(dice.uniform(0.94, 1.06)), dice)
        sensor = "air" if place == "cabin" else "clip"
        situations.append(Situation(id=f"r{number}", place=place, sensor=sensor, gain_group="g", **made))
        sounds[f"r{number}"] = _loader(scene, drive, place, number, alone=protocol == "stand_spin")
    return tuple(situations), sounds


def _loader(scene: Scene, drive: Drive, place: str, number: int, *, alone: bool) -> Any:
    def load() -> Recording:
        return record(scene, drive, place=place, number=number, alone=alone)

    return load


def _driven(
    scene: Scene, protocol: str, rate: int, turns: float, dice: np.random.Generator
) -> tuple[Drive, dict[str, Any]]:
    circumference = scene.vehicle.rolling_circumference_m or 2.0
    if protocol == "stand_spin":
        drive = coast_down(
            rate=rate, seconds=float(dice.uniform(8, 14)), turns_per_s=turns, bend=float(dice.uniform(0.8, 2.2)),
            stops_after_s=float(dice.uniform(7, 25)),
        )  # fmt: skip
        return drive, {"situation": "stand_spin", "speed": {"kind": "unknown"}}
    if protocol == "stand_driven":
        seed = int(dice.integers(2**31))
        drive = steady(rate=rate, seconds=8.0, turns_per_s=turns, drift=scene.trouble.drift, seed=seed)
        return drive, {"situation": "stand_driven", "speed": _stated(drive, circumference, dice)}
    segments = _segments(dice)
    drive = road_run(rate=rate, segments=segments, circumference_m=circumference, seed=int(dice.integers(2**31)))
    points = [[float(t), float(np.round(np.interp(t, drive.times, drive.rates) * circumference * 3.6))]
              for t in np.arange(0, drive.times[-1], 1.0)]  # fmt: skip
    return drive, {
        "situation": "road",
        "speed": {"kind": "profile", "points": points},
        "segments": segments_from_json(segments),
    }


def _stated(drive: Drive, circumference: float, dice: np.random.Generator) -> dict[str, Any]:
    """Return the speed as a garage has it: a rounded speedometer a few percent high, a count, or taps."""
    mean = float(drive.rates.mean())
    kind = str(dice.choice(("road", "wheel", "counted", "marks")))
    if kind == "road":
        return {"kind": "road", "kmh": float(np.round(mean * circumference * 3.6 * dice.uniform(0.98, 1.02)))}
    if kind == "wheel":
        return {"kind": "wheel", "turns_per_s": round(mean * float(dice.uniform(0.99, 1.01)), 2)}
    if kind == "counted":
        return {"kind": "counted", "turns": float(np.round(drive.rates.sum() / drive.rate))}
    turns = np.cumsum(drive.rates) / drive.rate
    times = np.interp(np.arange(int(turns[-1])), turns, drive.times) + dice.normal(0, 0.015, int(turns[-1]))
    return {"kind": "marks", "times_s": [float(t) for t in np.maximum.accumulate(times) + np.arange(len(times)) * 1e-6]}


def _segments(dice: np.random.Generator) -> list[dict[str, Any]]:
    fast, slow = float(dice.integers(70, 100)), float(dice.integers(40, 65))
    plan = (("straight", fast), ("left", slow), ("right", slow), ("left", slow), ("right", slow), ("straight", slow),
            ("coast", slow), ("brake", slow * 0.8))  # fmt: skip
    return [
        {"start_s": 3.0 * n, "end_s": 3.0 * (n + 1), "state": state, "speed_kmh": speed}
        for n, (state, speed) in enumerate(plan)
    ]
