"""20,000 rechecks of 2,000 vehicles: the list of what is due, beside that of a workshop with one."""

import statistics
import time
import uuid
from datetime import timedelta

from cases.tests.test_log import Yard as YardTests
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from garage.models import Vehicle

from upkeep.models import Recheck

MANY = 20_000


class DueBench(YardTests):
    """Prints; asserts nothing about time."""

    test_constant_queries = test_pages_and_search = None  # type: ignore[assignment]

    def milliseconds(self, address: str) -> float:
        """Return the median of 15 answers."""
        times = []
        for _ in range(15):
            start = time.perf_counter()
            self.client.get(address)
            times.append(1000 * (time.perf_counter() - start))
        return statistics.median(times)

    def plan(self, many: int) -> None:
        """Plan rechecks over a year, one in two done."""
        vehicles, today = list(Vehicle.objects.filter(workshop=self.user.workshop)), timezone.localdate()
        rows = []
        for n in range(many):
            day = today + timedelta(days=n % 365 - 30)
            rows.append(
                Recheck(
                    id=uuid.uuid4(), workshop_id=self.user.workshop_id, vehicle=vehicles[n % len(vehicles)],
                    key="own", label="Look again", asks="look", due_on=day, expected_on=day, planned_by=self.user,
                    done_at=timezone.now() if n % 2 else None, done_by=self.user if n % 2 else None,
                )
            )  # fmt: skip
        Recheck.objects.bulk_create(rows, batch_size=2000)

    def test_print(self) -> None:
        """Measure small, then large."""
        self.plan(1)
        baseline = self.milliseconds("/api/due")
        self.grow(2000, 10_000)
        self.plan(MANY)
        for name, address in (("due soon", "/api/due"), ("all to come", "/api/due?all=true"), ("yard", "/api/yard")):
            large = self.milliseconds(address)
            with CaptureQueriesContext(connection) as seen:
                self.client.get(address)
            print(
                f"\n{MANY:,} rechecks, {name}: {large:.0f} ms in the server, {len(seen)} queries; "
                f"baseline, what is due with one: {baseline:.0f} ms; ratio {large / baseline:.1f}"
            )
