"""Verdict, steps, proof, recheck; and the sums."""

import io
import uuid
from datetime import date, timedelta

from pypdf import PdfReader
from verdicts.models import Verdict
from workshop.tests.people import AGAIN, WorkshopTestCase, vehicle_data, wav

from jobs.models import StepEntry


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

    def job(self) -> dict:
        """Return the job as a screen sees it."""
        return self.client.get(f"/api/{self.path}/job").json()

    def enter(self, step: str, kind: str = "done", **more: object):
        """Enter something at a step."""
        return self.send(f"{self.path}/job/entries", {"id": str(uuid.uuid4()), "step": step, "kind": kind} | more)

    def test_steps(self) -> None:
        """Steps follow from the hub; ticks, notes and figures are kept with who and when; a tick is taken back."""
        self.assertEqual(self.job()["steps"], [])
        self.assertEqual(self.enter("lift.off").json()["code"], "nothing_decided")
        self.accept()
        steps = {step["id"]: step for step in self.job()["steps"]}
        self.assertIn("A1L.unit.on", steps)
        for kind, done in (("done", True), ("undone", False), ("done", True)):
            self.assertEqual(self.enter("lift.off", kind).json()["kind"], kind)
            found = {step["id"]: step for step in self.job()["steps"]}
            self.assertEqual(found["lift.off"]["done"], done)
        self.enter("A1L.unit_bolts.on", "note", note="one stiff", quantity="torque", value=99.0)
        said = {step["id"]: step for step in self.job()["steps"]}["A1L.unit_bolts.on"]["entries"][0]
        self.assertEqual((said["note"], said["quantity"], said["value"]), ("one stiff", "torque", 99.0))
        self.assertTrue(said["person"])
        log = self.client.get(f"/api/{self.path}").json()["work"]
        self.assertEqual([row["undone"] for row in log], [False, True, False, False])
        self.assertIn("note: one stiff 99.0 N·m: New bolts", log[-1]["words"])
        for wrong in ({"quantity": "colour", "value": 1}, {"kind": "danced"}, {"value": "tight"}, {"value": 3.0}):
            self.assertEqual(self.enter("lift.off", **({"kind": "note"} | wrong)).status_code, 422, wrong)
        for step in ("dance", "A9L.cap.off", "A1L.moon.off", "A1L", ""):
            self.assertEqual(self.enter(step).status_code, 422, step)
        again = {"id": str(uuid.uuid4()), "step": "lift.off", "kind": "done"}
        for _ in range(2):
            self.assertEqual(self.send(f"{self.path}/job/entries", again).status_code, 200)
        self.assertEqual(StepEntry.objects.filter(id=again["id"]).count(), 1)

    def test_it_will_not_move(self) -> None:
        """The ladder with what each rung costs; the rung that is tried is a step; what it ruins is bought."""
        self.accept()
        unit = {step["id"]: step for step in self.job()["steps"]}["A1L.unit.off"]
        rungs = {rung["key"]: rung for rung in unit["ladder"]}
        self.assertEqual(next(iter(rungs)), "soak")
        self.assertGreater(rungs["heat"]["money"], 0)
        self.enter("A1L.unit.off", "stuck", rung="knuckle_off")
        stuck = self.job()
        ids = [step["id"] for step in stuck["steps"]]
        self.assertLess(ids.index("A1L.knuckle_whole.off"), ids.index("A1L.unit.off"))
        self.assertIn("Hub unit", {item["label"] for item in stuck["lists"]["parts"]})
        self.assertEqual(self.enter("A1L.unit.off", "stuck", rung="pray").status_code, 422)
        self.assertEqual(self.enter("A1L.unit.on", "stuck", rung="soak").json()["code"], "no_such_step")
        self.enter("A1L.unit.off", "stuck", rung="")
        self.assertNotIn("A1L.knuckle_whole.off", [step["id"] for step in self.job()["steps"]])

    def test_lists_and_the_day(self) -> None:
        """Tools, parts and minutes; the day ends later with parts on their way; on paper and as CSV."""
        self.accept()
        job = self.job()
        self.assertIn("Bolts of the unit", {item["label"] for item in job["lists"]["parts"]})
        self.assertEqual(job["day"]["blocked"], [])
        self.assertGreater(job["steps"][1]["start"], 0)
        later = self.client.get(f"/api/{self.path}/job?parts_in_h=5").json()
        self.assertGreater(later["day"]["end"], job["day"]["end"])
        self.assertEqual(self.client.get(f"/api/{self.path}/job?hands=40").status_code, 422)
        rows = self.client.get(f"/api/{self.path}/job/lists.csv").content.decode()
        self.assertIn("To buy,Hub unit,,A1L,decided", rows)
        sheet = self.client.get(f"/api/{self.path}/job/sheet.pdf")
        text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(sheet.content)).pages)
        self.assertIn("Unit out of the knuckle", text)
        self.assertIn("not known; look it up", text)

    def test_another_decision_keeps_what_still_holds(self) -> None:
        """What is off stays off under the new plan; what had gone back is taken off again."""
        self.accept()
        for step in ("layout", "A1L.wheel_nuts.off", "lift.off", "A1L.wheel.off"):
            self.enter(step)
        self.accept("replace_bearing", "the unit is not to be had")
        done = {step["id"] for step in self.job()["steps"] if step["done"]}
        self.assertEqual(done, {"layout", "A1L.wheel_nuts.off", "lift.off", "A1L.wheel.off"})
        self.enter("A1L.wheel.on")
        self.accept("replace_unit")
        done = {step["id"] for step in self.job()["steps"] if step["done"]}
        self.assertEqual(done, {"layout", "A1L.wheel_nuts.off", "lift.off"})

    def test_both_sides_are_one_plan(self) -> None:
        """Accepted for both sides each hub has its own verdict, and the vehicle is lifted once."""
        body = {"hub": "A1L", "choice": "replace_unit", "reason": "", "both": True, "id": str(uuid.UUID(int=5))}
        for _ in range(2):
            self.assertEqual(self.send(f"{self.path}/verdicts", body).status_code, 201)
        job = self.job()
        self.assertEqual(
            [(one["hub"], one["choice"]) for one in job["jobs"]], [("A1L", "replace_unit"), ("A1R", "replace_unit")]
        )
        self.assertEqual(sum(step["id"] == "lift.off" for step in job["steps"]), 1)
        self.assertEqual(Verdict.objects.count(), 2)
        self.assertIn("with A1L", Verdict.objects.get(hub="A1R").reason)

    def test_what_cannot_be_done_is_refused(self) -> None:
        """Nothing is adjusted at a sealed unit."""
        self.assertEqual(self.accept("adjust", "because").json()["code"], "cannot_be_done")

    def test_off_the_road_leads_on_to_the_repair(self) -> None:
        """It stands first; what is to be mended then is in the same plan, without departing from the advice."""
        self.observe("A1L", "danger_signs", {"answer": "wobbles"})
        self.assertEqual(self.accept("off_road").status_code, 201)
        ids = [step["id"] for step in self.job()["steps"]]
        self.assertEqual(ids[:2], ["A1L.stop", "A1L.carry"])
        self.assertLess(ids.index("A1L.unit.off"), ids.index("A1L.unit.on"))
        self.assertTrue(self.job()["jobs"][0]["repair_label"])

    def proof(self, verdict: str = "") -> dict:
        """Return what proves a job."""
        return self.client.get(f"/api/{self.path}/proof{f'?verdict={verdict}' if verdict else ''}").json()

    def finish(self, **more: object):
        """Close the case."""
        return self.send(f"{self.path}/finish", {"outcome": "Quiet", "rechecks": [AGAIN]} | more)

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
        self.accept()
        follow = lambda: self.client.get(f"/api/{self.path}/assessment").json()["next_test"]["test"]  # noqa: E731
        self.assertEqual(follow(), "do")
        for step in self.job()["steps"]:
            self.enter(step["id"])
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
        self.accept()
        changed()
        self.enter("lift.off")
        changed()
        self.send(f"vehicles/{self.vehicle.id}", vehicle_data() | {"revision": 1}, method="put")
        changed()
        self.assertEqual(self.neighbour.get(f"/api/{self.path}/state").status_code, 404)

    def test_two_jobs_are_one_plan_and_two_proofs(self) -> None:
        """A second decision hides nothing: both hubs are in the plan, and each has its own checks."""
        first = self.accept().json()["id"]
        self.enter("A1L.wheel.off")
        second = self.accept("replace_unit", "they age together", hub="A1R").json()["id"]
        job = self.job()
        self.assertEqual([one["hub"] for one in job["jobs"]], ["A1L", "A1R"])
        self.assertEqual({step["id"] for step in job["steps"] if step["done"]}, {"A1L.wheel.off"})
        self.observe("A1L", "check", {"check": "spins", "answer": "good"}, job=first)
        answers = [next(c["answer"] for c in self.proof(v)["checks"] if c["key"] == "spins") for v in (first, second)]
        self.assertEqual(answers, ["good", ""])

    def test_closing_says_what_was_proven(self) -> None:
        """Never in silence: what is open needs a reason, which is kept; a recheck in the past or none is refused."""
        self.accept()
        yesterday = str(date.today() - timedelta(days=2))
        undated, past = AGAIN | {"after_km": None}, AGAIN | {"due_on": yesterday}
        for body in ({"rechecks": []}, {"rechecks": [undated]}, {"rechecks": [past]}, {"outcome": ""}):
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
