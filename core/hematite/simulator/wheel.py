"""The sound of one wheel, argued from physics, from a seed.

A sound bearing hisses; a mark on a ring makes each passing ball ring the metal; the ball's load, and with it the
knock, follows the load zone (Harris, Rolling Bearing Analysis: Q(ψ) = Qmax (1 − (1 − cos ψ)/2ε)^1.5); knocks grow
with the square of speed; balls slip by up to one percent. A brake scrapes at a fixed angle; a cupped tyre pushes at
whole orders; a dry bearing hisses once a turn; a loose one knocks near once a turn, now and then missing.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy import signal

from hematite.bearings import Row, fault_orders
from hematite.doors import one_of, positive
from hematite.recordings.decoding import Recording
from hematite.vehicles import Hub

Floats = npt.NDArray[np.float64]
Maker = Callable[["_Wheel"], Floats]

DEFAULT_ROW = Row.from_mm(elements=11, element_diameter_mm=11.0, pitch_diameter_mm=56.0, contact_angle_deg=30.0)
SLIP_SHARE = 0.01
LOAD_ZONE = 0.4  # ε, share of the ring that carries load; below 0.5 there is play
REFERENCE_TURNS_PER_S = 8.0  # some 60 km/h on a car's wheel
LEAK_DB = -16.0  # what one corner's noise loses on its way to the next; judgement


@dataclass(frozen=True)
class Pickup:
    """How the sound is taken: rate in Hz, gain as a factor, hiss of the pickup itself as RMS of full scale."""

    rate: int = 48_000
    gain: float = 1.0
    hiss: float = 0.0008


@dataclass(frozen=True)
class _Wheel:
    """A moment of a turning wheel: seconds, turns so far, turns a second, all of shape (n,)."""

    hub: Hub
    times: Floats
    turns: Floats
    rates: Floats
    rate: int
    severity: float
    dice: np.random.Generator

    @property
    def row(self) -> Row:
        return self.hub.rows[0] if self.hub.rows else DEFAULT_ROW

    @property
    def push(self) -> Floats:
        """Return the growth of forces with speed, 1 at the reference."""
        return np.square(self.rates / REFERENCE_TURNS_PER_S)


def simulate(
    hub: Hub,
    *,
    condition: str,
    turns_per_s: float,
    duration_s: float,
    seed: int,
    severity: float = 1.0,
    coast: bool = False,
    pickup: Pickup | None = None,
) -> Recording:
    """Return the sound at a hub in a hidden `condition` (a key of `CONDITIONS`).

    With `coast` the wheel starts at `turns_per_s` and slows to rest. Raises `UnknownName` or `BadQuantity`.
    """
    one_of(condition, CONDITIONS, "hidden condition")
    pickup = pickup or Pickup()
    start = positive(turns_per_s, "Wheel turns a second")
    times = np.arange(int(positive(duration_s, "The length of the recording") * pickup.rate)) / pickup.rate
    rates = start * (1 - times / times[-1]) if coast else np.full_like(times, start)
    wheel = _Wheel(
        hub=hub,
        times=times,
        turns=np.cumsum(rates) / pickup.rate,
        rates=rates,
        rate=pickup.rate,
        severity=severity,
        dice=np.random.default_rng(seed),
    )
    sound = _sound_bearing(wheel) + CONDITIONS[condition](wheel)
    sound = pickup.gain * sound + pickup.hiss * wheel.dice.standard_normal(len(sound))
    return Recording(samples=np.clip(sound, -1, 1).astype(np.float32), rate=pickup.rate)


def simulate_corners(
    hubs: Mapping[str, tuple[Hub, str]],
    *,
    turns_per_s: float,
    duration_s: float,
    seed: int,
    severity: float = 1.0,
    pickup: Pickup | None = None,
) -> dict[str, Recording]:
    """Return one recording per hub id, for hubs given with their conditions; each leaks faintly into the others."""
    pickup = pickup or Pickup()
    own = {
        hub_id: simulate(
            hub, condition=condition, turns_per_s=turns_per_s, duration_s=duration_s, seed=seed + index,
            severity=severity, pickup=pickup,
        )
        for index, (hub_id, (hub, condition)) in enumerate(sorted(hubs.items()))
    }  # fmt: skip
    leak = 10 ** (LEAK_DB / 20)
    total = np.sum([recording.samples for recording in own.values()], axis=0)
    return {
        hub_id: Recording(np.clip((1 - leak) * recording.samples + leak * total, -1, 1).astype(np.float32), pickup.rate)
        for hub_id, recording in own.items()
    }


def _noise(wheel: _Wheel, low_hz: float, high_hz: float) -> Floats:
    """Return hiss of unit RMS between two frequencies."""
    high = min(high_hz, 0.45 * wheel.rate)
    sos = signal.butter(2, [low_hz, high], "bandpass", fs=wheel.rate, output="sos")
    hiss = signal.sosfilt(sos, wheel.dice.standard_normal(len(wheel.times)))
    return np.asarray(hiss / (hiss.std() + 1e-12))


def _ring(wheel: _Wheel, knocks: Floats, modes_hz: tuple[float, ...], damping: float) -> Floats:
    """Let knocks ring the metal: a sum of damped modes, each a two-pole resonator."""
    total = np.zeros_like(knocks)
    for mode in modes_hz:
        w = 2 * np.pi * min(mode, 0.42 * wheel.rate) / wheel.rate
        r = np.exp(-damping * w)
        total += signal.lfilter([np.sin(w)], [1, -2 * r * np.cos(w), r * r], knocks)
    return total


def _modes(wheel: _Wheel) -> tuple[float, ...]:
    """Return three modes of knuckle and hub, a little different from corner to corner."""
    return tuple(mode * wheel.dice.uniform(0.92, 1.08) for mode in (2300.0, 3900.0, 6400.0))


def _load(angle_turns: Floats) -> Floats:
    """Return the share of full load at an angle from the load's direction, in turns (Harris, ε = 0.4)."""
    inside = 1 - (1 - np.cos(2 * np.pi * angle_turns)) / (2 * LOAD_ZONE)
    return np.power(np.clip(inside, 0, None), 1.5)


def _strikes(wheel: _Wheel, order: float) -> tuple[npt.NDArray[np.int64], Floats]:
    """Return sample index and wheel angle (turns) of every strike of a fault order, with slip."""
    slip = 1 - SLIP_SHARE * wheel.dice.uniform(0, 1)
    gaps = wheel.dice.normal(1.0, SLIP_SHARE, int(wheel.turns[-1] * order * 1.1) + 8)
    angles = wheel.dice.uniform(0, 1 / order) + np.cumsum(gaps) / (order * slip)
    angles = angles[angles < wheel.turns[-1]]
    return np.searchsorted(wheel.turns, angles), angles


def _knocking(wheel: _Wheel, order: float, loads: Callable[[Floats], Floats], loudness: float) -> Floats:
    index, angles = _strikes(wheel, order)
    knocks = np.zeros_like(wheel.times)
    spread = wheel.dice.lognormal(0.0, 0.25, len(index))
    np.add.at(knocks, index, loads(angles) * spread * wheel.push[index])
    return loudness * wheel.severity * _ring(wheel, knocks, _modes(wheel), damping=0.04)


def _sound_bearing(wheel: _Wheel) -> Floats:
    """Rolling hiss, a low rumble and the wheel's slight unbalance: what every corner has."""
    hiss = 0.004 * _noise(wheel, 300, 9000) + 0.006 * _noise(wheel, 30, 300)
    unbalance = 0.003 * np.sin(2 * np.pi * wheel.turns)
    return wheel.rates / REFERENCE_TURNS_PER_S * hiss + wheel.push * unbalance


def _nothing(wheel: _Wheel) -> Floats:
    return np.zeros_like(wheel.times)


def _ring_fault(kind: str) -> Maker:
    """A mark on a ring: on the turning ring it passes the load zone once a turn, on the fixed one it sits in it."""

    def make(wheel: _Wheel) -> Floats:
        orders = fault_orders(wheel.row, rotating=wheel.hub.rotating)
        turns_with_wheel = wheel.hub.rotating == kind
        loads = (lambda a: 0.15 + _load(a)) if turns_with_wheel else (lambda a: np.full_like(a, 0.7))
        return _knocking(wheel, orders.bpfi if kind == "inner" else orders.bpfo, loads, 0.07)

    return make


def _rolling_element(wheel: _Wheel) -> Floats:
    """A flat ball strikes both races in each spin, loudest while the cage carries it through the load zone."""
    orders = fault_orders(wheel.row, rotating=wheel.hub.rotating)
    return _knocking(wheel, orders.rolling, lambda a: 0.15 + _load(a * orders.ftf), 0.09)


def _loose(wheel: _Wheel) -> Floats:
    """A loose hub rattles: dull knocks near once a turn, some missing, each at its own strength."""
    index, _ = _strikes(wheel, 1.0)
    knocks = np.zeros_like(wheel.times)
    index = index[wheel.dice.uniform(size=len(index)) > 0.35]
    knocks[index] = wheel.dice.lognormal(0.0, 0.6, len(index))
    return 0.03 * wheel.severity * _ring(wheel, knocks, (420.0, 900.0), damping=0.06)


def _dry(wheel: _Wheel) -> Floats:
    """Metal on metal without a film: broad hiss that swells and fades as the load zone passes."""
    swell = 1 + 0.6 * np.sin(2 * np.pi * wheel.turns)
    return 0.02 * wheel.severity * wheel.push**0.5 * swell * _noise(wheel, 1200, 11000)


def _brake(wheel: _Wheel) -> Floats:
    """A high spot drags through the pads at one angle of every turn."""
    phase = wheel.turns % 1.0
    touch = np.exp(-np.square((phase - 0.5) / 0.05))
    return 0.04 * wheel.severity * touch * _noise(wheel, 1500, 6000)


def _cupped_tyre(wheel: _Wheel) -> Floats:
    """Cups around the tread push at whole orders, loudest at their number a turn."""
    cups = 7
    weights = {cups: 1.0, cups - 1: 0.45, cups + 1: 0.45, 2 * cups: 0.4, 1: 0.3, 2: 0.25, 3: 0.2}
    hum = np.sum([w * np.sin(2 * np.pi * k * wheel.turns + k) for k, w in weights.items()], axis=0)
    return np.asarray(0.02 * wheel.severity * wheel.push * hum * (1 + 0.3 * _noise(wheel, 60, 900)))


CONDITIONS: dict[str, Maker] = {
    "sound": _nothing,
    "outer_race": _ring_fault("outer"),
    "inner_race": _ring_fault("inner"),
    "rolling_element": _rolling_element,
    "loose": _loose,
    "dry": _dry,
    "brake": _brake,
    "tyre": _cupped_tyre,
}
