"""The owner's page: plain words, one page, with what is open."""

import io

from pypdf import PdfReader
from workshop.tests.people import WorkshopTestCase, wav


class Owner(WorkshopTestCase):
    """A unit replaced and heard again."""

    def setUp(self) -> None:
        """Find, decide, prove a part of it, and close."""
        super().setUp()
        self.path = f"/api/cases/{self.case.id}"
        self.record("A1L", wav("outer_race"))
        self.observe("A1L", "spin", {"answer": "rumbles"})
        body = {"hub": "A1L", "choice": "replace_unit", "reason": "sure"}
        job = self.send(f"cases/{self.case.id}/verdicts", body).json()["id"]
        self.observe("A1L", "check", {"check": "spins", "answer": "good"}, job=job)
        self.record("A1L", wav("sound", seed=9), after_repair=True)
        usual = self.client.get(f"{self.path}/job").json()["usual_rechecks"]
        closing = {"outcome": "Quiet", "rechecks": usual, "unproven_because": "First drive on Friday"}
        self.send(f"cases/{self.case.id}/finish", closing)

    def test_what_the_owner_is_told(self) -> None:
        """What was found before beside what was found after, the new part, what is open and why; no likelihoods."""
        told = self.client.get(f"{self.path}/owner").json()
        (job,) = told["jobs"]
        self.assertEqual((job["where"], job["decided"]), ("front left", "Replace the hub or unit"))
        self.assertIn("Spun by hand: how it feels: rumbles", job["found"])
        self.assertTrue(any("Hub unit" in part or "unit" in part.lower() for part in job["parts"]), job["parts"])
        (spins,) = job["checks"]
        self.assertEqual((spins["before"], spins["after"], spins["good"]), (["rumbles"], "free and even", True))
        self.assertIn("gone", job["sound"])
        self.assertTrue(job["before"] and job["after"])
        self.assertIn("First drive quiet at the speed of the complaint", job["open"])
        self.assertEqual(len(told["again"]), 5)

    def test_on_one_page(self) -> None:
        """Opened and read back: metric on one sheet, with the sound's two lines; miles where they are liked."""
        answer = self.client.get(f"{self.path}/owner.pdf?units=metric")
        pages = PdfReader(io.BytesIO(answer.content)).pages
        text = pages[0].extract_text()
        self.assertEqual(len(pages), 1)
        for wanted in ("Test van", "rumbles", "free and even", "What repeats", "before", "after", "Still open"):
            self.assertIn(wanted, text)
        self.assertIn("after 50 km", text)
        imperial = PdfReader(io.BytesIO(self.client.get(f"{self.path}/owner.pdf?units=imperial").content)).pages[0]
        self.assertIn("after 31 mi", imperial.extract_text())

    def test_before_anything_is_decided(self) -> None:
        """There is nothing to tell; and nothing to anybody else."""
        fresh = self.send("cases", {"vehicle": str(self.vehicle.id)}).json()["id"]
        self.assertEqual(self.client.get(f"/api/cases/{fresh}/owner").json()["code"], "nothing_decided")
        self.assertEqual(self.neighbour.get(f"{self.path}/owner.pdf").status_code, 404)
