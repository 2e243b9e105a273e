"""From what is known about speed to wheel turns, counted from the start of a recording."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np
import numpy.typing as npt
from scipy import integrate, interpolate

from hematite.doors import few, limits, within
from hematite.errors import BadSpeed
from hematite.language import say
from hematite.speed.taps import numbered_taps, without_pauses
from hematite.tyres import wheel_turns_per_second

Floats = npt.NDArray[np.float64]

KINDS = ("road", "wheel", "profile", "marks", "counted", "unknown")
# Relative uncertainty of each kind: a speedometer rounds and a tyre size is a percent off; judgement.
SPREAD = {"road": 0.04, "wheel": 0.01, "profile": 0.04, "marks": 0.01, "counted": 0.02}
LEAST_TAPS, LEAST_TAPS_SMOOTHED = 3, 8
OUTSIDE_S = 0.5  # a hand may tap that much before the start or after the end; judgement
SLOWEST_TURNS_PER_S = 0.3  # judgement: slower than this a rolling fault gives no usable rhythm


@dataclass(frozen=True)
class WheelTurns:
    """Wheel angle over time: `turns` (in turns) at `times_s`, both shape (n,), and the relative `spread`."""

    times_s: Floats
    turns: Floats
    spread: float

    def at(self, times_s: Floats) -> Floats:
        """Return turns at given times, on a straight line between the known points."""
        return np.interp(times_s, self.times_s, self.turns)

    def rate_at(self, times_s: Floats) -> Floats:
        """Return turns a second at given times, from the turns half a second around each."""
        early = np.clip(times_s - 0.25, self.times_s[0], self.times_s[-1])
        late = np.clip(times_s + 0.25, self.times_s[0], self.times_s[-1])
        return np.asarray((self.at(late) - self.at(early)) / np.maximum(late - early, 1e-3))

    @property
    def speed_ratio(self) -> float:
        """Return the fastest over the slowest speed, a moment's standstill left out."""
        rates = self.rate_at(np.linspace(self.times_s[0], self.times_s[-1], 200))
        return float(rates.max() / max(float(np.percentile(rates, 5)), 0.1))

    def scaled(self, factor: float) -> "WheelTurns":
        """Return the same course at `factor` times the speed."""
        return WheelTurns(self.times_s, self.turns * factor, self.spread)

    @property
    def fastest_rate(self) -> float:
        """Return the greatest turns a second over any half second, never less than the mean."""
        times = np.linspace(self.times_s[0], self.times_s[-1], 200)
        return max(float(self.rate_at(times).max()), self.mean_rate)

    @property
    def mean_rate(self) -> float:
        """Return mean turns a second."""
        return self.count / float(self.times_s[-1] - self.times_s[0])

    @property
    def count(self) -> float:
        """Return how many turns there are in all."""
        return float(self.turns[-1] - self.turns[0])


def wheel_turns(speed: Mapping[str, Any], *, duration_s: float, circumference_m: float | None) -> WheelTurns | None:
    """Return the wheel's angle over a recording, or None when the speed is unknown.

    `speed` has the shape of the case format. Raises `BadSpeed` when it cannot be used.
    """
    kind = speed.get("kind", "unknown")
    if kind not in KINDS:
        raise BadSpeed(
            say("“{kind}” is no way of giving a speed. Use one of: {kinds}.", kind=kind, kinds=", ".join(KINDS))
        )
    if kind == "unknown":
        return None
    turns = _READERS[kind](speed, duration_s, circumference_m)
    if turns.fastest_rate > limits("wheel_turns_per_s")[1]:
        raise BadSpeed(
            say(
                "{fastest_rate:.0f} turns a second is more than a wheel can turn. Check speed and tyre.",
                fastest_rate=turns.fastest_rate,
            )
        )
    if turns.mean_rate < SLOWEST_TURNS_PER_S:
        raise BadSpeed(
            say("The wheel hardly turned: {mean_rate:.2f} turns a second. Spin it faster.", mean_rate=turns.mean_rate)
        )
    return turns


def _steady(turns_per_s: float, duration_s: float, spread: float) -> WheelTurns:
    ends = np.array([0.0, duration_s])
    return WheelTurns(times_s=ends, turns=ends * turns_per_s, spread=spread)


def _size(circumference_m: float | None) -> float:
    if not circumference_m:
        raise BadSpeed(say("A road speed needs a tyre size that can be read. Enter it, or give wheel turns a second."))
    return within(circumference_m, "circumference_m")


def _road(speed: Mapping[str, Any], duration_s: float, circumference_m: float | None) -> WheelTurns:
    kmh = within(speed.get("kmh"), "speed_kmh")
    rate = wheel_turns_per_second(speed_kmh=kmh, rolling_circumference=_size(circumference_m))
    return _steady(rate, duration_s, SPREAD["road"])


def _wheel(speed: Mapping[str, Any], duration_s: float, _: float | None) -> WheelTurns:
    return _steady(within(speed.get("turns_per_s"), "wheel_turns_per_s"), duration_s, SPREAD["wheel"])


def _counted(speed: Mapping[str, Any], duration_s: float, _: float | None) -> WheelTurns:
    return _steady(within(speed.get("turns"), "turns_counted") / duration_s, duration_s, SPREAD["counted"])


def _profile(speed: Mapping[str, Any], duration_s: float, circumference_m: float | None) -> WheelTurns:
    points = [_point(row) for row in few(speed.get("points", []), "points", say("The speed profile"))]
    if len(points) < 2 or any(late[0] <= early[0] for early, late in pairwise(points)):
        raise BadSpeed(say("A speed profile needs at least two points in order of time."))
    if points[-1][0] < 0 or points[0][0] > duration_s:
        raise BadSpeed(say("The speed profile lies outside the recording. Check its clock."))
    times, speeds = np.array(points).T
    grid = np.linspace(0.0, duration_s, max(int(duration_s * 50), 2))
    rates = np.clip(np.interp(grid, times, speeds), 0, None) / 3.6 / _size(circumference_m)
    turns = integrate.cumulative_trapezoid(rates, grid, initial=0)
    return WheelTurns(times_s=grid, turns=turns, spread=SPREAD["profile"])


def _point(row: object) -> tuple[float, float]:
    if not isinstance(row, list | tuple) or len(row) != 2:
        raise BadSpeed(say("A point of a speed profile is a time and a speed."))
    return within(row[0], "time_s"), 0.0 if row[1] == 0 else within(row[1], "speed_kmh")


def _marks(speed: Mapping[str, Any], duration_s: float, _: float | None) -> WheelTurns:
    taps = few(speed.get("times_s", []), "points", say("The wheel marks"))
    times = np.array([within(t, "time_s") for t in taps])
    if len(times) and (times[0] < -OUTSIDE_S or times[-1] > duration_s + OUTSIDE_S):
        raise BadSpeed(say("The wheel marks lie outside the recording. Tap them again."))
    rising = bool((np.diff(times) > 0).all())
    times = without_pauses(times) if rising else times
    if len(times) < LEAST_TAPS or not rising:
        raise BadSpeed(say("Wheel marks need at least three taps, one a turn, in order of time."))
    kept, turns = numbered_taps(times)
    return WheelTurns(times_s=_untrembled(times[kept], turns), turns=turns, spread=SPREAD["marks"])


def _untrembled(times: Floats, number: Floats) -> Floats:
    """Return tap times with the hand's trembling smoothed out: a wheel is too heavy to tremble with it.

    A smoothing spline over the turns, as stiff as generalised cross-validation has it (Craven & Wahba 1979, through
    scipy); exact marks pass unchanged. A hand is some 20 ms off, common practice.
    """
    if len(times) < LEAST_TAPS_SMOOTHED:
        return times
    smooth = interpolate.make_smoothing_spline(number, times)(number)
    return np.asarray(smooth if (np.diff(smooth) > 0).all() else times)


_READERS: dict[str, Callable[[Mapping[str, Any], float, float | None], WheelTurns]] = {
    "road": _road,
    "wheel": _wheel,
    "counted": _counted,
    "profile": _profile,
    "marks": _marks,
}
