"""The order of a job as a question: what is asked, what counts as too early, and how often chance would be right."""

import itertools
import unittest
from math import factorial

from hematite.errors import HematiteError
from hematite.language import speaking
from hematite.policy import Policy
from hematite.training import draw, level, levels, mark, options, topics, vehicle_of
from hematite.training.ordering import asked, closed, early, orders
from hypothesis import given, settings
from hypothesis import strategies as st

# What must come before what, as every mechanic has it: common practice, no source. Names of steps without their hub.
PRACTICE = (
    ("wheel_nuts.off", "lift.off"), ("lift.off", "wheel.off"), ("wheel.off", "caliper.off"),
    ("caliper.off", "disc.off"),
    ("cap.off", "pin.off"), ("pin.off", "nut.off"), ("nut.off", "outer_bearing.off"), ("outer_bearing.off", "hub.off"),
    ("hub.off", "seal.off"), ("seal.off", "inner_bearing.off"), ("inner_bearing.on", "seal.on"), ("seal.on", "hub.on"),
    ("hub.on", "outer_bearing.on"), ("outer_bearing.on", "nut.on"), ("nut.set-dial", "pin.on"), ("pin.on", "cap.on"),
    ("wheel.on", "lift.on"), ("lift.on", "wheel_nuts.on"), ("wheel_nuts.on", "drive"),
    ("unit_bolts.off", "unit.on"), ("disc.on", "caliper.on"), ("caliper.on", "wheel.on"),
)  # fmt: skip
EVERY = list(itertools.product(topics()["order"].matters, levels(), range(30)))
NEEDS = st.integers(2, 6).flatmap(
    lambda many: st.tuples(*(st.sets(st.integers(0, n - 1)) if n else st.just(set()) for n in range(many)))
)


def questions():
    """Yield drawn questions with what is asked in each."""
    for matter, number, seed in EVERY:
        name, truth = draw("order", matter, number=number, seed=seed)
        vehicle = vehicle_of(name)
        yield truth, vehicle, asked(truth, vehicle, Policy())


class Orders(unittest.TestCase):
    """Counting orders, and finding what stands too early."""

    @given(NEEDS)
    @settings(max_examples=60, deadline=None)
    def test_as_trying_all_of_them_finds(self, rows: tuple[set[int], ...]) -> None:
        """Every order of up to six steps, held against the plain meaning of what each needs."""
        needs = closed({str(n): [str(need) for need in row] for n, row in enumerate(rows)})
        works = 0
        for order in itertools.permutations(needs):
            so = all(order.index(str(need)) < order.index(str(n)) for n, row in enumerate(rows) for need in row)
            self.assertEqual(so, not early(order, needs), order)
            works += so
        self.assertEqual(orders(needs), works)

    def test_the_last_that_it_needs_is_named(self) -> None:
        """A step that was put first is told by what it comes right after."""
        needs = closed({"a": [], "b": ["a"], "c": ["b"]})
        self.assertEqual([(one.step, one.after) for one in early(["c", "a", "b"], needs)], [("c", "b")])


class Questions(unittest.TestCase):
    """What is asked of every job at every level."""

    def test_they_ask_for_what_practice_has(self) -> None:
        """Each is in the order of the trade, of different words, as many as the level says; chance seldom finds it."""
        met = set()
        for truth, _, question in questions():
            names = [step.id.removeprefix(f"{truth.at}.") for step in question.steps]
            for before, after in PRACTICE:
                if before in names and after in names:
                    met.add((before, after))
                    self.assertLess(names.index(before), names.index(after), names)
                    self.assertIn(
                        question.steps[names.index(before)].id, question.needs[question.steps[names.index(after)].id]
                    )
            self.assertEqual(len({step.do for step in question.steps}), len(names))
            self.assertTrue(5 <= len(names) <= level(truth.level).steps[0], names)
            self.assertLessEqual(question.by_chance, 24 / factorial(len(names)))
        self.assertEqual(met, set(PRACTICE))

    def test_nothing_of_the_order_is_in_how_it_is_shown(self) -> None:
        """What is shown first is done first about as often as chance has it, and asked again it is shown the same."""
        first = 0
        for truth, vehicle, question in questions():
            self.assertEqual(question, asked(truth, vehicle, Policy()))
            first += question.shown[0] == question.steps[0].id
        self.assertLess(first, len(EVERY) * 0.3)  # a fifth to a ninth, and three standard deviations

    def test_right_wrong_and_unsafe(self) -> None:
        """Every order that works is right; turned round it is told; what makes it safe left out is a danger; shape."""
        harms = set()
        for truth, vehicle, question in questions():
            best = [step.id for step in question.steps]
            self.assertTrue(mark(truth, vehicle, (), hub="", key="", order=best).right)
            wrong = mark(truth, vehicle, (), hub="", key="", order=best[::-1])
            self.assertFalse(wrong.right)
            under = best[best.index("lift.off") + 1 :] if "lift.off" in best else []
            unsafe = {"lift.on", "drive"} & set(best) or [step for step in under if step.endswith(".off")]
            self.assertEqual(wrong.harm, "unsafe" if unsafe else "undone", best)
            harms.add(wrong.harm)
            for order in (best[1:], [*best, best[0]], [*best[1:], "x"], []):
                with self.assertRaises(HematiteError):
                    mark(truth, vehicle, (), hub="", key="", order=order)
        self.assertEqual(harms, {"unsafe", "undone"})

    def test_the_workshops_ways_and_language(self) -> None:
        """Another way of setting the nut is another step; in German the same steps are asked."""
        name, truth = draw("order", "adjust", number=3, seed=6)
        vehicle = vehicle_of(name)
        by_feel = asked(truth, vehicle, Policy(schools=Policy().schools | {"nut_setting": "feel"}))
        self.assertNotEqual(by_feel.words(), asked(truth, vehicle, Policy()).words())
        with speaking("de"):
            german = options(truth, vehicle)
        self.assertEqual([one.key for one in german], [one.key for one in options(truth, vehicle)])
        self.assertNotEqual(german, options(truth, vehicle))
