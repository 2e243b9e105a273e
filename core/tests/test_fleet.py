"""What comes back too soon, and how little that proves; the work to come."""

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

import numpy as np
from hematite.__main__ import main
from hematite.errors import BadQuantity
from hematite.fleet import Repair, comebacks, wilson, workload
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import fisher_exact
from statsmodels.stats.multitest import multipletests
from statsmodels.stats.proportion import proportion_confint


def repairs(**groups: tuple[int, int]) -> list[Repair]:
    """Return repairs of persons: how many came back, of how many."""
    return [
        Repair({"person": name}, 400.0, 400.0, 100.0 if n < back else None)
        for name, (back, of) in groups.items()
        for n in range(of)
    ]


class Comebacks(unittest.TestCase):
    """Counted by group."""

    def test_range_against_statsmodels(self) -> None:
        """Wilson's score interval, the same to twelve digits."""
        for of in (1, 2, 7, 40, 1000):
            for back in {0, 1, of // 2, of}:
                theirs = proportion_confint(back, of, alpha=0.05, method="wilson")
                np.testing.assert_allclose(wilson(back, of), theirs, atol=1e-12)

    def test_many_groups_against_statsmodels(self) -> None:
        """Holm's adjustment of Fisher's exact tests."""
        found = comebacks(repairs(a=(6, 10), b=(1, 30), c=(2, 25), d=(0, 9), e=(1, 2)))
        plain = [
            fisher_exact([[g.back, g.of - g.back], [10 - g.back, 66 - g.of + g.back]]).pvalue for g in found if g.of > 4
        ]
        harder = multipletests(plain, method="holm")[1]
        np.testing.assert_allclose([g.chance for g in found if g.of > 4], harder)

    def test_chance_alone_accuses_nobody(self) -> None:
        """Twenty people of one and the same skill: hardly more than one workshop of twenty sets one of them apart."""
        dice, accused = np.random.default_rng(3), 0
        for _ in range(150):
            people = {f"p{n}": (int(dice.binomial(15, 0.1)), 15) for n in range(20)}
            accused += any("more often" in group.words for group in comebacks(repairs(**people)))
        self.assertLessEqual(accused / 150, 0.07)

    def test_what_differs_is_found(self) -> None:
        """Half of thirty against one in twenty of many."""
        found = comebacks(repairs(bad=(15, 30), good=(10, 200)))
        self.assertIn("more often", found[0].words)
        self.assertEqual((found[0].name, found[0].back, found[0].of), ("bad", 15, 30))

    def test_few_and_alone_say_nothing(self) -> None:
        """Two of two, or one group alone."""
        (two,) = [group for group in comebacks(repairs(two=(2, 2), more=(1, 40))) if group.name == "two"]
        self.assertEqual((two.chance, two.words), (None, "2 are too few to say anything."))
        (alone,) = comebacks(repairs(alone=(3, 20)))
        self.assertIn("nothing beside it", alone.words)

    def test_only_what_was_watched_counts(self) -> None:
        """A repair of last week never counts, come back or not; one not seen again only where it came back."""
        part = {"part": "x"}
        rows = [Repair(part, 7.0, 7.0), Repair(part, 7.0, 7.0, 5.0), Repair(part, 900.0, 30.0)]
        self.assertEqual(comebacks(rows), [])
        held_for_years, soon = Repair(part, 900.0, 900.0, 800.0), Repair(part, 900.0, 30.0, 30.0)
        (group,) = comebacks([*rows, held_for_years, soon])
        self.assertEqual((group.back, group.of), (1, 2))
        self.assertEqual(comebacks([Repair({"part": ""}, 900.0, 900.0)]), [])

    def test_recent_repairs_bend_no_share(self) -> None:
        """Repairs of three years that come back with a known chance: the share is that of a whole year."""
        dice = np.random.default_rng(8)
        rows = []
        for ago in dice.uniform(0, 3 * 365, 6000):
            after = dice.exponential(365 / -np.log(0.8))  # one in five within a year
            rows.append(Repair({"all": "x"}, ago, ago, after if after <= ago else None))
        (group,) = comebacks(rows)
        self.assertLess(group.low, 0.2)
        self.assertGreater(group.high, 0.2)


class Workload(unittest.TestCase):
    """Week by week."""

    @given(st.lists(st.tuples(st.floats(0, 1e4), st.floats(1, 1e4)), min_size=1, max_size=20))
    def test_no_minute_is_lost(self, weeks: list[tuple[float, float]]) -> None:
        """What is done and what is left over is what was planned."""
        found = workload([one for one, _ in weeks], [one for _, one in weeks])
        done = sum(min(week.planned + week.carried, week.there_are) for week in found)
        last = found[-1]
        left = max(0.0, last.planned + last.carried - last.there_are)
        self.assertAlmostEqual(done + left, sum(one for one, _ in weeks), places=4)

    def test_what_cannot_be(self) -> None:
        """Weeks that do not match, and time that is none."""
        for planned, hours in (([1.0], []), ([-1.0], [5.0]), ([float("nan")], [5.0])):
            with self.assertRaises(BadQuantity):
                workload(planned, hours)
        self.assertEqual(workload([5.0], [0.0])[0].share, float("inf"))


class OnTheCommandLine(unittest.TestCase):
    """What the core can do, its command line can do."""

    def run_it(self, *words: str) -> tuple[int, str]:
        """Return how a command ended and what it said."""
        out = io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(out):
            return main(list(words)), out.getvalue()

    def of_table(self, text: str, *words: str) -> tuple[int, str]:
        """Return what is said of a table of repairs."""
        with tempfile.TemporaryDirectory() as folder:
            table = Path(folder) / "repairs.csv"
            table.write_text(text, encoding="utf-8")
            return self.run_it("comebacks", str(table), *words)

    def test_comebacks(self) -> None:
        """A table of repairs, as JSON and in words."""
        lines = ["ago_days,seen_days,back_days,person", *["500,400,,a"] * 7, "500,90,90,a"]
        code, said = self.of_table("\n".join(lines), "--json")
        (group,) = json.loads(said)["groups"]
        self.assertEqual((code, group["by"], group["back"], group["of"]), (0, "person", 1, 8))
        self.assertIn("person a: 1 of 8 (2% to 47%)", self.of_table("\n".join(lines))[1])
        self.assertIn("long enough", self.of_table("\n".join(lines), "--within", "600")[1])

    def test_tables_that_cannot_be(self) -> None:
        """Text for a number, a negative, a column or a file that is not there: said with the line."""
        for row, words in (
            ("x,400,", "Line 2"),
            ("-4,400,", "zero or more"),
            (",400,", "how long ago"),
            ("4", "lacks"),
        ):
            code, said = self.of_table(f"ago_days,seen_days,back_days\n{row}\n")
            self.assertEqual(code, 2)
            self.assertIn(words, said)
        self.assertEqual(self.of_table("ago_days,seen_days,back_days\n", "--within", "0")[0], 2)
        self.assertIn("cannot be read", self.run_it("comebacks", "/nowhere.csv")[1])

    def test_workload(self) -> None:
        """Weeks of minutes."""
        code, said = self.run_it("workload", "--week", "900=600", "--week", "100=0", "--json")
        self.assertEqual((code, [week["share"] for week in json.loads(said)["weeks"]]), (0, [1.5, None]))
        self.assertIn("no hours", self.run_it("workload", "--week", "900=600", "--week", "100=0")[1])
        self.assertEqual(self.run_it("workload", "--week", "soon")[0], 2)
