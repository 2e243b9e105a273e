"""Verdict, steps, proof, recheck; and the sums."""

import uuid
from datetime import date, timedelta

from verdicts.models import Verdict
from workshop.tests.people import WorkshopTestCase, vehicle_data, wav


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
        of_none = {"id": str(uuid.uuid4()), "step": "lift", "done": True}
        self.assertEqual(self.send(f"{self.path}/job/ticks", of_none).status_code, 422)
        self.assertEqual(self.send(f"{self.path}/job/ticks", of_none | {"verdict": str(uuid.uuid4())}).status_code, 404)
        verdict = self.accept().json()["id"]
        ids = [step["id"] for step in self.client.get(f"/api/{self.path}/job").json()["steps"]]
        self.assertIn("unit-swap", ids)
        for done in (True, False):
            body = {"id": str(uuid.uuid4()), "step": "lift", "done": done, "verdict": verdict}
            steps = self.send(f"{self.path}/job/ticks", body).json()["steps"]
            self.assertEqual(next(step["done"] for step in steps if step["id"] == "lift"), done)
        body = {"id": str(uuid.uuid4()), "step": "dance", "done": True, "verdict": verdict}
        self.assertEqual(self.send(f"{self.path}/job/ticks", body).status_code, 422)

    def proof(self, verdict: str = "") -> dict:
        """Return what proves a job."""
        return self.client.get(f"/api/{self.path}/proof{f'?verdict={verdict}' if verdict else ''}").json()

    def finish(self, **more: object):
        """Close the case."""
        return self.send(f"{self.path}/finish", {"outcome": "Quiet", "after_km": 50, "why": "nuts"} | more)

    def test_sound_before_and_after(self) -> None:
        """Like with like: the line that convicted is named first, and it is gone; at another speed nothing is said."""
        self.assertFalse(self.proof()["ready"])
        self.accept()
        self.assertIsNone(self.proof()["sound"])
        self.record("A1L", wav("sound", seed=8), after_repair=True)
        sound = self.proof()["sound"]
        self.assertEqual(sound["outcome"], "better")
        self.assertEqual((sound["lines"][0]["convicting"], sound["lines"][0]["went"]), (True, True))
        slow = {"kind": "wheel", "turns_per_s": 5.0}
        self.record("A1L", wav("sound", seed=9), after_repair=True, speed=slow)
        self.assertEqual(self.proof()["sound"]["outcome"], "cannot_compare")
        self.assertIn("turns a second", self.proof()["sound"]["words"])

    def test_hands_prove_beside_what_was_before(self) -> None:
        """An answer after the job stands beside the one before it, and neither supersedes the other."""
        verdict = self.accept().json()["id"]
        spins = next(one for one in self.proof()["checks"] if one["key"] == "spins")
        self.assertEqual((spins["before"], spins["answer"]), (["rumbles"], ""))
        check = {"check": "spins", "answer": "good"}
        self.assertEqual(self.observe("A1L", "check", check, job=verdict).status_code, 201)
        spins = next(one for one in self.proof()["checks"] if one["key"] == "spins")
        self.assertEqual((spins["before"], spins["answer"]), (["rumbles"], "good"))
        self.assertIn("spins free and even", self.proof()["closing"]["words"])
        self.assertEqual(self.observe("A1L", "check", {"check": "dances", "answer": "good"}).status_code, 422)

    def test_what_is_found_after_unmakes_no_diagnosis(self) -> None:
        """Readings after the job leave the belief of before as it was; the vehicle as it stands is its own sum."""
        before = self.client.get(f"/api/{self.path}/assessment").json()
        old = self.observe("A1L", "rock_12_6", {"answer": "hub"}).json()
        suspected = self.client.get(f"/api/{self.path}/assessment").json()["hubs"]["A1L"]["bearing_fault"]
        self.assertGreater(suspected, before["hubs"]["A1L"]["bearing_fault"])
        verdict = self.accept().json()["id"]
        refused = self.observe("A1L", "rock_12_6", {"answer": "nothing"}, job=verdict, supersedes=old["id"])
        self.assertEqual(refused.json()["code"], "other_phase")
        for kind, answer in (("rock_12_6", "nothing"), ("spin", "free"), ("spring_touch", "smooth")):
            self.observe("A1L", kind, {"answer": answer}, job=verdict)
        again = self.client.get(f"/api/{self.path}/assessment").json()["hubs"]["A1L"]["bearing_fault"]
        self.assertEqual(again, suspected)
        now = self.client.get(f"/api/{self.path}/assessment?now=true").json()["hubs"]["A1L"]["bearing_fault"]
        self.assertLess(now, 0.1)
        stranger = self.observe("A1L", "spin", {"answer": "free"}, job=str(uuid.uuid4()))
        self.assertEqual(stranger.status_code, 404)

    def test_next_is_the_job_then_its_proof(self) -> None:
        """Once decided it no longer asks for tests; a new finding asks again."""
        verdict = self.accept().json()["id"]
        follow = lambda: self.client.get(f"/api/{self.path}/assessment").json()["next_test"]["test"]  # noqa: E731
        self.assertEqual(follow(), "do")
        tick = {"id": str(uuid.uuid4()), "step": "lift", "done": True, "verdict": verdict}
        self.send(f"{self.path}/job/ticks", tick)
        self.assertEqual(follow(), "prove")
        self.observe("A1L", "stethoscope", {"answer": "quiet"})
        self.assertNotIn(follow(), ("do", "prove"))

    def test_its_state_is_another_word_after_every_change(self) -> None:
        """Whatever is logged, recorded, decided or done, every screen that shows the case learns of it."""
        states = [self.client.get(f"/api/{self.path}/state").json()["state"]]

        def changed() -> None:
            states.append(self.client.get(f"/api/{self.path}/state").json()["state"])
            self.assertEqual(len(set(states)), len(states))

        self.observe("A1L", "spin", {"answer": "rumbles"})
        changed()
        recorded = self.record("A1L", wav()).json()["id"]
        changed()
        self.send(f"recordings/{recorded}/withdraw", {"withdrawn": True})
        changed()
        verdict = self.accept().json()["id"]
        changed()
        self.send(f"{self.path}/job/ticks", {"id": str(uuid.uuid4()), "step": "lift", "done": True, "verdict": verdict})
        changed()
        self.send(f"vehicles/{self.vehicle.id}", vehicle_data() | {"revision": 1}, method="put")
        changed()
        self.assertEqual(self.neighbour.get(f"/api/{self.path}/state").status_code, 404)

    def test_two_jobs_keep_their_own_ticks_and_proof(self) -> None:
        """A second decision hides nothing: each hub's plan, ticks and checks are reached by its verdict."""
        first = self.accept().json()["id"]
        second = self.accept("replace_unit", "they age together", hub="A1R").json()["id"]
        tick = {"id": str(uuid.uuid4()), "step": "lift", "done": True, "verdict": first}
        self.assertEqual(self.send(f"{self.path}/job/ticks", tick).json()["verdict"]["hub"], "A1L")
        done = {}
        for verdict in (first, second):
            job = self.client.get(f"/api/{self.path}/job?verdict={verdict}").json()
            done[job["verdict"]["hub"]] = any(step["done"] for step in job["steps"])
            self.assertEqual({one["hub"] for one in job["jobs"]}, {"A1L", "A1R"})
        self.assertEqual(done, {"A1L": True, "A1R": False})
        self.observe("A1L", "check", {"check": "spins", "answer": "good"}, job=first)
        answers = [next(c["answer"] for c in self.proof(v)["checks"] if c["key"] == "spins") for v in (first, second)]
        self.assertEqual(answers, ["good", ""])

    def test_closing_says_what_was_proven(self) -> None:
        """Never in silence: what is open needs a reason, which is kept; a recheck in the past or none is refused."""
        self.accept()
        yesterday = str(date.today() - timedelta(days=2))
        for body in ({"after_km": None}, {"after_km": None, "due_on": yesterday}, {"outcome": ""}):
            self.assertEqual(self.finish(**body).status_code, 422, body)
        refused = self.finish()
        self.assertEqual(refused.json()["code"], "unproven")
        self.assertIn("Not done", refused.json()["message"])
        closed = self.finish(unproven_because="The owner took it home").json()["case"]
        self.assertTrue(closed["closed_at"])
        self.assertEqual(closed["unproven_because"], "The owner took it home")
        self.assertIn("A1L", closed["closing"])

    def test_after_leave_there_is_nothing_to_prove(self) -> None:
        """The recheck is planned instead."""
        self.accept("leave", "owner waits")
        self.assertTrue(self.proof()["untouched"])
        self.assertEqual(self.finish().status_code, 200)

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
