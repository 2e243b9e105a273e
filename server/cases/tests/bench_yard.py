"""The yard with 2,000 vehicles and 10,000 cases: time and queries beside those of a yard with one of each."""

import statistics
import time

from django.db import connection
from django.test.utils import CaptureQueriesContext

from cases.tests.test_log import Yard as YardTests


class YardBench(YardTests):
    """Prints; asserts nothing about time."""

    test_constant_queries = test_pages_and_search = None  # type: ignore[assignment]

    def milliseconds(self) -> float:
        """Return the median of 15 answers."""
        times = []
        for _ in range(15):
            start = time.perf_counter()
            self.client.get("/api/yard")
            times.append(1000 * (time.perf_counter() - start))
        return statistics.median(times)

    def test_print(self) -> None:
        """Measure small, then large."""
        small = self.milliseconds()
        self.grow(2000, 10_000)
        large = self.milliseconds()
        with CaptureQueriesContext(connection) as seen:
            self.client.get("/api/yard")
        print(
            f"\nYard, 2,000 vehicles and 10,000 cases: {large:.0f} ms in the server, {len(seen)} queries; "
            f"baseline, one of each: {small:.0f} ms; ratio {large / small:.1f}"
        )
