"""The course of a wheel that was spun by hand and let go, found together with what its lines are of.

Free of its last push a wheel slows as ω₀(1 − t/T)^p: p = 1 for dry drag, near 2 for drag that grows with √ω, large for
drag that grows with ω. On every course that is tried the sound has a spectrum as of a steady wheel; at every speed ω₀
the combs of whole orders and of the bearing's own faults are laid in it. The course and the speed at which one of them
stands highest are the likeliest; others that stand nearly as high at another speed are told too.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt
import scipy.fft
from scipy import ndimage, optimize

from hematite.odds import MOST, in_some_bands, mean_odds, odds_of, own_share, smeared
from hematite.speed.stated import WheelTurns
from hematite.traces import Trace

Floats = npt.NDArray[np.float64]

EVEN_HZ, SPECTRUM_HZ = 800.0, 400.0  # samples a second of the traces, and on the course's own time
TOP_HZ, LEAST_HZ = 150.0, 0.6
FLOOR_HZ, FLOOR_SHARE, LEAST_FLOOR_BINS = 6.0, 0.4, 5  # a hand or gusts make a floor that falls steeply
STARTS_S = (0.4, 1.4, 2.8)  # where the last push may end; a recorder is mostly started with the wheel turning
LOSSES = (0.18, 0.34, 0.48, 0.6, 0.7, 0.79, 0.87, 0.94, 1.05, 1.4)  # of speed; over 1: it stops before
BENDS = (0.9, 1.8)
SLOWEST_SHARE = 0.15  # of its first speed, until which a wheel is followed
LEAST_S = 1.5
RATES = (1.7, 9.0)  # turns a second of a wheel spun by hand to be heard; common practice, no source
RATE_STEP = 0.004  # of the logarithm
USUAL_RATE, RATE_SPREAD = 3.5, 0.5  # of arms, in turns a second and in its logarithm; judgement
FIT_POINTS, MISFIT = 200, 0.5  # turns: a wheel that was pushed again takes no one course; judgement
NEVER_S, PITCHED_LINES = 1e6, 6  # a course that does not slow, and the lines of what sounds at one pitch
TREMBLE = 0.12  # turns that a timed course may be off: a hand's tapping at four turns a second, common practice
NEAR = 0.02  # of the speed, how near a timed one is
MISCOUNTED = 1.2  # turns: the first and the last are seldom whole; judgement
COUNTED_SHARE = 0.03
POLISHED, BEST = 6, 3  # courses that are polished, roughly and finely
APART, OTHER = 0.06, 0.01  # courses and speeds nearer than this are one
SPEEDS, RIVALS = 3, 5  # of one course, and in all
FREE_HZ = np.exp(np.arange(np.log(4.0), np.log(90.0), 0.004))  # of balls past a mark at an arm's speed
SMEAR = 0.006  # of its frequency, how wide a line is on a course that is only nearly right
STRENGTHS = np.array([2.0, 6.0, 20.0, 60.0, 200.0])  # coarser than in the families: it is asked a thousand times
PADDED_BINS = 2.2  # neighbouring points of a spectrum padded by half that count as one look


@dataclass(frozen=True)
class Course:
    """How a wheel slows from `start_s` to `end_s`: ω/ω₀ = (1 − t/stops_s)^bend."""

    start_s: float
    end_s: float
    stops_s: float
    bend: float

    def turns(self, after_s: Floats) -> Floats:
        """Return turns some time after the start for ω₀ = 1 turn a second."""
        rest = np.clip(1 - after_s / self.stops_s, 0.0, None)
        return np.asarray(self.stops_s / (self.bend + 1) * (1 - np.power(rest, self.bend + 1)))

    @property
    def until_s(self) -> float:
        """Return when the wheel has lost most of its speed, or the course ends."""
        return min(self.end_s, self.start_s + self.stops_s * float(1 - SLOWEST_SHARE ** (1 / self.bend)))

    @property
    def possible(self) -> bool:
        """Return whether it is a course that a wheel can take, and long enough to tell anything."""
        return self.bend > 0.2 and self.stops_s > 0 and self.until_s - self.start_s >= LEAST_S


@dataclass(frozen=True)
class Lines:
    """A comb to be laid: orders and weights of its lines, both of shape (lines,); `tonal` in the tones alone.

    `free`: of nobody knows what; its orders are multiples of any that a bearing may have, and tell no speed.
    """

    orders: Floats
    weights: Floats
    tonal: bool = False
    free: bool = False


@dataclass(frozen=True)
class Spun:
    """A course and a speed that a recording may be of: the wheel's angle, how long it took to half its speed.

    `odds` against hiss, in nats, one of many that were tried; `at_one_pitch` those of whatever repeats without slowing,
    as a motor or an air tool does. None as `halving_s` where it did not get so far.
    """

    turns: WheelTurns
    odds: float
    first_rate: float
    halving_s: float | None
    at_one_pitch: float


def find_spun(
    traces: Sequence[Trace],
    combs: Sequence[Lines],
    *,
    counted: float | None = None,
    timed: WheelTurns | None = None,
) -> tuple[Spun, ...]:
    """Return the likeliest courses of a wheel let go, best first; empty for a recording too short.

    The last of the `traces` are the tones. `counted`: how many turns it made in all. `timed`: turns that a hand tapped
    or an instrument read, for a part of the recording at least; a course is looked for near them.
    """
    return _Search(traces, combs, counted, timed).found()


def _fitted(timed: WheelTurns, start: float, end: float) -> Course | None:
    """Return the course that fits timed turns best, by least squares; None where there are too few."""
    times = np.linspace(max(start, timed.times_s[0]), min(end, timed.times_s[-1]), FIT_POINTS)
    if times[-1] - times[0] < LEAST_S:
        return None
    turns = timed.at(times)

    def off(x: Floats) -> Floats:
        shape = Course(start, end, float(np.exp(x[1])), float(x[2])).turns(times - start)
        return np.asarray(x[0] * shape - x[3] - turns)

    first = [float(timed.rate_at(times[:1])[0]), np.log(2 * (times[-1] - start)), 1.2, -float(turns[0])]
    low, high = [0.1, np.log((times[-1] - start) / 3), 0.3, -np.inf], [30.0, np.log(1e3), 4.0, np.inf]
    found = optimize.least_squares(off, np.clip(first, np.add(low, 1e-6), np.subtract(high, 1e-6)), bounds=(low, high))
    if np.sqrt(np.mean(np.square(found.fun))) > MISFIT:
        return None
    return Course(start, end, float(np.exp(found.x[1])), float(found.x[2]))


class _Search:
    def __init__(
        self, traces: Sequence[Trace], combs: Sequence[Lines], counted: float | None, timed: WheelTurns | None
    ) -> None:
        self._even = evenly(traces, EVEN_HZ)
        self._seconds = self._even.shape[1] / EVEN_HZ
        self._combs, self._counted, self._timed = combs, counted, timed
        self._own = _own_shares(self._even[:-1])
        self._rates = np.exp(np.arange(np.log(RATES[0]), np.log(RATES[1]), RATE_STEP))

    def found(self) -> tuple[Spun, ...]:
        tried = sorted(((self._odds(course), course) for course in self._courses()), key=lambda one: -one[0])
        apart: list[Course] = []
        for _, course in tried:
            if not any(_alike(course, other) for other in apart):
                apart.append(course)
        rough = [self._polished(course, fine=False) for course in apart[:POLISHED]]
        rough.sort(key=lambda one: -one[0])
        fine = [self._polished(course, fine=True) for _, course in rough[:BEST]]
        told = [one for odds, course in fine if np.isfinite(odds) for one in self._told(course)]
        return tuple(sorted(told, key=lambda one: -one.odds)[:RIVALS])

    def _courses(self) -> list[Course]:
        spans = [(start, self._seconds) for start in STARTS_S]
        spans += [(STARTS_S[0], self._seconds / 2), (self._seconds / 2, self._seconds)]  # it may be pushed again
        if self._timed:
            # Before it nobody knows whether the wheel was pushed; but a hand begins to tap when the wheel is slow.
            first = float(self._timed.times_s[0])
            spans = list(dict.fromkeys([(max(start, first), end) for start, end in spans] + spans))
            fits = [_fitted(self._timed, start, end) for start, end in spans]
            return [course for course in fits if course and course.possible]
        found = []
        for start, end in spans:
            for loss in LOSSES:
                for bend in BENDS:
                    whole = end - start
                    stops = whole / loss if loss > 1 else whole / (1 - (1 - loss) ** (1 / bend))
                    found.append(Course(start, end, stops, bend))
        return [course for course in found if course.possible and course.end_s - course.start_s >= 2 * LEAST_S]

    def _polished(self, course: Course, *, fine: bool) -> tuple[float, Course]:
        def moved(x: Floats) -> Course:
            return replace(course, stops_s=float(np.exp(x[0])), bend=float(x[1]))

        def blunt(x: Floats) -> float:
            return -self._odds(moved(x), fine=fine)

        first = np.array([float(np.log(course.stops_s)), course.bend])
        steps = np.diag([0.015, 0.08] if fine else [0.04, 0.2])
        found = optimize.minimize(
            blunt,
            first,
            method="Nelder-Mead",
            options={"maxfev": 30, "initial_simplex": np.vstack([first, first + steps])},
        )
        return -float(found.fun), moved(found.x)

    def _odds(self, course: Course, *, fine: bool = False) -> float:
        laid = self._laid(course, fine=fine)
        return -np.inf if laid is None else float(mean_odds(laid[1]))

    def _told(self, course: Course) -> tuple[Spun, ...]:
        """Return the speeds of a course at which each of the combs stands highest, best first.

        A few percent apart the same lines are a ring's or lie at whole orders, so each comb has its say.
        """
        laid = self._laid(course, fine=True)
        if laid is None:
            return ()
        rates, best = laid[0], laid[1].argmax(axis=1)
        at_best = laid[1][np.arange(len(best)), best]
        times = np.linspace(course.start_s, course.until_s, 400)
        shape, half = course.turns(times - course.start_s), course.stops_s * (1 - 0.5 ** (1 / course.bend))
        spread = max(MISCOUNTED / self._counted, 0.01) if self._counted else 0.01
        pitched = self._at_one_pitch(course)
        halving = half if course.start_s + half <= course.until_s else None
        found: list[Spun] = []
        for comb in np.argsort(-at_best):
            rate, odds = float(rates[best[comb]]), float(at_best[comb])
            if np.isfinite(odds) and all(abs(np.log(rate / other.first_rate)) > OTHER for other in found):
                found.append(Spun(WheelTurns(times, rate * shape, spread), odds, rate, halving, pitched))
        return tuple(found[:SPEEDS])

    def _at_one_pitch(self, course: Course) -> float:
        """Return the odds of the best comb at one pitch in the stretch of a course."""
        spectrum = self._spectrum(replace(course, stops_s=NEVER_S, bend=1.0), fine=True)
        if spectrum is None:
            return 0.0
        comb = Lines(np.arange(1.0, PITCHED_LINES + 1), np.ones(PITCHED_LINES))
        return float(_laid_at(spectrum[0], spectrum[2], comb, FREE_HZ).max())

    def _laid(self, course: Course, *, fine: bool) -> tuple[Floats, Floats] | None:
        """Return the speeds tried and the odds of every comb at each, shape (combs, speeds)."""
        rates = self._possible(course) if course.possible else np.zeros(0)
        spectrum = self._spectrum(course, fine=fine) if len(rates) else None
        if spectrum is None:
            return None
        together, tones, step = spectrum
        prior = self._prior(course, rates)
        stand = [_stands(tones if comb.tonal else together, step, comb, rates) for comb in self._combs]
        return rates, np.array(stand) + prior

    def _as_timed(self, course: Course, timed: WheelTurns) -> Floats:
        """Return the speeds at which a course keeps to what was timed; none where it does not."""
        low, high = max(course.start_s, timed.times_s[0]), min(course.until_s, timed.times_s[-1])
        if high <= low:
            return np.zeros(0)
        times = np.linspace(low, high, 20)
        own, turns = course.turns(times - course.start_s), timed.at(times)
        rate, level = np.polyfit(own, turns, 1)
        if rate <= 0 or float(np.std(turns - rate * own - level)) > TREMBLE:
            return np.zeros(0)
        return np.asarray(rate * np.exp(np.arange(-NEAR, NEAR, RATE_STEP)))

    def _possible(self, course: Course) -> Floats:
        if self._timed:
            return self._as_timed(course, self._timed)
        if not self._counted:
            return np.asarray(self._rates)
        counted, doubt = self._as_counted(course, self._counted)
        return np.asarray(self._rates[np.abs(self._rates / counted - 1) < doubt])

    def _as_counted(self, course: Course, counted: float) -> tuple[float, float]:
        """Return the speed that makes as many turns as were counted, and its relative doubt.

        Before the course begins the wheel is pushed: it turned there about as fast as then, give or take a half.
        """
        in_all = float(course.turns(np.array(min(self._seconds - course.start_s, course.stops_s)))) + course.start_s
        return counted / in_all, max(MISCOUNTED / counted, COUNTED_SHARE) + course.start_s / 2 / in_all

    def _prior(self, course: Course, rates: Floats) -> Floats:
        """Return the log of how likely each speed is before anything is heard, but for a constant."""
        if self._timed:
            return 0.0 * rates
        if not self._counted:
            return np.asarray(-0.5 * np.square(np.log(rates / USUAL_RATE) / RATE_SPREAD))
        counted, doubt = self._as_counted(course, self._counted)
        return np.asarray(-0.5 * np.square((rates / counted - 1) / (doubt / 2)))

    def _spectrum(self, course: Course, *, fine: bool) -> tuple[Floats, Floats, float] | None:
        """Return the odds of a line at each frequency, for all bands together and for the tones, and the step."""
        after = np.arange(0.0, course.until_s - course.start_s, 1 / SPECTRUM_HZ)
        own = course.turns(after)
        places = (np.interp(np.arange(0.0, own[-1], 1 / SPECTRUM_HZ), own, after) + course.start_s) * EVEN_HZ
        if len(places) < SPECTRUM_HZ:
            return None
        low = np.minimum(places.astype(np.int64), self._even.shape[1] - 2)
        share = (places - low).astype(np.float32)
        steady = self._even[:, low] * (1 - share) + self._even[:, low + 1] * share
        log_ratio, step = _log_ratio(steady)
        odds = _line_odds(np.exp(np.minimum(log_ratio, 9.0)), 0.0 if fine else SMEAR)
        odds *= np.interp(np.arange(odds.shape[1]) * step, *self._own)
        odds[:, : int(LEAST_HZ / step)] = 0.0
        return in_some_bands(odds), odds[-1], step


def _log_ratio(steady: npt.NDArray[np.float32]) -> tuple[Floats, float]:
    """Return the log of power over its floor, shape (traces, n), of what lies at `SPECTRUM_HZ`, and the step in Hz."""
    steady = steady - steady.mean(axis=1, keepdims=True)
    steady *= np.hanning(steady.shape[1]).astype(np.float32)
    padded = scipy.fft.next_fast_len(int(1.5 * steady.shape[1]), real=True)
    bins = scipy.fft.rfft(steady, padded)[:, : int(TOP_HZ * padded / SPECTRUM_HZ)]
    step = SPECTRUM_HZ / padded
    log_power = np.log(np.square(bins.real) + np.square(bins.imag) + np.float32(1e-30))
    floor, _ = smeared(log_power, floor_reach(log_power.shape[1], step))
    return np.asarray(log_power - floor - np.euler_gamma, dtype=np.float64), step


def floor_reach(count: int, step: float) -> Floats:
    """Return how many points either way the floor is taken over at each of `count` points a `step` of Hz apart."""
    return np.asarray(
        np.maximum(np.minimum(FLOOR_HZ / 2, FLOOR_SHARE * step * np.arange(count)) / step, LEAST_FLOOR_BINS)
    )


def _own_shares(even: npt.NDArray[np.float32]) -> tuple[Floats, Floats]:
    """Return frequencies in Hz, and how much of what the bands say there is each one's own."""
    log_ratio, step = _log_ratio(even[:, :: round(EVEN_HZ / SPECTRUM_HZ)])
    count = log_ratio.shape[1]
    return np.asarray(np.arange(count) * step, dtype=np.float64), own_share(
        log_ratio, floor_reach(count, step) * PADDED_BINS
    )


def evenly(traces: Sequence[Trace], hertz: float) -> npt.NDArray[np.float32]:
    """Return all traces on one time axis of so many samples a second, each the mean over its time; (traces, n)."""
    seconds = min(len(trace.values) / trace.rate for trace in traces)
    edges = np.arange(int(seconds * hertz) + 1) / hertz
    found = []
    for trace in traces:
        total = np.concatenate([[0.0], np.cumsum(trace.values)]) / trace.rate
        found.append(np.diff(np.interp(edges, np.arange(len(total)) / trace.rate, total)) * hertz)
    return np.array(found, dtype=np.float32)


def _alike(one: Course, other: Course) -> bool:
    near = abs(np.log(one.stops_s / other.stops_s)) <= APART and abs(one.bend - other.bend) < APART
    return near and (one.start_s, one.end_s) == (other.start_s, other.end_s)


def _line_odds(ratio: Floats, smear: float) -> Floats:
    """Return the odds of a line of one width, shape (traces, n); the sharper it is the nearer is the course."""
    mean, count = smeared(ratio, smear * np.arange(ratio.shape[1], dtype=np.float64))
    odds = odds_of(mean, np.maximum(count / PADDED_BINS, 1.0), STRENGTHS)
    return np.asarray(np.minimum(odds, MOST) + np.log1p(np.maximum(odds - MOST, 0.0)))


def _stands(odds: Floats, step: float, comb: Lines, rates: Floats) -> Floats:
    """Return how a comb stands at each of the speeds; one that is free at all of them alike."""
    if not comb.free:
        return _laid_at(odds, step, comb, rates)
    free = _laid_at(odds, step, comb, FREE_HZ)
    return np.full(len(rates), float(mean_odds(free)))


def _laid_at(odds: Floats, step: float, comb: Lines, rates: Floats) -> Floats:
    """Return the odds of a comb's lines at each of some speeds, each line at the nearest few points."""
    tops = ndimage.maximum_filter1d(odds, 3)
    places = np.rint(comb.orders[:, None] * rates / step).astype(np.int64)
    inside = (places < len(tops)) & (places * step >= LEAST_HZ)
    return np.asarray((np.where(inside, tops[np.where(inside, places, 0)], 0.0) * comb.weights[:, None]).sum(axis=0))
