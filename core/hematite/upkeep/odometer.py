"""How fast a vehicle gathers distance, by its odometer: a rate with its doubt, and when a distance is reached."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from scipy import stats

from hematite.doors import not_negative, positive
from hematite.errors import BadQuantity
from hematite.language import say

SURE = 0.8  # of the range that is told
LEAST_SPAN_DAYS = 14.0  # entries closer together tell the week, not the vehicle; judgement
LEAST_STRETCHES = 3  # with fewer the unevenness of its use is a guess
FAR_DAYS = 3650.0  # beyond ten years nothing is forecast


@dataclass(frozen=True)
class Entry:
    """One reading: on which day (counted from any fixed day), and what stood there in km or hours of work."""

    day: float
    reading: float


@dataclass(frozen=True)
class Rate:
    """How much is gathered a day, with its range (80 %); `spread` a square root of a day is how unevenly.

    `low`, `high` and `spread` are None where too few stretches were read to say: two readings give a rate and no doubt.
    """

    per_day: float
    low: float | None
    high: float | None
    spread: float | None
    span_days: float
    stretches: int
    words: str


def rate(entries: Sequence[Entry]) -> Rate | None:
    """Return the rate of readings, None where they are too few or too close together.

    A drift with an unevenness that grows with the time between readings: the distance of a stretch has the mean r·t and
    the variance s²·t, so r is the weighted least squares slope through nothing, all distance by all time, with
    Student's range [published: weighted least squares, weights 1/t]. Raises `BadQuantity` for a reading below an
    earlier one.
    """
    days, gained = _stretches(entries)
    if not days.size or days.sum() < LEAST_SPAN_DAYS:
        return None
    per_day, n = float(gained.sum() / days.sum()), len(days)
    if n < LEAST_STRETCHES:
        words = say("Read too few times to say how evenly it is driven: the date is a guess.")
        return Rate(per_day, None, None, None, float(days.sum()), n, words)
    spread = sqrt(float(np.sum((gained - per_day * days) ** 2 / days)) / (n - 1))
    doubt = _student(n) * spread / sqrt(float(days.sum()))
    low, high = max(0.0, per_day - doubt), per_day + doubt
    return Rate(per_day, low, high, spread, float(days.sum()), n, say("Learnt from {n} readings.", n=n + 1))


def _student(n: int) -> float:
    return float(stats.t.ppf((1 + SURE) / 2, n - 1))


def _stretches(entries: Sequence[Entry]) -> tuple[np.ndarray, np.ndarray]:
    """Return days and gain between readings, oldest first; of one day the highest counts."""
    of_day: dict[float, float] = {}
    for one in entries:
        day, stood = float(one.day), not_negative(one.reading, say("An odometer reading"))
        of_day[day] = max(stood, of_day.get(day, 0.0))
    days = np.array(sorted(of_day))
    read = np.array([of_day[day] for day in days])
    gained = np.diff(read)
    if np.any(gained < 0):
        raise BadQuantity(say("A reading lies below an earlier one. Correct the one that is wrong."))
    return np.diff(days), gained


@dataclass(frozen=True)
class Reached:
    """In how many days a distance is reached: expected, and from when to when (80 %). None: nobody can say."""

    expected: float | None
    soonest: float | None
    latest: float | None


def reached(known: Rate, distance: float) -> Reached:
    """Return in how many days from the last reading a distance more is gathered.

    The range is where the prediction of the distance at a day, r·h ± t·s·√(h + h²/T), holds it. Raises `BadQuantity`.
    """
    far = positive(distance, say("The distance to go"))
    expected = far / known.per_day if known.per_day > 0 else None
    expected = expected if expected is not None and expected <= FAR_DAYS else None
    if known.spread is None:
        return Reached(expected, None, None)
    doubt = _student(known.stretches) * known.spread
    soonest = _first(known, far, doubt)
    latest = _first(known, far, -doubt)
    return Reached(expected, soonest, latest)


def _first(known: Rate, far: float, doubt: float) -> float | None:
    """Return the first day on which r·h + doubt·√(h + h²/T) is `far`; None beyond the horizon."""
    days = np.arange(0.0, FAR_DAYS + 0.25, 0.25)
    gained = known.per_day * days + doubt * np.sqrt(days + days**2 / known.span_days)
    hit = np.flatnonzero(gained >= far)
    return float(days[hit[0]]) if hit.size else None
