"""Real work as a question: a closed, proven case, learnt on without whose it was."""

import json
import uuid

from cases.models import Case
from django.test import Client
from django.utils import timezone
from garage.models import Vehicle
from people.models import Role, User
from photos.models import Photo
from recordings.hearing import hear_recording
from recordings.models import Recording
from workshop.tests.people import AGAIN, WorkshopTestCase, vehicle_data, wav

from training.models import Card, Exercise, Lesson, Round
from training.watching import watch_exercise

WHOSE = ("Greta Winterstein", "QX 81 LMO", "Bakery van", "the blue house")


class Lessons(WorkshopTestCase):
    """A hub heard, felt, replaced and proven; then learnt on."""

    def setUp(self) -> None:
        """Do a job with names in every free field, and close it."""
        super().setUp()
        Vehicle.objects.filter(pk=self.vehicle.pk).update(label=WHOSE[2], plate=WHOSE[1], age_years=11.7)
        Case.objects.filter(pk=self.case.pk).update(complaint=f"{WHOSE[0]} says it growls, louder in left bends")
        self.record("A1L", wav("outer_race"))
        self.record("A1R", wav("sound"))
        self.hear()
        Recording.objects.filter(case=self.case).update(gain_group=f"{WHOSE[0]}'s phone")
        self.observe("", "complaint", {"text": f"{WHOSE[0]} says it growls", "bends": "left"})
        self.observe("A1L", "spin", {"answer": "rumbles"})
        self.observe("A1L", "end_play", {"readings_mm": [0.02, 0.03, 0.02], "instrument": WHOSE[0]})
        self.observe("A1L", "note", {"text": f"for {WHOSE[0]}, {WHOSE[3]}"})
        self.path = f"cases/{self.case.id}"

    def hear(self) -> None:
        """Hear all that waits."""
        for row in Recording.objects.filter(analysis__state="waiting"):
            hear_recording(str(row.id))

    def finish(self, **checks: str) -> str:
        """Replace it, prove it and close; return the verdict."""
        verdict = self.send(f"{self.path}/verdicts", {"hub": "A1L", "choice": "replace_unit", "reason": "sure"}).json()
        for check, answer in ({"spins": "good"} | checks).items():
            value = {"check": check, "answer": answer, "note": WHOSE[3]}
            found = {"id": str(uuid.uuid4()), "hub": "A1L", "kind": "check", "value": value, "job": verdict["id"]}
            self.assertEqual(self.send(f"{self.path}/observations", found).status_code, 201)
        body = {"outcome": f"{WHOSE[0]} is glad", "rechecks": [AGAIN], "unproven_because": f"{WHOSE[0]} drives it"}
        self.assertEqual(self.send(f"{self.path}/finish", body).status_code, 200)
        return str(verdict["id"])

    def lesson(self, *, kept: bool = True, client: Client | None = None):
        """Ask for it to be learnt on."""
        return self.send(f"{self.path}/lesson", {"kept": kept}, method="put", client=client)

    def begun(self, client: Client | None = None) -> Exercise:
        """Begin a round of real work, and its question."""
        made = self.send("training/rounds", {"topic": "real"}, client=client)
        self.assertEqual(made.status_code, 201, made.content)
        number = made.json()["exercises"][0]["id"]
        self.assertEqual(self.send(f"training/exercises/{number}/begin", client=client).status_code, 200)
        return Exercise.objects.get(pk=number)

    def test_what_can_be_learnt_on(self) -> None:
        """Not an open case, nor one that nothing proved: torqued nuts prove no bearing; why not is said."""
        self.assertIn("closed", self.client.get(f"/api/{self.path}/lesson").json()["why_not"])
        self.assertEqual(self.lesson().status_code, 422)
        self.finish(spins="not_done", wheel_nuts="good")
        self.assertIn("Nothing proved it", self.lesson().json()["message"])
        self.assertEqual(self.send("training/rounds", {"topic": "real"}).json()["code"], "no_lesson")
        self.assertNotIn("real", [one["key"] for one in self.client.get("/api/training").json()["topics"]])

    def test_what_came_back_proves_nothing(self) -> None:
        """A hub that was decided on again in a later case is not learnt on."""
        self.finish()
        self.assertEqual(self.client.get(f"/api/{self.path}/lesson").json()["why_not"], "")
        later = self.send("cases", {"vehicle": str(self.vehicle.id)}).json()["id"]
        Case.objects.filter(pk=later).update(opened_at=timezone.now())
        body = {"hub": "A1L", "choice": "replace_unit", "reason": "again"}
        self.assertEqual(self.send(f"cases/{later}/verdicts", body).status_code, 201)
        self.assertIn("came back", self.lesson().json()["message"])

    def test_one_tap_and_back(self) -> None:
        """Who decides makes it a question, once however often it is asked; taken back, nobody is asked any more."""
        self.finish()
        for _ in range(2):
            self.assertTrue(self.lesson().json()["kept"])
        self.assertEqual(Lesson.objects.count(), 1)
        self.assertEqual(self.lesson(client=self.neighbour).status_code, 404)
        self.send("training/rounds", {"topic": "real"})
        self.assertEqual(set(Exercise.objects.values_list("topic", flat=True)), {"real"})
        self.assertFalse(self.lesson(kept=False).json()["kept"])
        self.assertEqual((Lesson.objects.count(), Exercise.objects.count()), (0, 0))

    def test_it_is_worked_on(self) -> None:
        """Its sounds stand there, what was found answers, what nobody did is refused; the answer is what was proven."""
        self.finish()
        self.lesson()
        made = self.begun()
        self.assertEqual(Recording.objects.filter(case=made.id).count(), 2)
        self.hear()
        feel = {"id": str(uuid.uuid4()), "hub": "A1L", "kind": "spin"}
        felt = self.send(f"cases/{made.id}/simulated/hand", feel)
        self.assertEqual(felt.json()["value"], {"answer": "rumbles"})
        refused = self.send(f"cases/{made.id}/simulated/hand", feel | {"id": str(uuid.uuid4()), "hub": "A1R"})
        self.assertIn("Nobody did that", refused.json()["message"])
        strokes = self.client.get(f"/api/cases/{made.id}/simulated/strokes?hub=A1L").json()["strokes_mm"]
        self.assertEqual(strokes, [0.02, 0.03, 0.02])
        self.assertEqual(self.client.get(f"/api/cases/{made.id}/simulated/strokes?hub=A2L").status_code, 422)
        pickup = {"id": str(uuid.uuid4()), "made": {"place": "A1L", "speed": {"kind": "wheel", "turns_per_s": 8}}}
        self.assertEqual(self.send(f"cases/{made.id}/recordings/simulated", pickup).json()["code"], "heard_already")
        watch_exercise(str(made.id))
        asked = self.client.get(f"/api/training/exercises/{made.id}").json()
        self.assertEqual((asked["names_a_hub"], asked["told"], asked["at"]), (True, None, ""))
        body = {"hub": "A1R", "key": "replace_unit", "sure": 65}
        told = self.send(f"training/exercises/{made.id}/answer", body).json()["told"]
        self.assertEqual((told["right"], told["harmed"], told["hub"]), (False, "danger", "A1L"))
        self.assertIn("spins free and even", told["because"])
        self.assertEqual(told["tests"], 1)  # what was recorded by others is no test of the learner's
        heard = [row["recording"] for row in told["spoke"] if row["recording"]]
        self.assertTrue(set(heard) & {str(row.pk) for row in Recording.objects.filter(case=made.id)})
        self.assertEqual((told["watched"]["hub"], told["watched"]["right"]), ("A1L", True))
        self.assertEqual(self.client.get(f"/api/{self.path}/lesson").json()["answered"], 1)

    def test_nothing_tells_whose_it_was(self) -> None:
        """No name, plate or free word is in what a learner gets or what is kept for them; nor what was done."""
        self.finish()
        self.lesson()
        made = self.begun()
        self.hear()
        case = f"cases/{made.id}"
        paths = ["training", f"training/exercises/{made.id}", f"training/rounds/{made.round_id}", case]
        paths += [f"{case}/{what}" for what in ("assessment", "recordings", "verdicts", "state", "job")]
        text = "".join(self.client.get(f"/api/{path}").content.decode() for path in paths)
        kept = json.dumps([made.truth, Lesson.objects.get().truth, Case.objects.get(pk=made.id).practice])
        for word in (*WHOSE, *WHOSE[0].split(), "LMO", "11.7"):
            self.assertTrue(word not in text + kept, word)
        self.assertTrue("Afterwards it was proven" not in text)
        self.assertEqual(Photo.objects.filter(case=made.id).count(), 0)
        stranger = {str(self.case.id), str(self.vehicle.id)}
        self.assertFalse([number for number in stranger if number in text])

    def test_a_case_that_is_deleted_is_learnt_on_no_more(self) -> None:
        """It goes off every bench, with its sounds; what was answered stays, without it."""
        self.finish()
        self.lesson()
        reader = User.objects.create_user("looks", workshop=self.user.workshop, role=Role.READER)
        client = Client()
        client.force_login(reader)
        made, other = self.begun(), self.begun(client)
        answer = {"hub": "A1L", "key": "replace_unit", "sure": 90}
        self.assertTrue(self.send(f"training/exercises/{made.id}/answer", answer).json()["told"]["right"])
        self.assertEqual(self.send(f"{self.path}/delete").status_code, 204)
        self.assertEqual((Lesson.objects.count(), Card.objects.count(), Recording.objects.count()), (0, 0, 0))
        self.assertEqual(set(Exercise.objects.values_list("pk", "case")), {(made.pk, None)})
        self.assertTrue(Round.objects.filter(pk=other.round_id).exists())
        self.assertEqual(self.client.get(f"/api/training/exercises/{made.id}").json()["told"]["right"], True)
        self.assertEqual(self.client.get("/api/training").status_code, 200)

    def test_another_workshops_work_is_not_met(self) -> None:
        """Each workshop learns on its own."""
        self.finish()
        self.lesson()
        self.assertEqual(self.send("training/rounds", {"topic": "real"}, client=self.neighbour).status_code, 422)
        self.assertEqual(self.send("vehicles", vehicle_data("Theirs"), client=self.neighbour).status_code, 201)
