"""Wrenches, stages and wheel nuts; threads against an open table; the stop-gap against VDI 2230's formula."""

import csv
import math
import unittest
from pathlib import Path

from hematite.errors import BadQuantity, HematiteError
from hematite.sums import work_out
from hematite.threads import read_thread
from hematite.tightening import (
    Wrench,
    again,
    choose_wrench,
    proof_load_kn,
    retightened,
    set_with_extension,
    stages,
    stop_gap,
    strokes,
)
from hematite.units import to_si
from hypothesis import given
from hypothesis import strategies as st

PUBLISHED = Path(__file__).parent / "published"
WASHER_FACE = 1.5  # outside of a bolt head's face over its thread, as hexagon heads have it
HOLE = 1.1  # clearance hole over the thread
# Friction of thread and head that VDI 2230 gives for bolts as they come, lightly oiled [published,
# table A5, class B, from memory].
FRICTION = (0.08, 0.16)


class Threads(unittest.TestCase):
    """Designations."""

    def test_against_an_open_table(self) -> None:
        """Every coarse metric size, and every inch size with its turns, of another author's list."""
        with (PUBLISHED / "threads.csv").open() as file:
            listed = [row["thread"] for row in csv.DictReader(file)]
        self.assertGreater(len(listed), 40)
        for thread in listed:
            size, _, pitch = thread.rpartition("-")
            if size.startswith("M"):
                self.assertEqual(
                    (read_thread(size).pitch_mm, read_thread(thread).pitch_mm), (float(pitch),) * 2, thread
                )
            else:
                self.assertAlmostEqual(read_thread(thread).pitch_mm, 25.4 / int(pitch), msg=thread)
        unified = {"3/4-16": "3/4 UNF", "7/8-14": "7/8 UNF", "1/2-13": "1/2 UNC", "5/8-11": "5/8 unc"}
        for turns, series in unified.items():
            self.assertAlmostEqual(read_thread(turns).pitch_mm, read_thread(series).pitch_mm, msg=series)

    def test_as_they_are_written(self) -> None:
        """With a cross, an x, a star, a comma, in inches with a whole part."""
        for text in ("M24×1.5", "m24 x 1.5", "M24*1,5", "M24-1.5"):
            self.assertEqual(read_thread(text).words, "M24×1.5")
        self.assertAlmostEqual(read_thread("1 1/8-12 UNF").diameter_mm, 28.575)
        self.assertAlmostEqual(read_thread("1-14 UNS").pitch_mm, 25.4 / 14)
        for text in ("", "24", "M", "M99", "3/4", "1/0-16", "W3/8", "M24×9", "M12×0", "‑", "1" * 40):
            self.assertRaises(BadQuantity, read_thread, text)


class Wrenches(unittest.TestCase):
    """The lever rule, ranges and stages."""

    def test_by_hand(self) -> None:
        """100 N·m with 100 mm on a wrench of 400: 80 straight on, 100 across, 133.3 folded back; by hand."""
        for angle, nm in ((0, 80), (90, 100), (180, 133.333), (60, 100 * 400 / 450)):
            found = set_with_extension(torque_nm=100, length_mm=400, extension_mm=100, angle_deg=angle)
            self.assertAlmostEqual(found, nm, places=3)
        with self.assertRaisesRegex(BadQuantity, "lever"):
            set_with_extension(torque_nm=100, length_mm=200, extension_mm=190, angle_deg=180)

    @given(st.floats(5, 500), st.floats(200, 900), st.floats(0, 150), st.floats(-90, 90), st.floats(0.01, 50))
    def test_whatever_the_unit(self, nm: float, length: float, extension: float, angle: float, factor: float) -> None:
        """Lengths in any one unit give the same; the torque at the nut, turned back, is the one that was asked for."""
        found = set_with_extension(torque_nm=nm, length_mm=length, extension_mm=extension, angle_deg=angle)
        other = set_with_extension(
            torque_nm=nm, length_mm=length * factor, extension_mm=extension * factor, angle_deg=angle
        )
        self.assertAlmostEqual(found, other, places=6)
        self.assertAlmostEqual(found / length * (length + extension * math.cos(math.radians(angle))), nm, places=6)

    def test_not_the_lowest_fifth(self) -> None:
        """110 N·m wants the one to 200, not the one to 25, and not the one to 1,000 whose fifth starts at 200."""
        wrenches = [Wrench("large", 100, 1000), Wrench("small", 5, 25), Wrench("middle", 20, 200)]
        self.assertEqual(getattr(choose_wrench(110, wrenches), "label", ""), "middle")
        self.assertIsNone(choose_wrench(30, wrenches[:2]))
        self.assertIsNone(choose_wrench(30, []))

    def test_stages_and_strokes(self) -> None:
        """The last stage is the whole; 180° in two strokes, 100° in two of 50."""
        self.assertEqual(stages(100), (50, 80, 100))
        self.assertEqual((strokes(180), strokes(100), strokes(30)), ((90, 90), (50, 50), (30,)))
        for wrong in (0, -5, 400, "half", math.nan):
            self.assertRaises(HematiteError, strokes, wrong)


class WheelNuts(unittest.TestCase):
    """Again after half an hour, and after 50 to 100 km: common practice, no source."""

    def test_by_clock_and_odometer(self) -> None:
        """Early, due, late, done; the half hour is due however far it drove; an odometer runs forwards."""
        self.assertEqual((again(minutes_since=10).state, again(minutes_since=31).state), ("early", "due"))
        for times, by_km in (
            (1, ["due", "due", "due", "late"]),
            (2, ["early", "due", "due", "late"]),
            (3, ["done"] * 4),
        ):
            states = [
                again(minutes_since=40, times=times, then_km=81_200, now_km=81_200 + km).state
                for km in (10, 50, 100, 101)
            ]
            self.assertEqual(states, by_km, times)
        self.assertIn("81250 and 81300", again(minutes_since=40, times=2, then_km=81_200).words)
        self.assertIn("note the odometer", again(minutes_since=40, times=2).words)
        self.assertRaisesRegex(BadQuantity, "backwards", again, minutes_since=40, then_km=100, now_km=90)

    def test_what_a_nut_that_moved_says(self) -> None:
        """A click says no less is there; a little is settling; much is a fault."""
        said = [retightened(torque_nm=110, moved_at_nm=nm) for nm in (110, 95, 60)]
        self.assertRegex(said[0], "held")
        self.assertRegex(said[1], "settling")
        self.assertRegex(said[2], "more than settling")


class StopGaps(unittest.TestCase):
    """M6 to M24 in 8.8 and 10.9."""

    def test_against_another_formula(self) -> None:
        """VDI 2230's F·(0.159·P + 0.577·d2·µ + DKm/2·µ) [published, from memory] at the same clamp, about ours."""
        for size in (6, 8, 10, 12, 14, 16, 18, 20, 22, 24):
            for grade in ("8.8", "10.9"):
                ours = stop_gap(f"M{size}", grade)
                force = proof_load_kn(f"M{size}", grade) * 0.75
                thread = read_thread(f"M{size}")
                flank = thread.diameter_mm - 0.6495 * thread.pitch_mm
                under = (WASHER_FACE + HOLE) / 2 * thread.diameter_mm / 2
                theirs = [force * (0.159 * thread.pitch_mm + 0.577 * flank * mu + under * mu) for mu in FRICTION]
                self.assertTrue(
                    theirs[0] < ours.least_nm < ours.most_nm < theirs[1] * 1.02, (size, grade, theirs, ours)
                )

    def test_conversion(self) -> None:
        """10 kgf·m are 98.07 N·m [published: NIST SP 811]: in the table of units, and in what the sum says."""
        self.assertAlmostEqual(to_si(10, quantity="torque", unit="kgf_m"), 98.07, places=2)
        said = dict(work_out("torque", {"torque_nm": 98.0665}).working)["In other units"]
        self.assertRegex(said, "72.3\u00a0lbf·ft = 868.0\u00a0lbf·in = 10.00\u00a0kgf·m")
