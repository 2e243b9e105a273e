"""Verdict, steps, proof, recheck; and the sums."""

import uuid
from datetime import date, timedelta

from verdicts.models import Verdict
from workshop.tests.people import WorkshopTestCase, wav


class Job(WorkshopTestCase):
    """From a verdict to a closed case."""

    def setUp(self) -> None:
        """Hear and feel a worn hub."""
        super().setUp()
        self.record("A1L", wav("outer_race"))
        self.observe("A1L", "spin", {"answer": "rumbles"})
        self.path = f"cases/{self.case.id}"

    def accept(self, choice: str = "replace_unit", reason: str = "", hub: str = "A1L"):
        """Accept a verdict."""
        return self.send(f"{self.path}/verdicts", {"hub": hub, "choice": choice, "reason": reason})

    def test_against_the_advice_needs_a_reason(self) -> None:
        """A mechanic may decide otherwise, with a reason; both are kept, and later evidence changes neither."""
        self.assertEqual(self.accept("leave").json()["code"], "reason_needed")
        kept = self.accept("leave", "scrapped next week").json()
        self.assertEqual((kept["choice"], kept["advised"]), ("leave", "replace_unit"))
        frozen = Verdict.objects.get().assessment
        self.observe("A1L", "rock", {"answer": "nothing"})
        self.assertEqual(Verdict.objects.get().assessment, frozen)
        self.assertEqual(self.accept("replace_bearing", "x").status_code, 201)
        self.assertEqual(self.accept("wait_and_see", "x").status_code, 422)
        self.assertEqual(self.accept(hub="A9L").status_code, 422)

    def test_steps(self) -> None:
        """Steps follow from the choice and the design; ticks are kept, and taken back."""
        self.assertEqual(self.client.get(f"/api/{self.path}/job").json()["steps"], [])
        refused = self.send(f"{self.path}/job/ticks", {"id": str(uuid.uuid4()), "step": "lift", "done": True})
        self.assertEqual(refused.json()["code"], "no_verdict")
        self.accept()
        ids = [step["id"] for step in self.client.get(f"/api/{self.path}/job").json()["steps"]]
        self.assertIn("unit-swap", ids)
        for done in (True, False):
            body = {"id": str(uuid.uuid4()), "step": "lift", "done": done}
            steps = self.send(f"{self.path}/job/ticks", body).json()["steps"]
            self.assertEqual(next(step["done"] for step in steps if step["id"] == "lift"), done)
        body = {"id": str(uuid.uuid4()), "step": "dance", "done": True}
        self.assertEqual(self.send(f"{self.path}/job/ticks", body).status_code, 422)

    def test_proof_and_recheck(self) -> None:
        """Before against after, then closed with a recheck; a recheck in the past or none is refused."""
        self.accept()
        self.assertFalse(self.client.get(f"/api/{self.path}/proof").json()["ready"])
        self.record("A1L", wav("sound", seed=8), after_repair=True)
        proof = self.client.get(f"/api/{self.path}/proof").json()
        self.assertEqual(proof["outcome"], "better")
        self.assertTrue(any(line["kind"] == "outer_race" and line["went"] for line in proof["lines"]))
        yesterday = str(date.today() - timedelta(days=2))
        for body in ({"outcome": "done"}, {"outcome": "done", "due_on": yesterday}, {"outcome": "", "after_km": 50}):
            self.assertEqual(self.send(f"{self.path}/finish", body).status_code, 422)
        closed = self.send(f"{self.path}/finish", {"outcome": "Quiet", "after_km": 50, "why": "nuts"}).json()
        self.assertEqual((closed["recheck"]["after_km"], bool(closed["case"]["closed_at"])), (50, True))

    def test_after_recordings_do_not_accuse(self) -> None:
        """What was heard after the repair is no evidence for the verdict before it."""
        before = self.client.get(f"/api/{self.path}/assessment").json()
        self.record("A1L", wav("sound", seed=8), after_repair=True)
        self.assertEqual(self.client.get(f"/api/{self.path}/assessment").json(), before)

    def test_sums(self) -> None:
        """Nut, shims and lever answer as the core does; impossible figures are refused."""
        nut = self.send("sums/nut", {"pitch_mm": 1.5, "angle_deg": 30}).json()
        self.assertAlmostEqual(nut["geometric_mm"], 0.125)
        shims = self.send("sums/shims", {"gap_mm": 3, "end_play_mm": 0.05, "sides": 2, "stock_mm": [0.1, 1.5]}).json()
        self.assertEqual((round(shims["total_mm"], 3), shims["packs"][0]["shims_mm"]), (3.1, [1.5, 1.5, 0.1]))
        lever = {"tyre_movement_mm": 12, "tyre_radius_mm": 320, "hub_radius_mm": 80}
        self.assertAlmostEqual(self.send("sums/lever", lever).json()["hub_movement_mm"], 3.0)
        self.assertEqual(self.send("sums/nut", {"pitch_mm": -1, "angle_deg": 30}).status_code, 422)
        self.assertEqual(self.send("sums/lever", lever | {"hub_radius_mm": 400}).status_code, 422)
        self.assertEqual(self.send("sums/nut", {"pitch_mm": None, "angle_deg": 30}).status_code, 422)
