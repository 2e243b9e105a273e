"""The assessment's own promises: what it prints, what it asks next, what raises and what lowers suspicion."""

import itertools
import json
import unittest

import numpy as np
from bench.plain import Plain
from bench.world import draw_case
from hematite.decision import ACT_AT
from hematite.evidence import Observation
from hematite.evidence.witnesses import LIFT_MINUTES, OPEN_MINUTES, causes, witnesses
from hematite.following import Progress
from hematite.hubs import designs
from hematite.jobs import making_safe
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import as_json, assess
from hematite.verdict.assessment import STANDINGS

# For each witness the answer that speaks for a sound hub, and those that speak for a bad bearing.
FINE = {"spin": "free", "rock_12_6": "nothing", "opened": "clean", "spring_touch": "smooth", "in_out": "nothing"}
BAD = {"spin": ("rumbles", "grinds"), "rock_12_6": ("hub",), "opened": ("marked", "metal", "rust"),
       "spring_touch": ("rough",), "in_out": ("moves",)}  # fmt: skip


def trailer(design: str = "taper_pressurised", axles: int = 2) -> Vehicle:
    """Return a trailer with two wheels an axle."""
    return Vehicle(
        tuple(Axle((Hub(f"A{n}L", "left", design), Hub(f"A{n}R", "right", design))) for n in range(1, axles + 1))
    )


def say(hub: str, kind: str, answer: str) -> Observation:
    """Return one answer at a hub."""
    return Observation(kind, hub, {"answer": answer})


def suspicion(vehicle: Vehicle, observations: list[Observation], hub: str = "A1L") -> float:
    """Return the probability of a bearing fault at a hub."""
    return next(v.belief.bearing for v in assess(vehicle, [], observations).hubs if v.hub.id == hub)


class Direction(unittest.TestCase):
    """Evidence against a hub never lowers its suspicion, evidence for it never raises it."""

    def test_every_witness_alone(self) -> None:
        """Fine lowers, bad raises; on every design."""
        for design in designs():
            vehicle = trailer(design)
            start = suspicion(vehicle, [])
            for kind, answer in FINE.items():
                with self.subTest(design=design, kind=kind):
                    self.assertLess(suspicion(vehicle, [say("A1L", kind, answer)]), start)
                    for bad in BAD[kind]:
                        self.assertGreater(suspicion(vehicle, [say("A1L", kind, bad)]), start, bad)

    def test_on_top_of_anything_else(self) -> None:
        """Whatever else was said, one more bad sign raises and one more good sign lowers."""
        answers = {kind: (FINE[kind], BAD[kind][0]) for kind in FINE}
        for kind, fine in FINE.items():
            others = [k for k in FINE if k != kind]
            for said in itertools.product(*(answers[k] for k in others)):
                before = [say("A1L", k, a) for k, a in zip(others, said, strict=True)]
                level = suspicion(trailer(), before)
                with self.subTest(kind=kind, said=said):
                    self.assertGreater(suspicion(trailer(), [*before, say("A1L", kind, BAD[kind][0])]), level)
                    self.assertLess(suspicion(trailer(), [*before, say("A1L", kind, fine)]), level)

    def test_play(self) -> None:
        """More play is more suspicion, from the middle of the window on."""
        levels = [
            suspicion(trailer(), [Observation("end_play", "A1L", {"readings_mm": [mm, mm + 0.01, mm]})])
            for mm in (0.07, 0.14, 0.3, 0.9)
        ]
        self.assertEqual(levels, sorted(levels))

    def test_repeats_do_not_pile_up(self) -> None:
        """The same answer three times is one witness."""
        once = [say("A1L", "spin", "rumbles")]
        self.assertAlmostEqual(suspicion(trailer(), once), suspicion(trailer(), once * 3), places=12)

    def test_order_never_matters(self) -> None:
        """Any order of five observations gives the same answer, to the last digit that is printed."""
        said = [
            say("A1L", "spin", "rumbles"),
            say("A1L", "rock_12_6", "hub"),
            say("A1R", "spin", "free"),
            say("A2L", "rock_12_6", "nothing"),
            Observation("end_play", "A1L", {"readings_mm": [0.2, 0.21, 0.2]}),
        ]
        answers = set()
        for order in itertools.permutations(said):
            answers.add(json.dumps(as_json(assess(trailer(), [], list(order)))["hubs"]["A1L"]["bearing_fault"]))
        self.assertEqual(len(answers), 1)


class Printed(unittest.TestCase):
    """The shape that the command line and the screens rely on."""

    def test_shape(self) -> None:
        """Every hub, every mechanism, probabilities that add up, words for every standing."""
        result = as_json(assess(trailer(axles=3), [], [say("A3R", "opened", "marked")]))
        self.assertEqual(next(iter(result["hubs"])), "A3R")
        self.assertEqual(len(result["hubs"]), 6)
        bearing = {row.get("mechanism", key) for key, row in causes().items() if row["group"] == "bearing"}
        for hub in result["hubs"].values():
            self.assertEqual(set(hub["mechanisms"]), bearing)
            self.assertAlmostEqual(sum(hub["mechanisms"].values()), hub["bearing_fault"], delta=0.001)
            self.assertEqual(hub["standing_label"], STANDINGS[hub["standing"]])
        self.assertEqual(json.loads(json.dumps(result)), result)

    def test_culprits_are_those_to_act_on(self) -> None:
        """Only what is certain enough is a culprit, and every culprit names cause, hub and side."""
        result = as_json(assess(trailer(), [], [say("A2R", "opened", "marked"), say("A1L", "spin", "drags")]))
        self.assertEqual([c["hub"] for c in result["culprits"]], ["A2R"])
        culprit = result["culprits"][0]
        self.assertGreaterEqual(culprit["probability"], ACT_AT)
        self.assertEqual((culprit["cause"], culprit["side"]), ("bearing", "right"))
        self.assertIn(culprit["mechanism"], ("outer_race", "inner_race"))

    def test_witnesses_are_told_by_weight(self) -> None:
        """The heaviest witness stands first, whichever way it speaks."""
        said = [say("A1L", "spin", "free"), say("A1L", "opened", "marked"), say("A1L", "rock_12_6", "nothing")]
        told = as_json(assess(trailer(), [], said))["hubs"]["A1L"]["witnesses"]
        self.assertEqual(told[0]["witness"], "opened")
        weights = [abs(row["bits"]) for row in told]
        self.assertEqual(weights, sorted(weights, reverse=True))
        for row in told:
            self.assertTrue(row["why"] and row["standing"] and row["words"])

    def test_unheard_is_not_quiet(self) -> None:
        """A hub that nobody looked at is not called fine."""
        hubs = as_json(assess(trailer(), [], [say("A1L", "spin", "free")]))["hubs"]
        self.assertEqual((hubs["A1L"]["standing"], hubs["A1R"]["standing"]), ("quiet", "unheard"))


class NextTest(unittest.TestCase):
    """The one next thing worth doing."""

    def follow(self, kind: str, seed: int, steps: int = 25) -> list[tuple[str, str | None]]:
        """Return what is asked of a vehicle with hidden faults, its mechanic answering each time."""
        made = draw_case(np.random.default_rng(seed), Plain(), kind)
        observations, asked = [], []
        for _ in range(steps):
            following = assess(made.vehicle, [], observations).next_test
            if following.test == "decide":
                break
            asked.append((following.test, following.hub))
            observations.append(made.answer(following.test, following.hub or ""))
        return asked

    def test_never_asks_for_what_cannot_be_and_never_twice(self) -> None:
        """Sealed units are not opened; trailers have no engine, buttons only pressurised caps; each test once a hub."""
        road = {"speed_test", "load_test", "coast_test", "turn_clicks", "surface_test", "spring_touch"}
        never = {"bicycle": road | {"in_gear", "abs_lamp"}, "boat_trailer": road | {"in_gear"}, "car": {"opened"}}
        for seed, (kind, cannot) in enumerate(never.items()):
            asked = self.follow(kind, seed)
            tests = [test for test, _ in asked]
            with self.subTest(kind):
                self.assertTrue(asked)
                self.assertEqual(len(set(asked)), len(asked))
                self.assertFalse(set(tests) & cannot)
                self.assertFalse(kind != "boat_trailer" and "cap_button" in tests)
                self.assertLessEqual(tests.count("fault_lines"), 1, "a recorder refused once is refused")
        rocked = [say("A1L", "rock_12_6", "nothing")]
        self.assertNotEqual(as_json(assess(trailer(), [], rocked))["next_test"]["test"], "brake_held")

    def test_what_is_apart_costs_less(self) -> None:
        """Lifting counts once, opening once a hub."""
        on_its_wheels, lifted = Progress(), Progress(lifted=True, opened=frozenset({"A1L"}))
        self.assertEqual(on_its_wheels.minutes("spin", "A1L") - lifted.minutes("spin", "A1L"), LIFT_MINUTES)
        self.assertEqual(lifted.minutes("opened", "A1R") - lifted.minutes("opened", "A1L"), OPEN_MINUTES)
        self.assertEqual(on_its_wheels.minutes("complaint", ""), lifted.minutes("complaint", ""))

    def test_not_done_and_could_not_tell_are_not_asked_again(self) -> None:
        """Both are answers, weigh nothing, and the test that was asked for first is not asked for again."""
        first = assess(trailer(), [], []).next_test
        for answer in ("unsure", "not_done"):
            passed = Observation(first.test, first.hub or "", {"answer": answer})
            found = assess(trailer(), [], [passed])
            self.assertNotEqual((found.next_test.test, found.next_test.hub), (first.test, first.hub))
            self.assertAlmostEqual(found.nothing, assess(trailer(), [], []).nothing, places=12)

    def test_stages_exist(self) -> None:
        """Every test belongs to a stage of the work, and costs minutes."""
        for key, row in witnesses().items():
            self.assertIn(row["stage"], ("hear", "rock", "spin", "open"), key)


class Work(unittest.TestCase):
    """Steps in the order that the trade works; common practice, no source."""

    def test_safety_first(self) -> None:
        """To test the nuts stay tight; to work they are slackened on the ground, before jacking; both end on stands."""
        test, work = making_safe()
        self.assertIn("nuts are tight", test.steps[0])
        self.assertNotIn("loose", " ".join(test.steps))
        self.assertRegex(work.steps[0], "On the ground.*loose")
        for lift in (test, work):
            places = [
                next(n for n, step in enumerate(lift.steps) if word in step) for word in ("nuts", "Jack", "stands")
            ]
            self.assertEqual(places, sorted(places))
