"""The nut, its slots and the shims: by hand, by what dials teach, and by what must hold whatever is given."""

import math
import unittest

from hematite.errors import BadQuantity, HematiteError, MeantBackwards
from hematite.setting import (
    angle_for_play,
    back_off,
    end_play_from_angle,
    learn,
    measured_gap,
    positions,
    shim_pack,
    steps_a_turn,
    tighten_on,
    to_order,
    windup,
)
from hematite.simulator import nut_play_mm
from hypothesis import given
from hypothesis import strategies as st

WINDOW = (0.025, 0.125)  # TMC RP 618, from memory
PITCHES = st.floats(0.5, 3.0)
ANGLES = st.floats(0, 270)
TORQUES = st.floats(0, 60)


class Nuts(unittest.TestCase):
    """Forwards, backwards, and what a dial teaches."""

    def test_a_gauge_that_ran_backwards_is_asked(self) -> None:
        """330 for 30, common practice, no source: asked, never assumed; answered it is the one or the other."""
        self.assertRaisesRegex(MeantBackwards, "30° back", back_off, 330)
        self.assertEqual((back_off(330, backwards=True), back_off(330, backwards=False), back_off(40)), (30, 330, 40))
        self.assertRaises(BadQuantity, back_off, 721)

    def test_the_window(self) -> None:
        """Surely, perhaps, no: pitch 1.5 mm and 30° make 0.11 to 0.14 mm, 15° 0.05 to 0.08 mm, by hand."""
        meets = {a: end_play_from_angle(pitch_mm=1.5, angle_deg=a).meets(*WINDOW) for a in (15, 30, 60, 2)}
        self.assertEqual(meets, {15: "surely", 30: "perhaps", 60: "no", 2: "no"})

    @given(PITCHES, st.floats(0, 0.5), TORQUES)
    def test_the_angle_inverts_the_play(self, pitch: float, play: float, torque: float) -> None:
        """The angle of a wished play expects it in its middle, unless nothing is left of it after the windup."""
        found = angle_for_play(pitch_mm=pitch, play_mm=play, preload_nm=torque)
        if found.play.least_mm > 0:
            self.assertAlmostEqual((found.play.least_mm + found.play.most_mm) / 2, play, places=6)

    @given(PITCHES, ANGLES, TORQUES)
    def test_monotone(self, pitch: float, angle: float, torque: float) -> None:
        """More angle never means less play; more torque never means more."""
        base = end_play_from_angle(pitch_mm=pitch, angle_deg=angle, preload_nm=torque)
        further = end_play_from_angle(pitch_mm=pitch, angle_deg=angle + 10, preload_nm=torque)
        tighter = end_play_from_angle(pitch_mm=pitch, angle_deg=angle, preload_nm=torque + 5)
        self.assertTrue(base.least_mm <= further.least_mm and base.most_mm <= further.most_mm)
        self.assertTrue(tighter.least_mm <= base.least_mm and tighter.most_mm <= base.most_mm)

    @given(st.floats(1.0, 2.0), st.floats(30, 120), st.floats(5, 40), st.floats(0, 1), st.floats(0, 1))
    def test_a_dial_narrows_the_range_and_keeps_the_truth(
        self, pitch: float, angle: float, torque: float, factor: float, stiff: float
    ) -> None:
        """Whatever friction and stiffness a hub of the simulator has: the learnt range holds it, and is no wider."""
        usual = windup(preload_nm=torque)
        hidden = usual.least_mm + (usual.most_mm - usual.least_mm) * factor * stiff
        seen = nut_play_mm(pitch_mm=pitch, angle_deg=angle, lost_mm=hidden)
        learnt = learn(pitch_mm=pitch, angle_deg=angle, play_mm=seen, preload_nm=torque)
        self.assertLessEqual(learnt.most_mm - learnt.least_mm, usual.most_mm - usual.least_mm + 1e-9)
        self.assertTrue(learnt.least_mm - 1e-9 <= hidden <= learnt.most_mm + 1e-9)

    def test_a_dial_that_contradicts(self) -> None:
        """35° of pitch 1.5 move 0.146 mm: 0.19 mm on the dial is explained by nothing, and said."""
        with self.assertRaisesRegex(BadQuantity, "no windup"):
            learn(pitch_mm=1.5, angle_deg=35, play_mm=0.19, preload_nm=24)


class Slots(unittest.TestCase):
    """Alignments by hand, and the position that the school takes."""

    def test_by_hand(self) -> None:
        """Castle nuts of six slots, retainers of twelve and eighteen, over one, two and three ends: counted out."""
        for lock, slots, by_ends in (
            ("castle", 6, (6, 6, 6)),
            ("castle", 5, (5, 10, 15)),
            ("retainer", 12, (12, 12, 12)),
            ("retainer", 18, (18, 18, 18)),
            ("castle", 12, (12, 12, 12)),
            ("castle", 18, (18, 18, 18)),
            ("castle", 8, (8, 8, 24)),
        ):
            counted = tuple(steps_a_turn(lock=lock, slots=slots, ends=ends) for ends in (1, 2, 3))
            self.assertEqual(counted, by_ends, (lock, slots))

    @given(st.integers(2, 24), st.integers(1, 6))
    def test_against_turning_it(self, slots: int, ends: int) -> None:
        """The slow twin: a nut turned in tenths of the finest step, each slot held over each end."""
        fine = 10 * slots * ends
        meets = sum(
            any((turn * 1.0 + slot * fine / slots - end * fine / ends) % fine == 0
                for slot in range(slots) for end in range(ends))
            for turn in range(fine)
        )  # fmt: skip
        self.assertEqual(meets, steps_a_turn(lock="castle", slots=slots, ends=ends))

    def test_the_lock_plate_that_moves_the_nut(self) -> None:
        """Nine holes are 40° apart, so the nearest is never more than 20° off: common practice, no source."""
        self.assertEqual(360 / steps_a_turn(lock="plate", slots=9) / 2, 20)

    def test_the_school_takes_its_own(self) -> None:
        """Twelve slots of pitch 1.5: 0.125 mm a step. Tight takes the first inside, loose the last."""
        ask = {"pitch_mm": 1.0, "window_mm": (0.02, 0.2), "lock": "castle", "slots": 12, "next_deg": 15.0}
        taken = {where: positions(where=where, **ask).chosen for where in ("tight", "middle", "loose")}  # type: ignore[arg-type]
        self.assertEqual([row and row.angle_deg for row in taken.values()], [15, 45, 45])
        self.assertTrue(all(row and row.meets == "surely" for row in taken.values()))

    def test_none_inside(self) -> None:
        """Six slots of pitch 3 mm step 0.5 mm: none in the window, and what to change is said."""
        found = positions(pitch_mm=3.0, window_mm=WINDOW, lock="castle", slots=6, next_deg=1.0)
        self.assertIsNone(found.chosen)
        self.assertRegex(" ".join(found.instead), r"washer 0\.0\d mm")
        over = positions(pitch_mm=1.5, window_mm=WINDOW, lock="retainer", slots=12, next_deg=29.9)
        self.assertIn("Turn the retainer over", " ".join(over.instead))

    @given(st.floats(0, 360), st.sampled_from([5, 6, 8, 12]))
    def test_a_clamped_nut_only_tightens(self, past: float, slots: int) -> None:
        """Never backwards, and never as far as a whole step."""
        on = tighten_on(lock="castle", slots=slots, past_deg=past)
        self.assertTrue(0 <= on <= 360 / math.lcm(slots, 2) + 1e-9)


class Shims(unittest.TestCase):
    """Gaps that tell of a tilt, stock that runs out, what to order."""

    def test_three_places(self) -> None:
        """The mean of them; more than 0.05 mm apart is a ring that stands askew."""
        self.assertAlmostEqual(measured_gap([3.00, 3.01, 2.99]).mean_mm, 3.0)
        self.assertRaisesRegex(BadQuantity, "askew", measured_gap, [3.0, 3.1, 3.0])
        self.assertRaisesRegex(BadQuantity, "3 places", measured_gap, [3.0, 3.0])

    def test_a_stock_that_runs_out(self) -> None:
        """One of 0.1 and two of 1.0 make no 3.10; one of 2.0, ordered, does with the fewest."""
        stock = {0.1: 1, 1.0: 2, 0.5: 0}
        self.assertRaisesRegex(BadQuantity, "No pack", shim_pack, total_mm=3.1, stock_mm=stock)
        ordered = to_order(total_mm=3.1, stock_mm=stock)
        self.assertEqual(ordered and sorted(ordered.shims_mm), [0.1, 1.0, 2.0])

    @given(st.dictionaries(st.sampled_from([0.05, 0.1, 0.15, 0.3, 0.5, 1.0, 1.5]), st.integers(0, 4), min_size=1))
    def test_never_more_than_there_are(self, stock: dict[float, int]) -> None:
        """Whatever the stock: packs within tolerance, of what is there, and the fewest by trying every pack."""
        total = 2.35
        try:
            best = shim_pack(total_mm=total, stock_mm=stock)[0]
        except BadQuantity:
            self.assertIsNone(_fewest(stock, total))
            return
        self.assertTrue(all(best.shims_mm.count(mm) <= stock[mm] for mm in best.shims_mm))
        self.assertLessEqual(abs(sum(best.shims_mm) - total), 0.02 + 1e-9)
        self.assertEqual(len(best.shims_mm), _fewest(stock, total))

    def test_refusals(self) -> None:
        """In the trade's words: a pack that is a spacer, a count that is none."""
        for total, stock in ((80, [1.0]), (0, [1.0]), (3, {1.0: -1}), (math.nan, [1.0]), (3, ["thin"])):
            self.assertRaises(HematiteError, shim_pack, total_mm=total, stock_mm=stock)


def _fewest(stock: dict[float, int], total: float) -> int | None:
    """Return the fewest shims of a stock within tolerance, by dynamic programming over hundredths: the slow twin."""
    sums = {0: 0}
    for mm, many in stock.items():
        for _ in range(many):
            more = {hundredths + round(mm * 100): n + 1 for hundredths, n in sums.items() if n < 6}
            sums |= {key: min(n, sums.get(key, 99)) for key, n in more.items()}
    fits = [n for hundredths, n in sums.items() if abs(hundredths - total * 100) <= 2]
    return min(fits, default=None)
