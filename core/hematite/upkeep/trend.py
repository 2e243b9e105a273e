"""Growth of what was measured at a hub over its visits: a robust slope with its range, a date to act by as a range.

A slope for every pair of visits; the middle one is the answer [published: Theil 1950, Sen 1968], and the range lies
between two of them that Kendall's exact count of orders gives [published: Kendall 1938; Hollander, Wolfe, Chicken,
Nonparametric Statistical Methods, 3rd ed., 9.3]. Where no two give just the wished share, it lies between the next two
on either side, as for the range of a median [published: Hettmansperger, Sheather 1986; how far between is ours, found
by simulation].
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from math import inf, isfinite

import numpy as np

from hematite.doors import finite, most_of
from hematite.errors import BadQuantity
from hematite.language import later, say

SURE = 0.8
LEAST_VISITS = 4  # three visits cannot give a range that is right four times in five
FAR_DAYS = 3650.0
YEAR = 365.25
DRAWS, DICE = 4000, 7


@dataclass(frozen=True)
class Visit:
    """One figure: on which day (from any fixed day), and how much."""

    day: float
    value: float


@dataclass(frozen=True)
class Trend:
    """A slope a year with its range (80 %), since the last break; `grows` is 'surely', 'perhaps' or 'no'.

    `soonest`, `expected`, `latest`: days from the last visit until the limit is reached; None where there is no limit
    or no such day within ten years. `words` say that, or why too little is known. `since`: the first visit that counts.
    """

    visits: int
    since: float
    slope: float | None
    low: float | None
    high: float | None
    grows: str
    outside: bool
    soonest: float | None
    expected: float | None
    latest: float | None
    words: str


def trend(visits: Sequence[Visit], *, limit: float | None = None, breaks: Sequence[float] = ()) -> Trend:
    """Return the growth since the last break (a repair) and when it reaches the limit.

    What was found before a repair says nothing of what was built in then. Raises `BadQuantity` for what is no figure.
    """
    days, values, since = _counted(visits, breaks)
    outside = limit is not None and values.size > 0 and bool(values[-1] > limit)
    if len(values) < LEAST_VISITS or len(set(days)) < LEAST_VISITS:
        return _too_little(len(values), since, outside)
    slopes = _pairs(days, values)
    slope, (low, high) = float(np.median(slopes)) * YEAR, _range(slopes, len(values), orders(len(values)))
    low, high = low * YEAR, high * YEAR
    grows = "surely" if low > 0 else "no" if high <= 0 else "perhaps"
    soonest = expected = latest = None
    if limit is not None and not outside:
        soonest, expected, latest = _crossing(days, values, limit)
    words = _words(grows, outside, soonest, latest, limit is not None)
    return Trend(len(values), since, slope, low, high, grows, outside, soonest, expected, latest, words)


def _counted(visits: Sequence[Visit], breaks: Sequence[float]) -> tuple[np.ndarray, np.ndarray, float]:
    if len(visits) > most_of("visits"):
        raise BadQuantity(say("{visits} visits are more than a hub has in its life.", visits=len(visits)))
    last = max((finite(day, say("The day of a repair")) for day in breaks), default=-inf)
    rows = sorted((finite(v.day, say("The day of a visit")), finite(v.value, say("What was measured"))) for v in visits)
    rows = [row for row in rows if row[0] >= last]
    days, values = np.array([row[0] for row in rows]), np.array([row[1] for row in rows])
    return days, values, float(days[0]) if rows else max(last, 0.0)


def _too_little(visits: int, since: float, outside: bool) -> Trend:
    words = say("It is over its limit now.") if outside else say("Too little to say.")
    words += say(
        later(" No visits since the last repair; it takes {least}.")
        if not visits
        else later(" 1 visit since the last repair; it takes {least}.")
        if visits == 1
        else later(" {visits} visits since the last repair; it takes {least}."),
        visits=visits,
        least=LEAST_VISITS,
    )
    return Trend(visits, since, None, None, None, "perhaps", outside, None, None, None, words)


def _pairs(days: np.ndarray, values: np.ndarray) -> np.ndarray:
    """Return the slope of every pair of visits on different days, in order of size."""
    i, j = np.triu_indices(len(days), 1)
    apart = days[j] - days[i]
    return np.sort((values[j] - values[i])[apart > 0] / apart[apart > 0])


@cache
def orders(n: int) -> tuple[float, ...]:
    """Return how likely each count of pairs in the wrong order is among n figures in any order [Kendall's, exact]."""
    chances = np.array([1.0])
    for m in range(2, n + 1):
        chances = np.convolve(chances, np.full(m, 1.0 / m))
    return tuple(float(one) for one in chances)


def _range(figures: np.ndarray, n: int, chances: Sequence[float]) -> tuple[float, float]:
    """Return the range of pairwise figures, in order of size, that holds the true one as often as `SURE` says.

    `chances`: of each count of pairs in the wrong order among n. Between the k-th figure from either end lies the true
    one with the chance 1 − 2·P(at most k − 1 in the wrong order).
    """
    many = len(figures)
    below = np.cumsum(chances)
    holds = [1.0 - 2.0 * float(below[k - 1]) for k in range(1, many // 2 + 1)]
    k = max((k for k, share in enumerate(holds, 1) if share >= SURE), default=1)
    low, high = float(figures[k - 1]), float(figures[many - k])
    if k >= len(holds) or holds[k - 1] < SURE:
        return low, high
    part = (holds[k - 1] - SURE) / (holds[k - 1] - holds[k])
    inner = n * part / (2 + (n - 2) * part)
    return _between(low, float(figures[k]), inner), _between(high, float(figures[many - k - 1]), inner)


def _between(outer: float, inner: float, share: float) -> float:
    if not (isfinite(outer) and isfinite(inner)):
        return outer if share < 1.0 else inner
    return outer + share * (inner - outer)


def _orders_towards(days: np.ndarray, at: float) -> tuple[float, ...]:
    """Return what `orders` does for the slopes from each visit to a point on the true line, `at` days after the last.

    A late visit is near that point, so its slope is the least certain: by draws of an even-sided error, always alike.
    """
    n = len(days)
    ahead = days[-1] + max(at, (days[-1] - days[0]) / n) - days
    drawn = np.random.default_rng(DICE).standard_normal((DRAWS, n)) / ahead
    i, j = np.triu_indices(n, 1)
    wrong = np.count_nonzero(drawn[:, i] > drawn[:, j], axis=1)
    return tuple(np.bincount(wrong, minlength=len(i) + 1) / DRAWS)


def _crossing(days: np.ndarray, values: np.ndarray, limit: float) -> tuple[float | None, float | None, float | None]:
    """Return in how many days from the last visit the limit is reached: soonest, middle, latest.

    The line through each pair of visits reaches the limit on a day of its own, never where it does not rise. The true
    day lies among those days as the true slope lies among the slopes: a line through two visits overshoots it
    as often as not.
    """
    i, j = np.triu_indices(len(days), 1)
    apart = days[j] - days[i]
    i, j, apart = i[apart > 0], j[apart > 0], apart[apart > 0]
    slopes = (values[j] - values[i]) / apart
    with np.errstate(divide="ignore", invalid="ignore"):
        hit = np.where(slopes > 0, days[j] + (limit - values[j]) / slopes, np.inf) - days[-1]
    hit = np.sort(np.maximum(hit, 0.0))
    middle = float(hit[len(hit) // 2])  # of an even number the later of the two middle ones
    low, high = _range(hit, len(days), _orders_towards(days, min(middle, FAR_DAYS)))
    return tuple(float(one) if one <= FAR_DAYS else None for one in (low, middle, high))  # type: ignore[return-value]


def _words(grows: str, outside: bool, soonest: float | None, latest: float | None, limited: bool) -> str:
    if outside:
        return say("It is over its limit now.")
    if grows == "no":
        return say("It does not grow.")
    if not limited:
        return say("It grows.") if grows == "surely" else say("Whether it grows cannot be told yet.")
    if soonest is None:
        return say("The limit is not in sight.")
    if latest is None:
        return say("It may reach its limit from the first date on, or not at all.")
    return say("It reaches its limit between the two dates, four times in five.")
