"""A small population of hard-to-hear cases, of which `make bench` prints the large one.

The cases come from our own simulator, so this checks that the whole chain holds together, not how well it hears.
"""

import unittest

from bench.recorded import trials
from bench.recorded_score import judge_trials, score


class Population(unittest.TestCase):
    """A dozen cases of the medium kind."""

    def test_nobody_is_accused_wrongly_and_most_are_found(self) -> None:
        """No innocent bearing; at least two corners of five named; the same seed gives the same cases."""
        outcomes = judge_trials("medium", count=12, seed=21)
        found = score(outcomes)
        self.assertEqual(found.falsely_accused[0], 0.0)
        self.assertGreaterEqual(found.corner[0], 0.4)
        again = [truth for _, truth in trials("medium", count=12, seed=21)]
        self.assertEqual(again, [outcome.truth for outcome in outcomes])
