"""Followed from an empty case to the verdict: cheaper than the usual order, right, and as sure as it says."""

import unittest

import numpy as np
from hematite.evidence.priors import VEHICLE
from hematite.evidence.tables import chances, witnesses
from hematite.simulator.following import Followed, cases, half_way, reliability
from hematite.simulator.hands import Mechanic, draw_fault, draw_vehicle, usual_order
from hematite.verdict.looking import applicable

COUNT = 40


class Following(unittest.TestCase):
    """A small population; `make bench` prints a larger one."""

    followed: list[Followed]

    @classmethod
    def setUpClass(cls) -> None:
        """Follow them once."""
        cls.followed = list(cases(COUNT, seed=4, unlike=False))

    def test_right_and_few_wrongly_accused(self) -> None:
        """Nine in ten end at the right place in the long run (`make bench`); forty cases scatter by 5 % and more."""
        self.assertGreaterEqual(np.mean([one.right for one in self.followed]), 0.7)
        self.assertLessEqual(np.mean([one.falsely for one in self.followed]), 0.1)

    def test_fewer_minutes(self) -> None:
        """At least 30 % fewer minutes than every test in the usual order; fewer too until somebody is named."""
        total = lambda name: float(np.sum([getattr(one, name) for one in self.followed]))  # noqa: E731
        self.assertLess(total("minutes"), 0.7 * total("usual_minutes"))
        self.assertLess(total("until_named"), total("usual_until"))

    def test_as_sure_as_it_says(self) -> None:
        """What is said to be over 90 % is so at least 85 times in 100; what is under 10 %, at most 3 in 100."""
        table = reliability([pair for one in self.followed for pair in one.said])
        self.assertGreater(table[9][0], 10)
        self.assertGreater(table[9][2], 0.85)
        self.assertLess(table[0][2], 0.03)

    def test_half_way_as_well(self) -> None:
        """Left after a few random tests: in every well-filled tenth what was said is what was so, within 12 %."""
        for count, share, was in reliability(half_way(400, seed=6, unlike=False)):
            if count >= 60:
                self.assertAlmostEqual(share, was, delta=0.12)

    def test_a_reliability_table_by_hand(self) -> None:
        """Two of three that were said to be 0.95 are so; nothing was said between."""
        table = reliability([(0.95, True), (0.95, False), (0.95, True), (0.05, False)])
        self.assertEqual(table[9][0], 3)
        self.assertAlmostEqual(table[9][2], 2 / 3)
        self.assertEqual(table[0], (1, 0.05, 0.0))
        self.assertEqual(table[5], (0, 0.0, 0.0))


class Mechanics(unittest.TestCase):
    """Those who answer."""

    def test_answers_follow_the_tables(self) -> None:
        """Over many spins of a hub with one hidden cause the answers come as often as the table says."""
        dice = np.random.default_rng(2)
        vehicle = draw_vehicle(dice)
        fault = next(one for one in self.faults(vehicle) if one and one[0].place)
        counts = dict.fromkeys(witnesses()["spin"]["outcomes"], 0)
        for _ in range(3000):
            answer = Mechanic(vehicle, fault, dice).answer("spin", fault[0].place)
            counts[answer.value["answer"]] += 1
        expected = chances("spin", fault[0].cause)
        for (name, count), share in zip(counts.items(), expected, strict=True):
            self.assertAlmostEqual(count / 3000, share, delta=0.04, msg=name)

    def faults(self, vehicle):
        """Yield faults of a vehicle."""
        dice = np.random.default_rng(9)
        while True:
            yield draw_fault(vehicle, dice)

    def test_one_noise_is_one_noise(self) -> None:
        """Every test looks at the same hidden state: a rough hub stays rough, far more than by chance."""
        dice = np.random.default_rng(3)
        vehicle = draw_vehicle(dice)
        fault = next(f for f in self.faults(vehicle) if f and f[0].cause == "outer_race")
        agree = 0
        for _ in range(300):
            mechanic = Mechanic(vehicle, fault, dice)
            touched = mechanic.answer("spring_touch", fault[0].place).value["answer"] == "rough"
            heard = mechanic.answer("stethoscope", fault[0].place).value["answer"] in ("growls", "clicks")
            agree += touched == heard
        self.assertGreater(agree / 300, 0.75)

    def test_the_usual_order_holds_what_applies(self) -> None:
        """Every test that makes sense is in the usual order, the road before the lift, opening last."""
        vehicle = draw_vehicle(np.random.default_rng(5))
        order = usual_order(vehicle)
        self.assertLessEqual({(w, p) for p, tests in applicable(vehicle).items() for w in tests}, set(order))
        stages = [witnesses()[witness]["stage"] for witness, _ in order]
        self.assertEqual(stages, sorted(stages, key=["hear", "rock", "spin", "open"].index))
        self.assertEqual(order[0][1], VEHICLE)
