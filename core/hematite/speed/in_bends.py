"""Wheels in bends: the outer one turns faster than the vehicle's middle, the inner one slower.

By half the track over the radius: with the speed v and the acceleration a across, by a·track/2v². An engine, gears and
a speedometer know the middle only; a course that was followed may be any wheel's.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy import integrate, ndimage, special, stats

from hematite.speed.stated import WheelTurns

Floats = npt.NDArray[np.float64]

ACROSS, HALF_TRACK_M = 1.8, 0.72  # m/s² in a bend as a driver takes it, and half of a usual track; judgement
MOST = 0.1  # a full lock at a walk
ENTERED_S = 0.35  # how gradually a bend begins and ends; judgement
A_SECOND = 50
SIDES = {"left": 1, "middle": 0, "right": -1}  # shifts, in right-hand bends
FOLLOWED = np.log([0.25, 0.5, 0.25])  # how likely a course that was followed is of each of them; judgement
# How much faster a driver takes bends to one side than to the other, in the logarithm of speed, beside what a log of
# the speed shows, and where there is none; judgement.
LOGGED, NOT_LOGGED = 0.004, 0.012

Bend = tuple[float, float, int]  # from and to, in s, and 1 to the right, −1 to the left


@dataclass(frozen=True)
class Bends:
    """What bends do to a wheel: its rate is `usual` times `to_the_right` faster on the left, slower on the right."""

    times_s: Floats
    to_the_right: Floats
    usual: float
    count: int

    @classmethod
    def of(cls, turns: WheelTurns, bends: Sequence[Bend], *, speed_m_s: float) -> "Bends":
        """Read marked bends that are taken at a speed in m/s."""
        times = np.linspace(turns.times_s[0], turns.times_s[-1], max(int(A_SECOND * np.ptp(turns.times_s)), 2))
        sense = np.zeros(len(times))
        for start, end, one in bends:
            sense[(times >= start) & (times <= end)] = one
        usual = min(ACROSS * HALF_TRACK_M / max(speed_m_s, 1.0) ** 2, MOST)
        return cls(times, ndimage.gaussian_filter1d(sense, ENTERED_S * A_SECOND), usual, len(bends))

    def shifted(self, turns: WheelTurns, shift: int) -> WheelTurns:
        """Return the course of what turns `shift` half tracks further to the left than what a course is of."""
        rate = turns.rate_at(self.times_s) * (1 + shift * self.usual * self.to_the_right)
        angle = integrate.cumulative_trapezoid(rate, self.times_s, initial=0)
        return WheelTurns(self.times_s, turns.turns[0] + angle, turns.spread)

    def whose(self, followed: WheelTurns, stated: WheelTurns, *, logged: bool) -> Floats:
        """Return the log odds that a course is a left wheel's, the middle's and a right one's, shape (3,).

        By how much faster than stated it is in bends to the right than to the left.
        """
        if followed is stated:
            return np.array([-np.inf, 0.0, -np.inf])
        apart = np.log(followed.rate_at(self.times_s) / np.maximum(stated.rate_at(self.times_s), 1e-3))
        weights = np.square(self.to_the_right).sum()
        leans = float(((apart - np.median(apart)) * self.to_the_right).sum() / weights) if weights else 0.0
        doubt = (LOGGED if logged else NOT_LOGGED) / np.sqrt(max(self.count, 1))
        likely = stats.norm.logpdf(leans, loc=self.usual * np.array(list(SIDES.values())), scale=doubt)
        return np.asarray(FOLLOWED + likely - special.logsumexp(FOLLOWED + likely))
