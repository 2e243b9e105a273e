"""20,000 rechecks of 2,000 vehicles: the list of what is due, beside that of a workshop with one.

And the fleet and the yard of 10,000 cases: 200 of them open with a job begun, 5,000 repaired and closed.
"""

import itertools
import statistics
import time
import uuid
from datetime import timedelta

from cases.models import Case
from cases.tests.test_log import Yard as YardTests
from django.core.cache import cache
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from garage.models import Hub, Vehicle
from verdicts.models import Verdict

from upkeep.models import Recheck

MANY = 20_000
ADDRESSES = {
    "due soon": "/api/due", "all to come": "/api/due?all=true", "yard": "/api/yard",
    "fleet": "/api/fleet", "fleet's past": "/api/fleet/past",
}  # fmt: skip


class DueBench(YardTests):
    """Prints; asserts nothing about time."""

    test_constant_queries = test_pages_and_search = None  # type: ignore[assignment]
    test_the_board_by_what_cases_wait_for = None  # type: ignore[assignment]

    @classmethod
    def _databases_support_transactions(cls) -> bool:
        """Commit what is filled in, as a workshop's rows are: uncommitted ones cost the database several times more."""
        return False

    def milliseconds(self, address: str) -> float:
        """Return the median of 15 answers."""
        times = []
        for _ in range(15):
            start = time.perf_counter()
            self.client.get(address)
            times.append(1000 * (time.perf_counter() - start))
        return statistics.median(times)

    def decide(self, opened: int, closed: int) -> None:
        """Decide as was decided once at so many open cases, and at so many that were closed over three years."""
        self.send(f"cases/{self.case.id}/verdicts", {"hub": "A1L", "choice": "replace_unit", "reason": "worn"})
        one, now = Verdict.objects.get(), timezone.now()
        cases = list(Case.objects.filter(workshop=self.user.workshop).exclude(id=self.case.id)[: opened + closed])
        vehicles = list(Vehicle.objects.filter(cases__in=cases).distinct())
        hubs = Hub.objects.filter(axle__vehicle__cases__in=cases)
        hubs.update(name="A1L", side="left", design="hub_unit")
        for n in range(40):  # of so many kinds are its bearings
            hubs.filter(axle__vehicle__in=vehicles[n::40]).update(bearings=[{"row": "one", "designation": f"HU-{n}"}])
        for n, case in enumerate(cases[opened:]):
            case.opened_at = now - timedelta(days=n % 1000)
            case.closed_at = case.opened_at + timedelta(hours=5)
        Case.objects.bulk_update(cases[opened:], ["opened_at", "closed_at"], batch_size=500)
        kept = {field.attname: getattr(one, field.attname) for field in Verdict._meta.concrete_fields}
        rows = (
            Verdict(**kept | {"id": uuid.uuid4(), "case_id": case.id, "at": case.closed_at or now}) for case in cases
        )
        while part := list(itertools.islice(rows, 200)):
            Verdict.objects.bulk_create(part)

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
        self.decide(200, 5000)
        for name, address in ADDRESSES.items():
            cache.clear()
            start = time.perf_counter()
            self.client.get(address)
            first = 1000 * (time.perf_counter() - start)
            large = self.milliseconds(address)
            with CaptureQueriesContext(connection) as seen:
                self.client.get(address)
            print(
                f"\n{MANY:,} rechecks, {name}: {large:.0f} ms in the server, {len(seen)} queries; "
                f"with nothing kept {first:.0f} ms; "
                f"baseline, what is due with one: {baseline:.0f} ms; ratio {large / baseline:.1f}"
            )
