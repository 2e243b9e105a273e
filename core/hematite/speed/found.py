"""Speed found in the recording of a driven wheel that nobody clocked: its course, and how many turns a second.

First the course: a wheel that an engine drives runs nearly even. The course at which the swells repeat most sharply is
the one; how it compares with all the others tried says how surely. Then the scale: what repeats is laid against whole
turns, and, where the bearing's geometry is known, against its own orders. Where nothing settles the scale, it says so.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
import numpy.typing as npt
import scipy.fft
from scipy import ndimage, optimize

from hematite.speed.stated import WheelTurns

Floats = npt.NDArray[np.float64]
Even = npt.NDArray[np.float32]
Comb = tuple[str, Floats, Floats]  # kind, orders and weights

EVEN_HZ = 500.0  # samples a second of the course's own time
LOWEST_HZ, HIGHEST_HZ = 2.0, 200.0
SEARCHED_S = 40.0  # of a longer recording: no wheel runs even any longer; judgement
STANDS_DB, CEILING_DB = 10.0, 25.0  # what counts of a line: from where hiss alone seldom reaches
# Of hiss alone, whose power is exponential about its mean, over its mean logarithm: mean and variance a bin of what
# stands over STANDS_DB, by integration; neighbouring bins of a Hann window count as half.
CHANCE_MEAN, CHANCE_VARIANCE = 0.00244, 0.00290
NEIGHBOURS = 2.0
SURE = 13.0  # standard deviations over hiss alone; over seven hundred looks hiss itself reaches 5 to 12, see method.md
SLOWEST_SHARE = 0.3  # the course is followed until the wheel has this share of its first speed
DRIVEN_RATES = (2.0, 20.0)
LEAST_HEIGHT_DB = 4.0  # mean height of the lines that settle the scale, over chance; judgement
SIDE_HZ = (0.8, 8.0)  # from a slow cage to a fast wheel
STROKE_SHARE = 0.5  # of the first harmonic's height in the next three: a sine leaves none; judgement
SIDES_STAND_DB = 6.0  # over the lines half as far again outside: the best of some hundred spacings reaches 4
WHOLE_WEIGHTS = np.array([1.0, 0.8, 0.6, 0.5, 0.4, 0.3, 0.3, 0.3])  # whose first is missing is no wheel; judgement
APART = 0.08  # speeds nearer than this are one reading
MARGIN_DB = 1.0  # the best scale must stand that much over the next different one; judgement


class Signal(Protocol):
    """A signal over time: values of shape (n,) at `rate` a second."""

    @property
    def values(self) -> npt.NDArray[np.float32]:
        """Return the samples."""

    @property
    def rate(self) -> float:
        """Return samples a second."""


@dataclass(frozen=True)
class Course:
    """How the wheel slows: ω/ω₀ = (1 − t/stops_s)^bend from `start_s` on. `sureness` in robust deviations.

    It is followed until `end_s`.
    """

    start_s: float
    end_s: float
    stops_s: float
    bend: float
    sureness: float

    def turns(self, times_s: Floats) -> Floats:
        """Return turns since the start for ω₀ = 1 turn a second."""
        rest = np.clip(1 - (times_s - self.start_s) / self.stops_s, 0.0, None)
        return np.asarray(self.stops_s / (self.bend + 1) * (1 - np.power(rest, self.bend + 1)))


@dataclass(frozen=True)
class Rhythm:
    """What repeats: `hz` a second at the start, and the spacing of its side lines, 0 where it has none.

    `stroke` tells a short stroke, whose harmonics stand too, from a smooth swell.
    """

    hz: float
    side_hz: float
    stroke: bool = True


@dataclass(frozen=True)
class FoundSpeed:
    """What was found: the course, the turns where the scale is settled, and the rhythm that stands out most.

    `rhythm` is what repeats most strongly, None when nothing does. `turns` is None when the scale could not be settled;
    `words` says why, or how it was.
    """

    course: Course | None
    turns: WheelTurns | None
    rhythm: Rhythm | None
    words: str


def find_speed(signals: Sequence[Signal], *, combs: Sequence[Comb]) -> FoundSpeed:
    """Find the speed in the swells of one recording of a driven wheel.

    `combs` are the bearing's own lines as (kind, orders, weights), empty when its geometry is unknown. Never raises:
    what cannot be found is said to be so.
    """
    even = _together(signals)
    if even.shape[1] / EVEN_HZ < 2:
        return FoundSpeed(None, None, None, "The recording is too short to find the speed in it.")
    seconds = even.shape[1] / EVEN_HZ
    band, course = _course(even, _driven(seconds))
    if course.sureness < SURE:
        return FoundSpeed(course, None, None, "Nothing repeats clearly enough to find the speed by.")
    freqs, db = _spectra(even[band : band + 1], course)
    rhythm = _rhythm(freqs, db[0])
    scale, doubt, kind = _scale(freqs, db[0], combs, DRIVEN_RATES)
    if not kind:
        words = (
            f"Something repeats {rhythm.hz:.1f} times a second at first; how many turns that is could not be settled."
        )
        return FoundSpeed(course, None, rhythm, words)
    times = np.linspace(course.start_s, course.end_s, 400)
    turns = WheelTurns(times, scale * course.turns(times), spread=0.01)
    words = f"Found in the sound: {scale:.1f} turns a second at first, give or take {max(doubt, 0.01):.0%}."
    return FoundSpeed(course, turns, rhythm, words)


def _together(signals: Sequence[Signal]) -> Even:
    """Return all signals on one time axis, and last their mean: knocks coincide, hiss does not; (bands + 1, n)."""
    seconds = min((len(s.values) / s.rate for s in signals), default=0.0)
    seconds = min(seconds, SEARCHED_S)
    times = np.arange(int(seconds * EVEN_HZ)) / EVEN_HZ
    values = [np.interp(times, np.arange(len(s.values)) / s.rate, s.values) for s in signals]
    return np.vstack([*values, np.mean(values, axis=0)]).astype(np.float32) if values else np.zeros((1, 0), np.float32)


def _driven(seconds: float) -> list[Course]:
    """Return nearly even courses: speeding up shows as a stop that lies in the past."""
    changes = np.linspace(-0.4, 0.4, 81)
    return [Course(0.0, seconds, seconds / c if c else 1e6, 1.0, 0.0) for c in changes]


def _course(even: Even, tried: Sequence[Course]) -> tuple[int, Course]:
    """Return the band and the course in which the lines stand sharpest, the course polished."""
    scores = np.array([_sharpness(even, course) for course in tried])
    at, band = (int(i) for i in np.unravel_index(scores.argmax(), scores.shape))
    best = _polished(even[band : band + 1], tried[at])
    sureness = float(_sharpness(even[band : band + 1], best)[0])
    end = min(best.end_s, best.start_s + _until(best))
    return band, Course(best.start_s, end, best.stops_s, best.bend, sureness)


def _polished(even: Even, course: Course) -> Course:
    sign = np.sign(course.stops_s)

    def moved(x: Floats) -> Course:
        return Course(course.start_s, course.end_s, sign * float(np.exp(x[0])), float(x[1]), 0.0)

    first = np.array([np.log(abs(course.stops_s)), course.bend])
    steps = np.array([first, [first[0] + 0.03, first[1]], [first[0], first[1] * 1.12]])

    def blur(x: Floats) -> float:
        return -float(_sharpness(even, moved(x))[0])

    found = optimize.minimize(blur, first, method="Nelder-Mead", options={"maxfev": 60, "initial_simplex": steps})
    return moved(found.x)


def _until(course: Course) -> float:
    """Return seconds from the start until the wheel has lost most of its speed."""
    if course.stops_s <= 0 or course.bend <= 0:
        return float("inf")
    return float(course.stops_s * (1 - SLOWEST_SHARE ** (1 / course.bend)))


def _straightened(even: Even, course: Course) -> Even:
    """Return the signals on the course's own time, on which a slowing wheel turns evenly; shape (bands, n)."""
    last = min(even.shape[1] / EVEN_HZ, course.start_s + _until(course))
    times = np.arange(course.start_s, last, 1 / EVEN_HZ)
    if len(times) < EVEN_HZ or not 0.3 <= course.bend <= 8:
        return np.zeros((len(even), 0), dtype=np.float32)
    own = course.turns(times)
    places = np.interp(np.arange(0.0, own[-1], 1 / EVEN_HZ), own, times) * EVEN_HZ
    low = np.minimum(places.astype(np.int64), even.shape[1] - 2)
    share = (places - low).astype(np.float32)
    return np.asarray(even[:, low] * (1 - share) + even[:, low + 1] * share)


def _spectra(even: Even, course: Course) -> tuple[Floats, Floats]:
    """Return frequencies (a second at the start) and heights over the floor in dB of the straightened signals."""
    straight = _straightened(even, course)
    n = straight.shape[1]
    if n < 2 * EVEN_HZ:
        return np.zeros(0), np.zeros((len(even), 0))
    straight -= straight.mean(axis=1, keepdims=True)
    straight *= np.hanning(n).astype(np.float32)
    padded = scipy.fft.next_fast_len(n, real=True)
    bins = scipy.fft.rfft(straight, padded)[:, : int(1.1 * HIGHEST_HZ * padded / EVEN_HZ)]
    log_power = np.log(np.square(bins.real) + np.square(bins.imag) + np.float32(1e-30))
    freqs = np.arange(log_power.shape[1]) * EVEN_HZ / padded
    floor = ndimage.uniform_filter1d(log_power, max(int(5.0 / freqs[1]), 9), axis=1, mode="nearest")
    keep = (freqs >= LOWEST_HZ) & (freqs <= HIGHEST_HZ)
    return freqs[keep], np.asarray(10 / np.log(10) * (log_power - floor)[:, keep])


def _sharpness(even: Even, course: Course) -> Floats:
    """Return how much stands out of each signal's spectrum, in standard deviations of hiss alone; shape (bands,)."""
    _, db = _spectra(even, course)
    count = db.shape[1]
    if not count:
        return np.zeros(len(even))
    stands = np.clip(db - STANDS_DB, 0.0, CEILING_DB - STANDS_DB).sum(axis=1)
    return np.asarray((stands - count * CHANCE_MEAN) / np.sqrt(NEIGHBOURS * count * CHANCE_VARIANCE))


def _rhythm(freqs: Floats, db: Floats) -> Rhythm:
    """Return the frequency whose first three harmonics stand highest, with the side lines around them."""
    tops = ndimage.maximum_filter1d(np.clip(db, 0, 25), 5)
    candidates = freqs[freqs < HIGHEST_HZ / 3]
    heights = np.mean([np.interp(k * candidates, freqs, tops) for k in (1, 2, 3)], axis=0)
    hz = float(candidates[int(heights.argmax())])
    for part in (3, 2):  # a harmonic may have won; the fundamental has nearly its height
        lower = np.abs(candidates * part / hz - 1) < 0.01
        if lower.any() and heights[lower].max() > 0.75 * heights.max():
            hz = float(hz / part)
            break
    first, *upper = np.interp(hz * np.arange(1.0, 5.0), freqs, tops)
    stroke = float(np.mean(upper)) >= STROKE_SHARE * float(first)
    spaced = np.arange(SIDE_HZ[0], min(SIDE_HZ[1], 0.45 * hz), 0.02)
    if not len(spaced):
        return Rhythm(hz, 0.0, stroke)
    around = np.array([hz, hz, 2 * hz, 2 * hz])[:, None]
    signs = np.array([-1.0, 1.0, -1.0, 1.0])[:, None]
    sides = np.interp(around + signs * spaced, freqs, tops).mean(axis=0)
    further = np.interp(around + signs * 1.5 * spaced, freqs, tops).mean(axis=0)
    best = int((sides - further).argmax())
    stands = sides[best] - further[best] >= SIDES_STAND_DB
    return Rhythm(hz, float(spaced[best]) if stands else 0.0, stroke)


def _scale(freqs: Floats, db: Floats, combs: Sequence[Comb], rates: tuple[float, float]) -> tuple[float, float, str]:
    """Return turns a second at the start, the relative doubt of it, and the kind whose lines settle it, or ''.

    It is settled when no other reading comes near: another kind of fault at another speed. Two rows of one hub may
    leave the speed in doubt and the kind not.
    """
    tried = np.exp(np.arange(np.log(rates[0]), np.log(rates[1]), 0.003))
    laid = _Laid(freqs, db, tried)
    between = laid.height(np.arange(0.5, 8.0), WHOLE_WEIGHTS)  # a comb of twice the speed leaves lines between its own
    whole = np.maximum(laid.height(np.arange(1.0, 9.0), WHOLE_WEIGHTS) - np.maximum(between, 0.0), 0.0)
    lowest = laid.height(np.array([1.0, 2.0]), np.ones(2))  # a ring mark can meet high whole orders, not these
    whole = np.minimum(whole, np.maximum(lowest, 0.0))
    turns = np.arange(1.0, 25.0)
    readings = {"wheel": whole * laid.explained(turns)}
    for kind, orders, weights in combs:
        height = np.maximum(laid.height(orders, weights), 0.0) + 0.3 * whole
        own = height * laid.explained(np.concatenate([orders, turns[:3]]))
        readings[kind] = np.maximum(own, readings.get(kind, 0.0))
    scores = {kind: score + _likely(tried, rates) for kind, score in readings.items()}
    kind = max(scores, key=lambda name: float(scores[name].max()))
    at = int(scores[kind].argmax())
    apart = np.abs(np.log(tried / tried[at])) > APART
    rival = max(float(score[apart].max()) for name, score in scores.items() if name != kind or name == "wheel")
    near = (scores[kind] > scores[kind][at] - MARGIN_DB) & apart
    doubt = float(np.abs(np.log(tried[near] / tried[at])).max()) if near.any() else 0.01
    settled = scores[kind][at] - rival >= MARGIN_DB and readings[kind][at] >= LEAST_HEIGHT_DB
    return float(tried[at]), doubt, kind if settled else ""


class _Laid:
    """Combs laid on one spectrum at every speed that is tried: how high their lines stand, how much they explain."""

    def __init__(self, freqs: Floats, db: Floats, tried: Floats) -> None:
        self._freqs, self._tried = freqs, tried
        tops = ndimage.maximum_filter1d(np.clip(db, 0.0, 20.0), 5)
        self._tops = tops - float(np.median(tops))
        self._stands = np.clip(db - STANDS_DB, 0.0, CEILING_DB - STANDS_DB)

    def height(self, orders: Floats, weights: Floats) -> Floats:
        """Return the weighted mean height over chance of the orders that lie on the axis; shape of the speeds tried."""
        places = orders[:, None] * self._tried
        due = (places <= self._freqs[-1]) * weights[:, None]
        found = np.interp(places, self._freqs, self._tops) * due
        return np.asarray(found.sum(axis=0) / np.maximum(due.sum(axis=0), weights.max()))

    def explained(self, orders: Floats) -> Floats:
        """Return the share of all that stands which lies on the orders, within half a percent; shape of the speeds."""
        step = float(self._freqs[1] - self._freqs[0])
        total = np.concatenate([[0.0], np.cumsum(self._stands)])
        places = np.unique(orders)[:, None] * self._tried
        reach = np.maximum(0.006 * places / step, 1.5)
        middle = (places - self._freqs[0]) / step
        low = np.clip(np.rint(middle - reach), 0, len(self._stands)).astype(np.int64)
        high = np.clip(np.rint(middle + reach) + 1, 0, len(self._stands)).astype(np.int64)
        caught = (total[high] - total[low]).sum(axis=0)
        return np.asarray(np.minimum(caught / (total[-1] + 1e-9), 1.0))


def _likely(tried: Floats, rates: tuple[float, float]) -> Floats:
    """Return a gentle preference, in dB, for the middle of the range that arms and roads give; judgement."""
    middle = np.sqrt(rates[0] * rates[1])
    return np.asarray(-1.5 * np.square(np.log(tried / middle) / np.log(2.0)))
