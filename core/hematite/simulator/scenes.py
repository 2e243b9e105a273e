"""Whole vehicles under way or on stands: every wheel, what leaks from one to the next, engine, road, wind and hum.

A scene is one vehicle with what is hidden in it; `record` takes one recording of it at a place. All chance comes from
the scene's seed and the recording's number.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt
from scipy import signal

from hematite.recordings.decoding import Recording
from hematite.simulator.sources import MODES_HZ, ROAD_CONDITIONS, Wheel, rolling
from hematite.vehicles import Hub, Vehicle

Floats = npt.NDArray[np.float64]

OUTER_LOAD, INNER_LOAD = 1.7, 0.4  # of the straight-on load, in a brisk bend; judgement
ROUGH_ROAR = 1.5  # how much louder the road roars on a rough surface, less one; judgement
EASY_M_S2, COARSE_HZ = 1.5, 200  # how a driver changes speed on a test drive, judgement; and how finely it is reckoned
FIRST_ENGINE_ORDERS = (1.0, 2.0, 4.0, 6.0)


@dataclass(frozen=True)
class Trouble:
    """How hard a scene is made. Levels in dB; shares relative; `knocks` a second; hum and engine as amplitudes."""

    severity: float = 1.0
    leak_db: float = -16.0
    slip: float = 0.01
    growth: float = 2.0
    drift: float = 0.01
    hiss: float = 0.001
    gusts: float = 0.0
    knocks: float = 0.0
    hum: float = 0.0
    engine: float = 0.0


@dataclass(frozen=True)
class Scene:
    """A vehicle, its hidden conditions (hub id → condition), what else is wrong ('engine'), and the trouble."""

    vehicle: Vehicle
    hidden: Mapping[str, str]
    trouble: Trouble
    seed: int
    elsewhere: frozenset[str] = field(default_factory=frozenset)


@dataclass(frozen=True)
class Drive:
    """How the wheels turn: turns a second and driver's states over time, shape (n,), at `rate` samples a second."""

    rate: int
    rates: Floats
    steer: Floats
    torque: Floats
    braking: Floats
    rough: Floats | float = 0.0

    @property
    def times(self) -> Floats:
        """Return seconds from the start."""
        return np.arange(len(self.rates)) / self.rate


def steady(*, rate: int, seconds: float, turns_per_s: float, drift: float, seed: int) -> Drive:
    """Return a run at one speed that wanders by `drift`."""
    times = np.arange(int(rate * seconds)) / rate
    phase = np.random.default_rng(seed).uniform(0, 6.28)
    rates = turns_per_s * (1 + drift * np.sin(2 * np.pi * times / (0.7 * seconds) + phase))
    return Drive(rate, rates, np.zeros_like(times), np.ones_like(times), np.zeros_like(times))


def coast_down(*, rate: int, seconds: float, turns_per_s: float, stops_after_s: float, bend: float) -> Drive:
    """Return a hand-spun wheel that slows to rest as ω₀(1 − t/T)^bend: 1 for dry drag, 2 for drag by air."""
    times = np.arange(int(rate * seconds)) / rate
    rates = turns_per_s * np.power(np.clip(1 - times / stops_after_s, 0, None), bend)
    zeros = np.zeros_like(times)
    return Drive(rate, rates, zeros, zeros, zeros)


def road_run(*, rate: int, segments: Sequence[Mapping[str, Any]], circumference_m: float, seed: int) -> Drive:
    """Return a run through segments of the case format, each in its own state, and at its speed once reached."""
    end = max(float(s["end_s"]) for s in segments)
    times = np.arange(int(rate * end)) / rate
    wanted = np.zeros_like(times)
    steer, torque, braking, rough = (np.full_like(times, value) for value in (0.0, 1.0, 0.0, 0.0))
    for s in segments:
        inside = (times >= s["start_s"]) & (times < s["end_s"])
        wanted[inside] = s["speed_kmh"] / 3.6 / circumference_m
        steer[inside] = {"left": 1.0, "right": -1.0}.get(s["state"], 0.0)
        torque[inside] = s["state"] not in ("coast", "brake")
        braking[inside] = s["state"] == "brake"
        rough[inside] = s.get("surface") == "rough"
    rates = np.interp(times, times[:: rate // COARSE_HZ], _reached(wanted[:: rate // COARSE_HZ], circumference_m))
    wander = 1 + 0.004 * np.sin(2 * np.pi * times / 3.1 + np.random.default_rng(seed).uniform(0, 6.28))
    return Drive(rate, np.clip(rates, 0, None) * wander, steer, torque, braking, rough)


def _reached(wanted: Floats, circumference_m: float) -> Floats:
    """Return what a driver makes of wanted turns a second, shape (n,) at `COARSE_HZ`: no wheel changes in a moment."""
    most, reached = EASY_M_S2 / circumference_m / COARSE_HZ, wanted.copy()
    for n in range(1, len(wanted)):
        reached[n] = reached[n - 1] + np.clip(wanted[n] - reached[n - 1], -most, most)
    return reached


def record(scene: Scene, drive: Drive, *, place: str, number: int, alone: bool = False) -> Recording:
    """Return what a pickup at a hub, or in the cabin, hears. `alone`: only that wheel turns, as when spun by hand."""
    dice = np.random.default_rng([scene.seed, number])
    total = np.zeros(len(drive.rates))
    for hub in scene.vehicle.hubs():
        if alone and hub.id != place:
            continue
        gain = 1.0 if hub.id == place else 10 ** ((scene.trouble.leak_db + _own(scene, hub, place)) / 20)
        condition = scene.hidden.get(hub.id, "sound")
        if gain == 1.0 or condition != "sound":
            total += gain * _wheel_sound(scene, drive, hub, condition, dice)
    total += _elsewhere(scene, drive, place, dice)
    total += scene.trouble.hiss * dice.standard_normal(len(total))
    samples = np.clip(total, -1, 1).astype(np.float32)
    return Recording(samples=samples, rate=drive.rate)


def _own(scene: Scene, hub: Hub, place: str) -> float:
    """Return how much further or nearer this hub is to the place, in dB, the same in every recording."""
    names = [known.id for known in scene.vehicle.hubs()]
    return float(np.random.default_rng([scene.seed, 7, names.index(hub.id), len(place)]).uniform(-3, 3))


def _wheel_sound(scene: Scene, drive: Drive, hub: Hub, condition: str, dice: np.random.Generator) -> Floats:
    names = [known.id for known in scene.vehicle.hubs()]
    metal = np.random.default_rng([scene.seed, 1, names.index(hub.id)])  # a hub rings alike in every recording
    outside = {"left": -1.0, "right": 1.0}.get(hub.side, 0.0)  # a left bend loads the right side
    side = outside * drive.steer
    load = np.where(side > 0, OUTER_LOAD, np.where(side < 0, INNER_LOAD, 1.0))
    wheel = Wheel(
        hub=hub, times=drive.times, turns=np.cumsum(drive.rates) / drive.rate, rates=drive.rates, load=load,
        torque=drive.torque, steer=drive.steer, braking=drive.braking, rate=drive.rate, dice=dice,
        severity=scene.trouble.severity, slip=scene.trouble.slip, growth=scene.trouble.growth, rough=drive.rough,
        modes_hz=tuple(mode * metal.uniform(0.7, 1.3) for mode in MODES_HZ),
    )  # fmt: skip
    return rolling(wheel) * metal.uniform(0.8, 1.25) + ROAD_CONDITIONS[condition](wheel)


def _elsewhere(scene: Scene, drive: Drive, place: str, dice: np.random.Generator) -> Floats:
    """Return engine, hum, gusts, stray knocks and, in the cabin, the road."""
    trouble, times = scene.trouble, drive.times
    total = np.zeros(len(times))
    if trouble.engine or "engine" in scene.elsewhere:
        total += _engine(scene, drive, dice)
    if trouble.hum:
        total += trouble.hum * (np.sin(2 * np.pi * 50 * times) + 0.5 * np.sin(2 * np.pi * 150 * times))
    if trouble.gusts:
        total += trouble.gusts * _gusts(drive, dice)
    for _ in range(dice.poisson(trouble.knocks * times[-1])):
        at = int(dice.integers(0, max(len(times) - 400, 1)))
        ring = np.exp(-np.arange(400) / 60) * np.sin(2 * np.pi * dice.uniform(800, 6000) * np.arange(400) / drive.rate)
        total[at : at + 400] += dice.uniform(0.1, 0.6) * ring[: len(total) - at]
    if place == "cabin":
        roar = 0.012 * (1 + ROUGH_ROAR * drive.rough) * np.square(drive.rates / 8)
        total += roar * _coloured(drive, dice, 40, 600)
    return total


def _coloured(drive: Drive, dice: np.random.Generator, low_hz: float, high_hz: float) -> Floats:
    sos = signal.butter(2, [low_hz, min(high_hz, 0.45 * drive.rate)], "bandpass", fs=drive.rate, output="sos")
    return np.asarray(signal.sosfilt(sos, dice.standard_normal(len(drive.rates))))


def _gusts(drive: Drive, dice: np.random.Generator) -> Floats:
    swell = np.clip(signal.sosfilt(signal.butter(2, 0.7, fs=drive.rate, output="sos"), dice.standard_normal(
        len(drive.rates))) * np.sqrt(drive.rate), 0, None)  # fmt: skip
    return np.asarray(swell / (swell.max() + 1e-12) * _coloured(drive, dice, 15, 300) * 4)


def _engine(scene: Scene, drive: Drive, dice: np.random.Generator) -> Floats:
    """Return engine tones: geared to the wheels under power, idling while coasting; loud when it is the culprit."""
    gearing = np.random.default_rng([scene.seed, 3]).uniform(3.1, 5.7)
    idle = 14.0
    revs = np.where(drive.torque > 0, np.maximum(drive.rates * gearing, idle), idle)
    revs = np.convolve(revs[:: drive.rate // 100], np.ones(60) / 60, mode="same")
    revs = np.interp(drive.times, np.arange(len(revs)) * (drive.rate // 100) / drive.rate, revs)
    turns = np.cumsum(revs) / drive.rate
    loud = 0.06 if "engine" in scene.elsewhere else scene.trouble.engine
    tones = np.zeros(len(turns))
    for k in FIRST_ENGINE_ORDERS:
        tones += np.sin(2 * np.pi * k * turns + dice.uniform(0, 6.28)) / k**0.5
    return np.asarray(loud * (0.25 + 0.75 * drive.torque) * revs / 40 * tones)
