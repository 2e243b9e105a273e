"""The assessment's own promises: what it prints, what it asks next, what raises and what lowers suspicion."""

import itertools
import json
import unittest

from hematite.evidence import Observation
from hematite.evidence.weighing import causes, witnesses
from hematite.hubs import designs
from hematite.jobs import making_safe, plan
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import as_json, assess
from hematite.verdict.assessment import STANDINGS
from hematite.verdict.culprits import ACT_AT

# For each witness the answer that speaks for a sound hub, and those that speak for a bad bearing.
FINE = {"spin": "free", "rock": "nothing", "opened": "clean"}
BAD = {"spin": ("rumbles", "grinds"), "rock": ("hub",), "opened": ("marked", "metal", "rust")}


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
    return next(v.beliefs.bearing for v in assess(vehicle, [], observations).hubs if v.hub.id == hub)


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

    def test_what_convicts_one_hub_clears_the_others(self) -> None:
        """One complaint ends at one hub, mostly: a mark found at one lowers the suspicion of the rest."""
        before = suspicion(trailer(), [], "A2R")
        self.assertLess(suspicion(trailer(), [say("A1L", "opened", "marked")], "A2R"), before)
        self.assertGreater(suspicion(trailer(), [say("A1L", "opened", "clean")], "A2R"), before)

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
            say("A1L", "rock", "hub"),
            say("A1R", "spin", "free"),
            say("A2L", "rock", "nothing"),
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
        bearing = [key for key, row in causes().items() if row["group"] == "bearing"]
        for hub in result["hubs"].values():
            self.assertEqual(set(hub["mechanisms"]), set(bearing))
            self.assertAlmostEqual(sum(hub["mechanisms"].values()), hub["bearing_fault"], delta=0.001)
            self.assertAlmostEqual(hub["bearing_fault"] + sum(hub["causes"].values()), 1.0, delta=0.002)
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
        said = [say("A1L", "spin", "free"), say("A1L", "opened", "marked"), say("A1L", "rock", "nothing")]
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

    def test_never_asks_for_what_cannot_be(self) -> None:
        """Sealed units are not opened to look; the brake is held only where rocking moved something."""
        for design in ("hub_unit", "pressed_double_row"):
            said: list[Observation] = []
            for _ in range(12):
                following = as_json(assess(trailer(design, 1), [], said))["next_test"]
                if following["test"] in ("decide", "fault_lines", "level", "end_play"):
                    break
                self.assertNotEqual(following["test"], "opened")
                said.append(say(following["hub"], following["test"], FINE.get(following["test"], "vanishes")))
        rocked = [say("A1L", "rock", "nothing")]
        self.assertNotEqual(as_json(assess(trailer(), [], rocked))["next_test"]["test"], "brake_held")

    def test_never_twice(self) -> None:
        """A test that was done at a hub is not asked for there again."""
        said: list[Observation] = []
        asked = set()
        for _ in range(8):
            following = as_json(assess(trailer(axles=1), [], said))["next_test"]
            if following["test"] not in FINE:
                break
            key = (following["test"], following["hub"])
            self.assertNotIn(key, asked)
            asked.add(key)
            said.append(say(following["hub"], following["test"], FINE[following["test"]]))
        self.assertTrue(asked)

    def test_stages_exist(self) -> None:
        """Every test belongs to a stage of the work, and costs minutes."""
        for key, row in witnesses().items():
            self.assertIn(row["stage"], ("hear", "rock", "spin", "open"), key)


class Work(unittest.TestCase):
    """Steps in the order that the trade works; common practice, no source."""

    def test_safety_first(self) -> None:
        """Nuts are slackened on the ground before jacking, and stands come before anything else."""
        steps = making_safe()
        self.assertLess(
            steps.index(next(s for s in steps if "nuts" in s)), steps.index(next(s for s in steps if "stands" in s))
        )

    def test_wheel_goes_on_last_but_for_the_brake(self) -> None:
        """Whatever was done, the wheel goes on after setting and locking."""
        for design in designs():
            ids = [step.id for step in plan("replace_bearing", design)]
            self.assertGreater(ids.index("wheel-on"), ids.index("dial"), design)
            if "lock" in ids:
                self.assertGreater(ids.index("wheel-on"), ids.index("lock"), design)

    def test_torques_of_practice_only(self) -> None:
        """The light trailer torque and the 4x4 seating torque are there; nothing is invented for sealed units."""
        trailer_torques = [s.torque_nm for s in plan("adjust", "taper_pressurised") if s.torque_nm]
        seating = [s.torque_nm for s in plan("adjust", "taper_locknut") if s.torque_nm]
        self.assertEqual((trailer_torques, seating), ([(2.0, 2.3)], [(175.0,)]))
        self.assertEqual([s.id for s in plan("replace_unit", "hub_unit") if s.torque_nm], [])
