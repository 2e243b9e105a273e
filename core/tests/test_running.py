"""Grease and loads: amounts by hand, the chart's symmetry, statics, ISO 281's own examples."""

import itertools
import math
import unittest

from hematite.beliefs.priors import duties as vehicle_duties
from hematite.errors import HematiteError
from hematite.grease import amount, interval, meet, thickeners
from hematite.grease.grease import duties as grease_duties
from hematite.grease.grease import free_volume_cm3
from hematite.loads import basic_life_mrev, change, life_ratio, mean_loads, row_loads
from hypothesis import given
from hypothesis import strategies as st

WHEEL = {"load_n": 4500.0, "offset_mm": 5.0, "span_mm": 60.0, "radius_mm": 310.0}


class Grease(unittest.TestCase):
    """Amount, meeting, interval."""

    def test_free_volume_by_hand(self) -> None:
        """25 × 52 × 15 at 130 g: π/4·1.5·(5.2² − 2.5²) − 130/7.8 = 24.5 − 16.7 = 7.8 cm³, the handbooks' formula."""
        free = free_volume_cm3(bore_mm=25, outside_mm=52, width_mm=15, mass_g=130)
        self.assertAlmostEqual(free[0], 7.8, delta=0.1)
        least, most = free_volume_cm3(bore_mm=25, outside_mm=52, width_mm=15)
        self.assertTrue(least > 0 and most > least)

    def test_amount(self) -> None:
        """Bearings full, the hollow a third to a half; 0.9 g a cubic centimetre; by hand."""
        found = amount(free_cm3=[(10, 10), (20, 20)], cavity_cm3=90)
        self.assertAlmostEqual(found.grams[1], (30 + 45) * 0.9)
        self.assertFalse(found.guessed)
        for free, hollow in (([(1, 1)], -1), ([(1, 1)], 1e6), ([(1, 1)], math.nan)):
            self.assertRaises(HematiteError, amount, free_cm3=free, cavity_cm3=hollow)
        self.assertRaises(HematiteError, free_volume_cm3, bore_mm=52, outside_mm=25, width_mm=15)

    def test_the_chart(self) -> None:
        """Either way round it says the same; what no row has is unknown and washed out; polyurea meets few."""
        for old, new in itertools.product(thickeners(), repeat=2):
            self.assertEqual(meet(old, new).answer, meet(new, old).answer)
        self.assertEqual(meet("lithium", "lithium_complex").answer, "yes")
        self.assertEqual(meet("lithium", "clay").answer, "no")
        self.assertEqual(meet("calcium_sulfonate", "lithium").answer, "unknown")
        for pair in (("", "lithium"), ("calcium_sulfonate", "lithium"), ("polyurea", "lithium")):
            self.assertRegex(meet(*pair).words.lower(), "wash")
        partners = [key for key in thickeners() if key != "polyurea" and meet(key, "polyurea").answer == "yes"]
        self.assertEqual(partners, ["calcium_complex"])
        self.assertRaises(HematiteError, meet, "butter", "lithium")

    def test_duty_shortens(self) -> None:
        """Water shortens most; every duty more shortens more, and none lengthens."""
        plain, wet = interval(), interval(["water"])
        self.assertTrue(interval(["water", "dust"]).km < wet.km < plain.km)
        self.assertEqual(interval(["water", "water"]).km, wet.km)
        self.assertRaises(HematiteError, interval, ["moonlight"])
        self.assertLessEqual(set(grease_duties()), set(vehicle_duties()), "words that a vehicle may have")


class Loads(unittest.TestCase):
    """Two rows."""

    def test_statics(self) -> None:
        """In the middle they share alike; half the distance out, one bears all; the side load at the tread by hand."""
        even, out = (row_loads(load_n=4000, offset_mm=x, span_mm=60) for x in (0, 30))
        self.assertEqual([(r.outer_n, r.inner_n) for r in (even, out)], [(2000, 2000), (4000, 0)])
        bend = row_loads(load_n=4000, offset_mm=0, span_mm=60, radius_mm=300, side_n=800)
        self.assertEqual((bend.outer_n, bend.inner_n), (-2000, 6000))

    @given(st.floats(100, 9000), st.floats(-60, 60), st.floats(30, 90), st.floats(-2000, 2000))
    def test_forces_and_moments_balance(self, load: float, offset: float, span: float, side: float) -> None:
        """Whatever acts: both rows together bear the load, and their moment is the load's and the tread's."""
        rows = row_loads(load_n=load, offset_mm=offset, span_mm=span, radius_mm=310, side_n=side)
        self.assertAlmostEqual(rows.outer_n + rows.inner_n, load, places=5)
        self.assertAlmostEqual((rows.outer_n - rows.inner_n) * span / 2, offset * load - 310 * side, places=3)

    def test_life_of_the_standard(self) -> None:
        """C 55.3 kN at 10 kN: 169 million turns, a catalogue's example; from memory. Half the load: 8, or 10.1."""
        self.assertAlmostEqual(basic_life_mrev(capacity_n=55_300, load_n=10_000), 169, delta=0.5)
        self.assertAlmostEqual(life_ratio(before_n=2, after_n=1, kind="ball"), 8)
        self.assertAlmostEqual(life_ratio(before_n=2, after_n=1, kind="roller"), 2 ** (10 / 3))

    def test_mean_of_bends_is_the_cubic_mean(self) -> None:
        """Straight on only: the loads themselves. With bends: more, on the inner row by the outer wheel's."""
        straight = mean_loads(**WHEEL, bends=0)
        self.assertAlmostEqual(straight.outer_n, 4500 / 2 + 5 * 4500 / 60)
        bendy = mean_loads(**WHEEL, bends=0.3)
        self.assertTrue(bendy.inner_n > straight.inner_n and bendy.outer_n > straight.outer_n)

    @given(st.floats(1, 60))
    def test_outward_shortens_the_outer_row(self, outward: float) -> None:
        """The further out, the less is left of the outer row; the words never name hours or km."""
        near, far = (change(**WHEEL, outward_mm=out) for out in (outward, outward + 5))
        self.assertLess(far.outer_ratio, near.outer_ratio)
        self.assertNotRegex(far.words, r"\d+ ?(km|h)\b")

    def test_nothing_changed(self) -> None:
        """No outward, the same load, clean grease: the ratio is one, and water leaves a fifth, a stated guess."""
        self.assertAlmostEqual(change(**WHEEL, outward_mm=0).with_dirt, 1)
        self.assertAlmostEqual(change(**WHEEL, outward_mm=0, spoilt="water").with_dirt, 0.2)
        for wrong in (
            {"outward_mm": 900},
            {"outward_mm": 0, "span_mm": 0},
            {"outward_mm": "wide"},
            {"outward_mm": math.nan},
        ):
            self.assertRaises(HematiteError, change, **(WHEEL | wrong))
