"""Whether a recheck is due: by its date, by the distance and by the hours of work, whichever comes first."""

from dataclasses import dataclass

from hematite.language import later
from hematite.upkeep.odometer import Rate, reached

SOON_DAYS = 14.0
STATES = {"overdue": later("overdue"), "due": later("due now"), "soon": later("soon"), "later": later("later")}


@dataclass(frozen=True)
class Gauge:
    """One way of counting towards a recheck: what is left since the last reading, its rate, and the days since then."""

    left: float
    rate: Rate | None = None
    days_since: float = 0.0


@dataclass(frozen=True)
class Due:
    """How a recheck stands. Days from today: expected, and from when to when (80 %) by distance; None unknown.

    `by`: date, km or hours: what comes first; '' where nothing can be said.
    """

    state: str
    by: str
    expected: float | None
    soonest: float | None = None
    latest: float | None = None


def due(*, days_left: float | None, km: Gauge | None = None, hours: Gauge | None = None) -> Due:
    """Return how a recheck stands.

    A distance that was passed by a reading is overdue whatever the date says; one without a rate waits for a reading.
    """
    ways = [_by_date(days_left), *(_by_use(name, one) for name, one in (("km", km), ("hours", hours)))]
    known = [one for one in ways if one is not None and one.expected is not None]
    if not known:
        return Due("later", "", None)
    return min(known, key=lambda one: (one.state != "overdue", one.expected))


def state_of(expected: float, soonest: float | None = None) -> str:
    """Return the state of what comes in so many days; one that may be there already is due."""
    if expected < 0:
        return "overdue"
    if expected < 1 or (soonest is not None and soonest <= 0):
        return "due"
    return "soon" if expected <= SOON_DAYS else "later"


def _by_date(days_left: float | None) -> Due | None:
    return None if days_left is None else Due(state_of(days_left), "date", days_left)


def _by_use(name: str, one: Gauge | None) -> Due | None:
    if one is None:
        return None
    if one.left <= 0:
        return Due("overdue", name, -1.0)
    if one.rate is None:
        return None
    there = reached(one.rate, one.left)
    if there.expected is None:
        return None
    # Past the expected day nobody has read it since: it is due, and only a reading can say that it is overdue.
    expected = max(0.0, there.expected - one.days_since)
    ends = [None if day is None else max(0.0, day - one.days_since) for day in (there.soonest, there.latest)]
    return Due(state_of(expected, ends[0]), name, expected, *ends)
