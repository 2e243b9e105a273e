"""Readings beside each other: found among thousands as they are by looking at all of them."""

import uuid
from datetime import date, timedelta

from django.test import SimpleTestCase
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from workshop.refusals import Refusal

from upkeep.counting import Counting
from upkeep.models import Reading

FIGURE = st.one_of(st.none(), st.integers(0, 9).map(float))
ENTERED = st.lists(st.tuples(st.integers(0, 6), FIGURE, FIGURE), max_size=12)


def goes_with(row: Reading, others: list[Reading]) -> bool:
    """Return whether no other day's reading speaks against it, by looking at all of them."""
    for one in others:
        for name in ("km", "hours"):
            value, other = getattr(row, name), getattr(one, name)
            if value is None or other is None or one.on == row.on:
                continue
            if (one.on < row.on and other > value) or (one.on > row.on and other < value):
                return False
    return True


class Beside(SimpleTestCase):
    """Entered one after the other, in any order of days."""

    @settings(suppress_health_check=[HealthCheck.too_slow])  # the first draw reads all of our modules for constants
    @given(ENTERED)
    def test_as_by_looking_at_all(self, entered: list[tuple[int, float | None, float | None]]) -> None:
        """What is refused is what some other day speaks against; what stands is found by its day."""
        standing: list[Reading] = []
        counting = Counting([])
        for day, km, hours in entered:
            row = Reading(id=uuid.uuid4(), on=date(2024, 1, 1) + timedelta(days=day), km=km, hours=hours)
            try:
                counting.refuse_a_way_back(row)
                taken = True
            except Refusal:
                taken = False
            self.assertEqual(taken, goes_with(row, standing), (row.on, km, hours))
            if taken:
                standing.append(row)
                counting.add(row)
            self.assertCountEqual(counting.of_day(row.on), [one for one in standing if one.on == row.on])
