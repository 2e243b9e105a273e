"""What makes the noise at one wheel, argued from physics: each source gives a sound at the hub, before any pickup.

A sound bearing hisses; a mark on a ring makes each passing ball ring the metal; the ball's load, and with it the
knock, follows the load zone (Harris, Rolling Bearing Analysis: Q(ψ) = Qmax (1 − (1 − cos ψ)/2ε)^n, n 1.5 for balls
and 10/9 for rollers, Qmax as the wheel's load); knocks grow with speed, from its first power (a ball drops into a pit
at its own speed) to its square (the push that turns it); balls slip by up to two percent. A brake scrapes at a fixed
angle; a cupped tyre pushes at whole orders; a dry bearing hisses once a turn; a loose one knocks near once a turn, now
and then missing.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy import signal

from hematite.bearings import Row, fault_orders
from hematite.vehicles import Hub

Floats = npt.NDArray[np.float64]
Source = Callable[["Wheel"], Floats]

DEFAULT_ROW = Row.from_mm(elements=11, element_diameter_mm=11.0, pitch_diameter_mm=56.0, contact_angle_deg=30.0)
BALLS, ROLLERS = 1.5, 10 / 9  # how a contact's load grows with its deflection (Harris)
LOAD_ZONE = 0.4  # ε, share of the ring that carries load; below 0.5 there is play
REFERENCE_TURNS_PER_S = 8.0  # some 60 km/h on a car's wheel
ROUGH_TYRE, ROUGH_TREAD = 0.8, 0.7  # a cupped tyre slaps harder on rough road, tread sings less; judgement
MODES_HZ = (2300.0, 3900.0, 6400.0)  # knuckle and hub ring about here; judgement


@dataclass(frozen=True)
class Wheel:
    """A turning wheel over time: seconds, turns so far, turns a second, share of its straight-on load; shape (n,).

    `torque` is 1 where the wheel is driven, 0 where it coasts or brakes; `steer` is +1 in a left-hand bend, −1 in a
    right-hand one; `braking` is 1 while the brake is on. `slip` is the spread of the balls' slip,
    `growth` the power of speed that knocks grow with, `rough`
    1 where the road is.
    """

    hub: Hub
    times: Floats
    turns: Floats
    rates: Floats
    load: Floats
    torque: Floats
    steer: Floats
    braking: Floats
    rate: int
    severity: float
    slip: float
    modes_hz: tuple[float, ...]
    dice: np.random.Generator
    growth: float = 2.0
    rough: Floats | float = 0.0

    @property
    def row(self) -> Row:
        """Return the row that the fault sits in."""
        return self.hub.rows[0] if self.hub.rows else DEFAULT_ROW

    @property
    def push(self) -> Floats:
        """Return the growth of forces with speed, 1 at the reference, and with the wheel's load, as a ball's own."""
        return np.asarray(np.power(self.rates / REFERENCE_TURNS_PER_S, self.growth) * self.load)


def noise(wheel: Wheel, low_hz: float, high_hz: float) -> Floats:
    """Return hiss of unit RMS between two frequencies."""
    high = min(high_hz, 0.45 * wheel.rate)
    sos = signal.butter(2, [low_hz, high], "bandpass", fs=wheel.rate, output="sos")
    hiss = signal.sosfilt(sos, wheel.dice.standard_normal(len(wheel.times)))
    return np.asarray(hiss / (hiss.std() + 1e-12))


def _ring(wheel: Wheel, knocks: Floats, modes_hz: tuple[float, ...], damping: float) -> Floats:
    """Let knocks ring the metal: a sum of damped modes, each a two-pole resonator."""
    total = np.zeros_like(knocks)
    for mode in modes_hz:
        w = 2 * np.pi * min(mode, 0.42 * wheel.rate) / wheel.rate
        r = np.exp(-damping * w)
        total += signal.lfilter([np.sin(w)], [1, -2 * r * np.cos(w), r * r], knocks)
    return total


def _load(wheel: Wheel, angle_turns: Floats) -> Floats:
    """Return the share of full load at an angle from the load's direction, in turns (Harris, ε = 0.4)."""
    inside = 1 - (1 - np.cos(2 * np.pi * angle_turns)) / (2 * LOAD_ZONE)
    exponent = ROLLERS if wheel.hub.design_key.startswith("taper") else BALLS
    return np.asarray(np.power(np.clip(inside, 0, None), exponent))


def _strikes(wheel: Wheel, order: float) -> tuple[npt.NDArray[np.int64], Floats]:
    """Return sample index and wheel angle (turns) of every strike of a fault order, with slip.

    The cage slips by a steady share and jitters around it; the jitter does not pile up, as the cage carries on.
    """
    slip = 1 - wheel.slip * wheel.dice.uniform(0, 1)
    number = np.arange(int(wheel.turns[-1] * order) + 2)
    wander = np.cumsum(wheel.dice.normal(0.0, 0.15 * wheel.slip, len(number)))
    jitter = wheel.dice.normal(0.0, wheel.slip, len(number))
    angles = (wheel.dice.uniform() + number + wander + jitter) / (order * slip)
    angles = np.sort(angles[(angles >= 0) & (angles < wheel.turns[-1])])
    return np.minimum(np.searchsorted(wheel.turns, angles), len(wheel.times) - 1), angles


def _knocking(wheel: Wheel, order: float, loads: Callable[[Floats], Floats], loudness: float) -> Floats:
    index, angles = _strikes(wheel, order)
    knocks = np.zeros_like(wheel.times)
    spread = wheel.dice.lognormal(0.0, 0.25, len(index))
    np.add.at(knocks, index, loads(angles) * spread * wheel.push[index])
    return loudness * wheel.severity * _ring(wheel, knocks, wheel.modes_hz, damping=0.04)


def rolling(wheel: Wheel) -> Floats:
    """Rolling hiss, a low rumble and the wheel's slight unbalance: what every corner has."""
    hiss = 0.004 * noise(wheel, 300, 9000) + 0.006 * noise(wheel, 30, 300)
    unbalance = 0.003 * np.sin(2 * np.pi * wheel.turns)
    return wheel.rates / REFERENCE_TURNS_PER_S * hiss + wheel.push * unbalance


def _nothing(wheel: Wheel) -> Floats:
    return np.zeros_like(wheel.times)


def _ring_fault(kind: str) -> Source:
    """A mark on a ring: on the turning ring it passes the load zone once a turn, on the fixed one it sits in it."""

    def make(wheel: Wheel) -> Floats:
        orders = fault_orders(wheel.row, rotating=wheel.hub.rotating)
        turns_with_wheel = wheel.hub.rotating == kind
        loads = (lambda a: 0.15 + _load(wheel, a)) if turns_with_wheel else (lambda a: np.full_like(a, 0.7))
        return _knocking(wheel, orders.bpfi if kind == "inner" else orders.bpfo, loads, 0.07)

    return make


def _rolling_element(wheel: Wheel) -> Floats:
    """A flat ball strikes both races in each spin, loudest while the cage carries it through the load zone."""
    orders = fault_orders(wheel.row, rotating=wheel.hub.rotating)
    return _knocking(wheel, orders.rolling, lambda a: 0.15 + _load(wheel, a * orders.ftf), 0.09)


def _cage(wheel: Wheel) -> Floats:
    """A cracked cage clatters once a cage turn, dully, each time a little different."""
    orders = fault_orders(wheel.row, rotating=wheel.hub.rotating)
    index, _ = _strikes(wheel, orders.ftf)
    knocks = np.zeros_like(wheel.times)
    knocks[index] = wheel.dice.lognormal(0.0, 0.3, len(index)) * wheel.push[index]
    return 0.16 * wheel.severity * _ring(wheel, knocks, wheel.modes_hz[:2], damping=0.05)


def _worn_all_round(wheel: Wheel) -> Floats:
    """Waviness and fine pitting on both rings: a growl that swells with every ball, without sharp knocks."""
    orders = fault_orders(wheel.row, rotating=wheel.hub.rotating)
    dice, swell = wheel.dice, np.ones_like(wheel.times)
    for order, depth in ((orders.bpfo, 0.5), (orders.bpfi, 0.4), (orders.ftf, 0.2), (1.0, 0.25)):
        wander = wheel.slip * 0.05 * np.cumsum(dice.standard_normal(len(swell))) / np.sqrt(wheel.rate)
        for k in (1, 2):
            swell += depth / k * np.cos(2 * np.pi * (k * order * wheel.turns + wander) + dice.uniform(0, 6.28))
    growl = noise(wheel, 150, 1200) + 0.6 * noise(wheel, 900, 5000)
    return 0.02 * wheel.severity * wheel.push**0.75 * np.clip(swell, 0, None) * growl


def _loose(wheel: Wheel) -> Floats:
    """A loose hub rattles: dull knocks near once a turn, some missing, each at its own strength."""
    number = np.arange(1, int(wheel.turns[-1]) + 1)
    angles = np.clip(number + wheel.dice.normal(0, 0.03, len(number)), 0, wheel.turns[-1] - 1e-6)
    index = np.searchsorted(wheel.turns, angles)
    index = index[wheel.dice.uniform(size=len(index)) > 0.35]
    knocks = np.zeros_like(wheel.times)
    knocks[index] = wheel.dice.lognormal(0.0, 0.6, len(index))
    return 0.03 * wheel.severity * _ring(wheel, knocks, (420.0, 900.0), damping=0.06)


def _dry(wheel: Wheel) -> Floats:
    """Metal on metal without a film: broad hiss that swells and fades as the load zone passes."""
    swell = 1 + 0.6 * np.sin(2 * np.pi * wheel.turns)
    return 0.02 * wheel.severity * wheel.push**0.5 * swell * noise(wheel, 1200, 11000)


def _brake(wheel: Wheel) -> Floats:
    """A high spot drags through the pads at one angle of every turn, harder with the brake on."""
    touch = np.exp(-np.square((wheel.turns % 1.0 - 0.5) / 0.05))
    pressed = 1 + 2 * wheel.braking
    return 0.04 * wheel.severity * touch * pressed * noise(wheel, 1500, 6000) * np.clip(wheel.rates, 0, 4) / 4


def _cupped_tyre(wheel: Wheel) -> Floats:
    """Cups around the tread push at whole orders, loudest at their number a turn."""
    cups = 7
    weights = {cups: 1.0, cups - 1: 0.45, cups + 1: 0.45, 2 * cups: 0.4, 1: 0.3, 2: 0.25, 3: 0.2}
    hum = np.sum([w * np.sin(2 * np.pi * k * wheel.turns + k) for k, w in weights.items()], axis=0)
    pushed = np.square(wheel.rates / REFERENCE_TURNS_PER_S)
    struck = 1 + ROUGH_TYRE * wheel.rough
    return np.asarray(0.02 * wheel.severity * pushed * struck * hum * (1 + 0.3 * noise(wheel, 60, 900)))


def _tread(wheel: Wheel) -> Floats:
    """Tread blocks sing at their number a turn, with side lines of the pitch sequence."""
    blocks = int(wheel.dice.integers(55, 75))
    song = np.zeros_like(wheel.times)
    for k, weight in ((blocks, 1.0), (blocks - 1, 0.35), (blocks + 1, 0.35), (blocks - 2, 0.2), (2 * blocks, 0.3)):
        song += weight * np.sin(2 * np.pi * k * wheel.turns + wheel.dice.uniform(0, 6.28))
    sung = 1 - ROUGH_TREAD * wheel.rough
    return np.asarray(0.02 * wheel.severity * sung * np.square(wheel.rates / REFERENCE_TURNS_PER_S) * song)


def _drive_joint(wheel: Wheel) -> Floats:
    """A worn drive joint clicks as its balls climb, in one bend and under power only: six a turn, one the loudest."""
    bend = 1.0 if wheel.hub.side == "left" else -1.0  # the outer end clicks when its own side is inside the bend
    number = np.arange(int(6 * wheel.turns[-1]))
    index = np.searchsorted(wheel.turns, number / 6 + wheel.dice.normal(0, 0.002, len(number)))
    index = np.minimum(index, len(wheel.times) - 1)
    knocks = np.zeros_like(wheel.times)
    strength = np.where(number % 6 == 0, 1.0, 0.35)
    knocks[index] = strength * wheel.torque[index] * (wheel.steer[index] == bend)
    return 0.25 * wheel.severity * _ring(wheel, knocks, (900.0, 1900.0), damping=0.05)


CONDITIONS: dict[str, Source] = {
    "sound": _nothing,
    "outer_race": _ring_fault("outer"),
    "inner_race": _ring_fault("inner"),
    "rolling_element": _rolling_element,
    "cage": _cage,
    "distributed_wear": _worn_all_round,
    "loose": _loose,
    "dry": _dry,
    "brake": _brake,
    "tyre": _cupped_tyre,
    "tread": _tread,
}
ROAD_CONDITIONS: dict[str, Source] = CONDITIONS | {"drive_joint": _drive_joint}  # some are silent on the stand
