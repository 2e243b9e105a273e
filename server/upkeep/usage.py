"""What a vehicle's odometer says: its readings that count, its rate, and when each of its rechecks is due by them."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import date, timedelta

from django.utils import timezone
from garage.models import Vehicle
from hematite.upkeep import Entry, Gauge, Rate, due, rate

from upkeep.models import Reading, Recheck


@dataclass(frozen=True)
class Usage:
    """Readings that count, oldest first, and what they come to: km and hours a day, the last of each with its day."""

    readings: list[Reading]
    rates: dict[str, Rate | None] = field(default_factory=dict)
    last: dict[str, tuple[float, date]] = field(default_factory=dict)

    def gauge(self, name: str, at: float | None, today: date) -> Gauge | None:
        """Return what is left of a distance or of hours; None where neither it nor a reading is known."""
        if at is None or name not in self.last:
            return None
        read, on = self.last[name]
        return Gauge(at - read, self.rates.get(name), float((today - on).days))


def usage_of(vehicle: Vehicle) -> Usage:
    """Return what a vehicle's readings come to."""
    rows = list(vehicle.readings.select_related("person"))
    replaced = {row.supersedes_id for row in rows}
    return usage([row for row in rows if row.id not in replaced and not row.withdrawn])


def usage(rows: list[Reading]) -> Usage:
    """Return what readings come to."""
    found = Usage(rows)
    for name in ("km", "hours"):
        read = [(getattr(row, name), row.on) for row in rows if getattr(row, name) is not None]
        if read:
            found.rates[name] = rate([Entry(on.toordinal(), value) for value, on in read])
            found.last[name] = max(read, key=lambda one: one[1])
    return found


def foretell(rechecks: Iterable[Recheck], known: Usage) -> list[Recheck]:
    """Set of each recheck when it is expected, and whether the odometer has passed it already."""
    today, rows = timezone.localdate(), list(rechecks)
    for row in rows:
        for name in ("km", "hours"):
            after, at = getattr(row, f"after_{name}"), f"due_{name}"
            if after and getattr(row, at) is None and name in known.last:
                # Planned before anybody had read it: it counts from the first reading that is known then.
                setattr(row, at, known.last[name][0] + after)
        _foretell(row, known, today)
    return rows


FORETOLD = ("expected_on", "soonest_on", "latest_on", "passed", "due_km", "due_hours")


def _foretell(row: Recheck, known: Usage, today: date) -> None:
    ways = {name: known.gauge(name, getattr(row, f"due_{name}"), today) for name in ("km", "hours")}
    row.passed = any(one is not None and one.left <= 0 for one in ways.values())
    by_use = due(days_left=None, **ways)
    ends = {"expected_on": by_use.expected, "soonest_on": by_use.soonest, "latest_on": by_use.latest}
    for name, ahead in ends.items():
        setattr(row, name, None if ahead is None else today + timedelta(days=round(ahead)))
    if row.passed:
        row.expected_on = min(today, row.due_on or today)
    elif row.due_on and (row.expected_on is None or row.due_on < row.expected_on):
        row.expected_on = row.due_on
