"""What a decision may say, whatever was told: its grade, what is settled, and what at a hub adds up."""

import unittest

from hematite.evidence import Observation
from hematite.evidence.witnesses import outcomes, slot_of, witnesses
from hematite.following import applicable, next_job
from hematite.verdict import Assessment, assess
from hypothesis import given, settings

from tests.test_network import CAR, LOGS, TANDEM, VAN, say

SETTLED, ACT, SUSPECT = 0.9, 0.7, 0.3  # as docs/method.md has them
STRONG = ("spin", "rumbles"), ("spring_touch", "rough"), ("stethoscope", "growls")


def judged(log: list[Observation], of=VAN) -> Assessment:
    """Return the assessment of a log."""
    return assess(of, [], log)


class Laws(unittest.TestCase):
    """Over random logs."""

    @settings(max_examples=25)
    @given(LOGS)
    def test_grades_and_settling_follow_the_probability(self, log: list[Observation]) -> None:
        """Danger is off the road; else act, suspect and open lie at 0.7 and 0.3; settled needs 0.9."""
        found = judged(log)
        decision, named = found.decision, [c for c in found.culprits if c.cause != "bearing"]
        p = decision.probability
        self.assertFalse(decision.settled and p < SETTLED)
        if decision.choice == "leave":
            self.assertEqual(decision.grade, "clear" if decision.settled else "open")
        elif decision.grade != "danger":
            by_p = "act" if p >= ACT else "suspect" if p >= SUSPECT else "open"
            elsewhere = decision.choice == "look_elsewhere" and p >= ACT and not named
            self.assertEqual(decision.grade, "suspect" if elsewhere else by_p)
        if decision.choice == "look_elsewhere" and decision.settled and decision.hub is None:
            self.assertTrue(named)

    @settings(max_examples=25)
    @given(LOGS)
    def test_what_is_said_of_a_hub_adds_up(self, log: list[Observation]) -> None:
        """One fault at a time adds up to 1; of every fault one choice is right; culprits stand surest first."""
        found = judged(log)
        for verdict in found.hubs:
            choice = verdict.choice
            self.assertAlmostEqual(sum(choice.mutual.values()), 1.0, places=6)
            self.assertAlmostEqual(choice.mutual["sound"], verdict.belief.sound)
            self.assertEqual(len({one.rule.level for one in choice.fired}), 1)
            self.assertLessEqual(choice.road.probability, 1.0)
            self.assertGreaterEqual(min(choice.mutual.values()), 0.0)
            for cause, p in verdict.belief.causes.items():
                if cause in choice.mutual and p:
                    self.assertLessEqual(choice.mutual[cause], p + 1e-9, cause)
            likely = {cause for cause, p in choice.mutual.items() if p > 0.02}
            self.assertLessEqual(likely, set(choice.right))
        keys = [(-c.probability, c.cause, c.hub or "", c.side or "") for c in found.culprits]
        self.assertEqual(keys, sorted(keys))

    @settings(max_examples=15)
    @given(LOGS)
    def test_what_stops_the_vehicle_comes_before_its_repair(self, log: list[Observation]) -> None:
        """Only the repair itself is said to come next; every other choice is offered or has its reason against."""
        for verdict in judged(log).hubs:
            choice = verdict.choice
            comes_next = [one.choice for one in choice.alternatives if one.because.startswith("It comes next")]
            due = choice.choice == "off_road" and choice.repair != "off_road"
            self.assertEqual(comes_next, [choice.repair] if due else [])
            for one in choice.alternatives:
                if one.because.startswith("Likely"):
                    self.assertGreaterEqual(one.probability, 0.005)
                    self.assertIn(f"{one.probability * 100:.0f} %", one.because)
                elif one.possible:
                    self.assertLess(one.probability, 0.005)


class Told(unittest.TestCase):
    """Cases told."""

    def test_what_sits_beside_a_sound_bearing_shares_what_is_left(self) -> None:
        """One at a time: each by how likely it is with the bearing sound, all together what bearing and sound leave."""
        for log in ([say("spin", "scrapes", "A2L"), say("heat", "hot", "A2L")], [say("tyre_edge", "cupped", "A2L")]):
            verdict = judged(log).at("A2L")
            belief, mutual = verdict.belief, verdict.choice.mutual
            sound = [not any(slot_of(cause) == "bearing" for cause in state) for state in belief.space.states]
            beside = {
                cause: sum(p for p, state, ok in zip(belief.chances, belief.space.states, sound, strict=True)
                           if ok and cause in state)
                for cause in belief.causes if slot_of(cause) != "bearing"
            }  # fmt: skip
            left = 1 - belief.sound - sum(p for cause, p in belief.causes.items() if slot_of(cause) == "bearing")
            for cause, p in beside.items():
                self.assertAlmostEqual(mutual[cause], left * p / sum(beside.values()), places=9, msg=cause)

    def test_a_brake_for_certain_is_the_hubs_own_matter(self) -> None:
        """The decision is at that hub, as likely as the brake there; less certain, it is the vehicle's as a whole."""
        scrape = [say(kind, answer, "A2L") for kind, answer in (("spin", "scrapes"), ("heat", "hot"))]
        surer = [*scrape, say("complaint", "grind"), say("brake_test", "changes"), say("coast_down", "short", "A2L")]
        for log in (scrape, surer):
            found = judged(log)
            at_hub = found.at("A2L").choice
            own = found.at("A2L").belief.of(at_hub.asks["look_elsewhere"])
            self.assertEqual((found.decision.choice, found.decision.hub), ("look_elsewhere", "A2L"))
            if own >= SETTLED:
                self.assertAlmostEqual(found.decision.probability, own)
            else:
                self.assertGreater(found.decision.probability, own)

    def test_a_click_belongs_to_the_hub_it_was_felt_at(self) -> None:
        """Not to those before or after it by name."""
        for at in ("A1R", "A2L"):
            found = judged([say("rock_12_6", "hub", at, click=True)])
            self.assertEqual(
                {v.hub.id: v.choice.facts["click"] for v in found.hubs if v.choice.facts["click"]}, {at: True}
            )

    def test_grades_in_turn(self) -> None:
        """Nothing, a doubtful rumble, and all that speaks for a worn bearing."""
        growl = [say("complaint", "growl"), say("load_test", "right")]
        worn = [say(kind, answer, "A2L") for kind, answer in STRONG]
        self.assertEqual(judged([]).decision.grade, "open")
        self.assertEqual(judged([*growl, *worn]).decision.grade, "act")
        self.assertEqual((judged([*growl, *worn]).decision.hub, judged(worn).hubs[0].hub.id), ("A2L", "A2L"))

    def test_clicks_in_a_bend_point_at_a_joint_nobody_touched(self) -> None:
        """And at no side; a wheel swapped points at no joint."""
        clicks = [say("complaint", "click"), say("turn_clicks", "left")]
        named = [(c.cause, c.hub or c.side) for c in judged(clicks, CAR).culprits]
        self.assertEqual(named, [("drive_joint", None)])
        swapped = [say("complaint", "click"), say("wheel_swap", "stays")]
        self.assertNotIn("drive_joint", [c.cause for c in judged(swapped, CAR).culprits if c.hub])

    def test_four_alike_stand_in_the_order_of_their_places(self) -> None:
        """Marked everywhere: no corner is preferred but by its name."""
        hubs = ["A1L", "A1R", "A2L", "A2R"]
        found = judged([say("opened", "marked", hub) for hub in reversed(hubs)], TANDEM)
        self.assertEqual([c.hub for c in found.culprits], hubs)

    def test_after_a_decision_comes_the_job_then_its_proof(self) -> None:
        """Where the bearing stays there is only the recheck; another cause is mended first."""
        self.assertEqual(next_job("adjust", "A1L", step="Cap off.").stage, "do")
        self.assertEqual(next_job("adjust", "A1L", step="Cap off.").label, "Do it: adjust")
        self.assertEqual(next_job("adjust", "A1L").label, "Prove it and plan the recheck")
        for choice, words in (("leave", "looked at again"), ("look_elsewhere", "once the other cause is mended")):
            found = next_job(choice, "A1L")
            self.assertEqual((found.stage, found.label), ("prove", "Plan the recheck"))
            self.assertIn(words, found.why)

    def test_any_test_may_be_answered_both_ways(self) -> None:
        """Two people, one hub, two answers: each counts for half, and the two are shown as a contradiction."""
        for witness in applicable(VAN)["A1L"]:
            names = outcomes(witness)
            log = [say(witness, name, "A1L") for name in (names[0], names[-1])]
            if "asked_as" in witnesses()[witness] or witness in ("fault_lines", "end_play"):
                continue
            with self.subTest(witness):
                found = judged(log)
                self.assertTrue(all(0 <= verdict.probability <= 1 for verdict in found.hubs))
                self.assertIn("A1L", [one.hub for one in found.contradictions])
