"""Play and the two sums against trade facts and hand arithmetic."""

import itertools
import unittest

from hematite.errors import BadQuantity
from hematite.hubs import designs
from hematite.play import DIAL_RESOLUTIONS_MM, end_play, hub_movement_mm, tyre_movement_mm
from hematite.setting import end_play_from_angle, shim_pack, shim_total_mm
from hematite.vehicles import Hub
from hypothesis import given
from hypothesis import strategies as st

TAPER = Hub("A1L", "left", "taper_castle")
SEALED = Hub("A1L", "left", "hub_unit")


class EndPlay(unittest.TestCase):
    """Three readings against the window."""

    def test_figures(self) -> None:
        """Mean and sample standard deviation by hand; uncertainty by the GUM (JCGM 100:2008, 4.2 and 4.3.7)."""
        play = end_play([0.21, 0.22, 0.20], TAPER.play_window_mm)
        self.assertAlmostEqual(play.mean_mm, 0.21)
        self.assertAlmostEqual(play.spread_mm, 0.01)
        self.assertAlmostEqual(play.uncertainty_mm, (0.01**2 / 3 + 0.01**2 / 12) ** 0.5)
        self.assertEqual(play.outcome, "over")

    def test_windows(self) -> None:
        """Default windows: tapers 0.025–0.125 mm [TMC RP 618, from memory]; hub units 0.05 mm [memory]."""
        cases = [
            (TAPER, [0.07, 0.06, 0.07], "within"),  # a trace is normal and wanted on tapers: common practice
            (SEALED, [0.07, 0.08, 0.07], "over"),  # the same play in a sealed unit is worn: common practice
            (TAPER, [0.0, 0.0, 0.0], "none"),
            (TAPER, [0.9, 0.95, 0.9], "far_over"),
            (SEALED, [0.01, 0.02, 0.01], "within"),
            (Hub("A1L", "left", "taper_castle", play_max_mm=0.25), [0.21, 0.22, 0.20], "within"),
            (Hub("A2C", "centre", "cup_cone"), [0.0, 0.0, 0.01], "none"),
        ]
        for hub, readings, outcome in cases:
            with self.subTest(hub=hub.design_key, readings=readings):
                self.assertEqual(end_play(readings, hub.play_window_mm).outcome, outcome)

    def test_doubt_at_the_edge(self) -> None:
        """At the limit itself the two sides are about equally likely."""
        play = end_play([0.125, 0.126, 0.124], TAPER.play_window_mm)
        self.assertAlmostEqual(play.outcomes["within"], play.outcomes["over"], delta=0.05)

    def test_doubt_by_hand(self) -> None:
        """Student's distribution of three readings has a closed form, ½ + t/(2·√(2 + t²)) (two degrees of freedom)."""
        play, below = end_play([0.09, 0.10, 0.11], TAPER.play_window_mm), lambda t: 0.5 + t / (2 * (2 + t * t) ** 0.5)
        low, high = ((edge - 0.10) / play.uncertainty_mm for edge in (0.025, 0.125))
        self.assertAlmostEqual(play.outcomes["none"], below(low))
        self.assertAlmostEqual(play.outcomes["within"], below(high) - below(low))

    def test_edges(self) -> None:
        """Half a step of the gauge is none where none is allowed; four times the window, or 0.5 mm, is far over."""
        none = Hub("A2C", "centre", "cup_cone")
        self.assertGreater(end_play([0.0, 0.0, 0.0126], none.play_window_mm).outcomes["none"], 0.5)
        self.assertLess(end_play([0.0, 0.01, 0.01], none.play_window_mm).outcomes["none"], 0.5)
        wide = Hub("A1L", "left", "taper_castle", play_max_mm=0.2)
        for hub, reading, outcome in (
            (wide, 0.75, "over"), (wide, 0.85, "far_over"), (TAPER, 0.48, "over"), (TAPER, 0.52, "far_over"),
        ):  # fmt: skip
            self.assertEqual(end_play([reading] * 3, hub.play_window_mm).outcome, outcome)
        self.assertEqual(DIAL_RESOLUTIONS_MM, {"mm": 0.01, "in": 0.0005 * 25.4})

    @given(st.sampled_from(sorted(designs())), st.lists(st.floats(0, 3), min_size=3, max_size=9))
    def test_shares_add_up(self, design: str, readings: list[float]) -> None:
        """Whatever is read, the outcomes' shares add up to one, and none is negative."""
        outcomes = end_play(readings, Hub("A1L", "left", design).play_window_mm).outcomes
        self.assertAlmostEqual(sum(outcomes.values()), 1.0, places=9)
        self.assertTrue(min(outcomes.values()) >= 0)

    def test_refusals(self) -> None:
        """Too few, negative, text, out of this world."""
        for readings, words in (
            ([0.1, 0.1], "at least 3"),
            ([0.1, 0.1, -0.1], "negative"),
            ([0.1, 0.1, "loose"], "loose"),
            ([210, 220, 200], "decimal point"),
            ([0.1, 0.1, float("inf")], "finite"),
        ):
            with self.subTest(readings), self.assertRaisesRegex(BadQuantity, words):
                end_play(readings, TAPER.play_window_mm)


class Lever(unittest.TestCase):
    """Movement at the tyre and at the hub."""

    def test_trade_fact(self) -> None:
        """About 3 mm near the hub shows as 10–13 mm at the tyre: common practice, no source."""
        seen = tyre_movement_mm(hub_movement_mm=3.0, tyre_radius_mm=316, hub_radius_mm=80)
        self.assertTrue(10 <= seen <= 13, seen)
        self.assertAlmostEqual(hub_movement_mm(tyre_movement_mm=seen, tyre_radius_mm=316, hub_radius_mm=80), 3.0)

    def test_impossible(self) -> None:
        """A hub larger than its tyre."""
        with self.assertRaisesRegex(BadQuantity, "Swap"):
            hub_movement_mm(tyre_movement_mm=10, tyre_radius_mm=80, hub_radius_mm=316)


class Nut(unittest.TestCase):
    """End play from the nut's angle."""

    def test_travel(self) -> None:
        """Pitch 1.5 mm, 30° → 0.125 mm, pitch·angle/360 by hand; the range holds it when no preload is spent."""
        play = end_play_from_angle(pitch_mm=1.5, angle_deg=30)
        self.assertAlmostEqual(play.geometric_mm, 0.125)
        self.assertTrue(play.least_mm < 0.125 < play.most_mm)

    def test_preload_is_spent_first(self) -> None:
        """From 24 N·m, by hand: F = T/(K·d) = 24/(0.2·0.024) = 5 kN, over 3e8 N/m 0.017 mm less; inside the range."""
        bare, loaded = (end_play_from_angle(pitch_mm=1.5, angle_deg=35, preload_nm=t) for t in (0, 24))
        self.assertTrue(loaded.least_mm < bare.geometric_mm - 5000 / 3e8 * 1000 < loaded.most_mm)
        self.assertLess(loaded.most_mm, bare.most_mm)

    def test_the_range_by_hand(self) -> None:
        """Three degrees are 0.0125 mm of pitch 1.5; from 24 N·m the windup is 8333 N/1.5e8 to 4000 N/6e8 N/m."""
        bare = end_play_from_angle(pitch_mm=1.5, angle_deg=30)
        self.assertAlmostEqual(bare.least_mm, 0.1125)
        self.assertAlmostEqual(bare.most_mm, 0.1375)
        loaded = end_play_from_angle(pitch_mm=1.5, angle_deg=35, preload_nm=24)
        self.assertAlmostEqual(loaded.least_mm, 0.145833 - 0.0125 - 0.055556, places=5)
        self.assertAlmostEqual(loaded.most_mm, 0.145833 + 0.0125 - 0.006667, places=5)
        self.assertEqual(end_play_from_angle(pitch_mm=1.5, angle_deg=2).least_mm, 0.0)

    def test_two_turns_at_most(self) -> None:
        """More than two turns is refused."""
        self.assertEqual(end_play_from_angle(pitch_mm=1.5, angle_deg=720).geometric_mm, 3.0)
        with self.assertRaisesRegex(BadQuantity, "2 turns"):
            end_play_from_angle(pitch_mm=1.5, angle_deg=720.5)


class Shims(unittest.TestCase):
    """The shim pack."""

    def test_trade_example(self) -> None:
        """Gap 3.00 mm, 0.05 mm a side, both sides set from one → 3.10 mm: common practice, no source."""
        self.assertAlmostEqual(shim_total_mm(gap_mm=3.0, end_play_mm=0.05, sides=2), 3.10)

    def test_fewest_first(self) -> None:
        """The fewest shims that make it stand first; the next best follow."""
        packs = shim_pack(total_mm=3.10, stock_mm=[0.1, 0.5, 1.0, 1.5])
        self.assertEqual(packs[0].shims_mm, (1.5, 1.5, 0.1))
        self.assertEqual(packs[0].error_mm, 0.0)
        self.assertTrue(all(len(a.shims_mm) <= len(b.shims_mm) for a, b in itertools.pairwise(packs)))

    def test_none_makes_it(self) -> None:
        """Said plainly."""
        with self.assertRaisesRegex(BadQuantity, "No pack"):
            shim_pack(total_mm=3.10, stock_mm=[1.0])
        with self.assertRaisesRegex(BadQuantity, "stock list"):
            shim_pack(total_mm=3.10, stock_mm=[])

    def test_limits(self) -> None:
        """Six shims at most, forty thicknesses; the tolerance itself still counts."""
        self.assertEqual(shim_pack(total_mm=3.0, stock_mm=[0.5])[0].shims_mm, (0.5,) * 6)
        self.assertEqual(shim_pack(total_mm=3.1, stock_mm=[3.08])[0].error_mm, -0.02)
        self.assertEqual(shim_pack(total_mm=3.06, stock_mm=[3.08])[0].error_mm, 0.02)
        for total, stock, words in ((3.5, [0.5], "No pack"), (1.0, [1 + n / 10 for n in range(41)], "41 thick")):
            with self.assertRaisesRegex(BadQuantity, words):
                shim_pack(total_mm=total, stock_mm=stock)
        self.assertTrue(shim_pack(total_mm=1.0, stock_mm=[1 + n / 10 for n in range(40)]))
