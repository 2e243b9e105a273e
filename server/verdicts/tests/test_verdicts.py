"""Verdicts: frozen with all they rest on, made anew by new evidence, argued with, and read back from paper."""

import io
import uuid

from django.core.files.uploadedfile import SimpleUploadedFile
from photos.tests.test_photos import camera_jpeg
from pypdf import PdfReader
from workshop.tests.people import AGAIN, WorkshopTestCase

from verdicts.models import Departure, Verdict

SURE = ("spin", "rumbles"), ("spring_touch", "rough"), ("stethoscope", "growls")


class Verdicts(WorkshopTestCase):
    """One hub unit that growls."""

    def setUp(self) -> None:
        """Find it."""
        super().setUp()
        for kind, answer in SURE:
            self.observe("A1L", kind, {"answer": answer})

    def accept(self, choice: str = "replace_unit", reason: str = ""):
        """Accept a verdict."""
        return self.send(f"cases/{self.case.id}/verdicts", {"hub": "A1L", "choice": choice, "reason": reason})

    def page(self, verdict_id: str) -> dict:
        """Return a verdict's page."""
        return self.client.get(f"/api/verdicts/{verdict_id}").json()

    def paper(self, verdict_id: str, units: str = "metric") -> list[str]:
        """Return the text of each page of the PDF."""
        answer = self.client.get(f"/api/verdicts/{verdict_id}/paper?units={units}")
        self.assertEqual(answer["Content-Type"], "application/pdf")
        return [sheet.extract_text() for sheet in PdfReader(io.BytesIO(answer.content)).pages]

    def test_the_snapshot_holds_all_it_rests_on(self) -> None:
        """Vehicle, observations, policy, prices and the core's version; changed later, the verdict does not follow."""
        number = self.accept().json()["id"]
        before = self.page(number)
        snapshot = Verdict.objects.get(id=number).snapshot
        self.assertEqual([row["kind"] for row in snapshot["observations"]], [kind for kind, _ in SURE])
        self.assertEqual(snapshot["vehicle"]["axles"][0]["hubs"][0]["design"], "hub_unit")
        self.assertEqual(len(snapshot["policy"]["schools"]), 10)
        changed = {"revision": 0, "schools": {"rusted_unit": "press"}, "prices": {"figures": {"hour": 1}}}
        self.send("policy", changed, method="put")
        self.observe("A1L", "spin", {"answer": "free"})
        after = self.page(number)
        self.assertEqual(after | {"news": 0}, before)

    def test_new_evidence_makes_a_new_verdict(self) -> None:
        """Each entry since is counted; the second verdict stands beside the first and both know each other."""
        first = self.accept().json()["id"]
        self.assertEqual(self.page(first)["news"], 0)
        self.observe("A1L", "part", {"part": "unit", "finds": ["blue"]})
        self.assertEqual(self.client.get(f"/api/cases/{self.case.id}/verdicts").json()[0]["news"], 1)
        second = self.accept().json()["id"]
        self.assertEqual((self.page(first)["newer"], self.page(second)["older"]), (second, first))
        self.assertEqual(self.page(first)["judged"]["road"]["key"], "gently")
        self.assertEqual(self.page(second)["judged"]["road"]["key"], "no")
        self.assertTrue(self.page(second)["judged"]["off_road"])

    def test_disagreement_needs_a_reason_and_keeps_both(self) -> None:
        """A mechanic may decide otherwise."""
        self.assertEqual(self.accept("leave").json()["code"], "reason_needed")
        page = self.page(self.accept("leave", "The driver sells it on Friday").json()["id"])
        self.assertEqual((page["choice"], page["advised"]), ("leave", "replace_unit"))
        self.assertEqual(page["advised_label"], "Replace the hub or unit")
        self.assertEqual(page["reason"], "The driver sells it on Friday")
        (row,) = self.client.get("/api/yard").json()["open_cases"]
        self.assertEqual(row["decided"], "A1L: leave it, with a recheck")

    def test_decided_on_an_advice_that_has_changed(self) -> None:
        """What waited on a device is not frozen as if it were decided on what is advised by now."""
        self.observe("A1L", "part", {"part": "unit", "finds": ["blue"]})
        late = {"hub": "A1L", "choice": "leave", "seen": "leave", "reason": ""}
        refused = self.send(f"cases/{self.case.id}/verdicts", late)
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "advice_changed"))

    def test_a_departure_sent_twice_is_one(self) -> None:
        """By its number; the number of another is refused."""
        way = {"id": str(uuid.uuid4()), "school": "sides", "option": "both", "reason": "the driver asks for it"}
        for _ in range(2):
            self.assertEqual(self.send(f"cases/{self.case.id}/departures", way).status_code, 201)
        self.assertEqual(Departure.objects.count(), 1)
        other = self.send(f"cases/{self.case.id}/departures", way | {"option": "one"})
        self.assertEqual(other.json()["code"], "id_taken")

    def test_a_reason_for_the_advice_itself_is_none(self) -> None:
        """What was typed before going back to the advice is not frozen as a decision against it."""
        number = self.accept("replace_unit", "The driver sells it on Friday").json()["id"]
        self.assertEqual(self.page(number)["reason"], "")
        self.assertNotIn("against the advice", " ".join(self.paper(number)).lower())

    def test_accepted_twice_is_one_verdict(self) -> None:
        """A double click decides once; a number that stands for another decision is refused."""
        number = str(uuid.uuid4())
        body = {"id": number, "hub": "A1L", "choice": "replace_unit"}
        answers = [self.send(f"cases/{self.case.id}/verdicts", body) for _ in range(2)]
        self.assertEqual([answer.json()["id"] for answer in answers], [number, number])
        self.assertEqual(Verdict.objects.count(), 1)
        again = self.send(f"cases/{self.case.id}/verdicts", body | {"hub": "A1R", "choice": "leave", "reason": "so"})
        self.assertEqual((again.status_code, again.json()["code"]), (409, "id_taken"))

    def test_a_case_departs_from_policy_with_a_reason(self) -> None:
        """The advice follows, the snapshot names it, and an empty way goes back."""
        depart = lambda **data: self.send(f"cases/{self.case.id}/departures", data)  # noqa: E731
        self.assertEqual(depart(school="rusted_unit", option="press").json()["code"], "reason_needed")
        self.assertEqual(depart(school="rusted_unit", option="melt", reason="x").status_code, 422)
        self.assertEqual(depart(school="rusted_unit", option="press", reason="No unit to be had").status_code, 201)
        deciding = self.client.get(f"/api/cases/{self.case.id}/deciding?hub=A1L").json()
        self.assertEqual([row["reason"] for row in deciding["departures"]], ["No unit to be had"])
        self.assertEqual(deciding["prices"]["rows"][0]["choice"], "replace_bearing")
        page = self.page(self.accept("replace_bearing").json()["id"])
        self.assertIn("No unit to be had", [way["reason"] for way in page["ways"]])
        depart(school="rusted_unit", reason="One came in")
        self.assertEqual(self.accept().json()["advised"], "replace_unit")

    def test_prices_count_the_comeback_and_both_sides(self) -> None:
        """Every possible choice is priced; examples say so until the workshop enters its own."""
        prices = self.client.get(f"/api/cases/{self.case.id}/deciding?hub=A1L").json()["prices"]
        choices = [row["choice"] for row in prices["rows"]]
        self.assertEqual(choices[0], "replace_unit")
        self.assertNotIn("repack", choices)
        self.assertTrue(all(row["example"] and row["expected"] >= row["now"] for row in prices["rows"]))
        self.assertGreater(prices["sides"]["both_now"], prices["rows"][0]["now"])
        answer = self.client.get(f"/api/cases/{self.case.id}/deciding?hub=A9L")
        self.assertEqual(answer.status_code, 422)

    def test_paper_in_both_units(self) -> None:
        """One page, read back: who, where, what, why, why not, the prices, the cautions; millimetres or inches."""
        self.observe("A1L", "end_play", {"readings_mm": [0.021, 0.02, 0.019]})
        number = self.accept().json()["id"]
        (metric,) = self.paper(number)
        for words in (
            "A1L", "To do: Replace the hub or unit", "Only gently", "Why not otherwise", "never adjusted",
            "What it costs", "example figures", "No distance is promised", "Since the",
            "mean 0.020 mm", number, "by ours",
        ):  # fmt: skip
            self.assertIn(words, " ".join(metric.split()), words)
        (imperial,) = self.paper(number, "imperial")
        self.assertIn("mean 0.0008 in", " ".join(imperial.split()))
        self.assertNotRegex(imperial, r"(mean|spread|window) [\d.]+ mm")

    def test_paper_takes_any_words_and_the_photographs(self) -> None:
        """Markup and letters that the page lacks are text; photographs follow on their own page."""
        self.observe("A1L", "part", {"part": "unit", "finds": ["glitter"], "note": "<b>look</b> & Ω łódź вал 你"})
        form = {"id": str(uuid.uuid4()), "hub": "A1L", "part": "unit"}
        form["picture"] = SimpleUploadedFile("a.jpg", camera_jpeg((400, 300)))
        self.client.post(f"/api/cases/{self.case.id}/photos", form)
        pages = self.paper(self.accept("leave", "<i>sold</i>").json()["id"])
        self.assertEqual(len(pages), 2)
        self.assertIn("<b>look</b> & Ω łódź вал ?", pages[0])
        self.assertIn("<i>sold</i>", pages[0])
        self.assertIn("A1L, unit", pages[1])

    def test_the_job_keeps_the_way_that_was_decided(self) -> None:
        """A policy changed after the verdict changes no job that is under way."""
        self.send("policy", {"revision": 0, "schools": {"one_time": "reused"}}, method="put")
        self.accept()
        job = lambda: self.client.get(f"/api/cases/{self.case.id}/job").json()["steps"]  # noqa: E731
        bolts = lambda: next(step["do"] for step in job() if step["id"] == "A1L.unit_bolts.on")  # noqa: E731
        self.assertIn("thread-locked", bolts())
        self.send("policy", {"revision": 1}, method="put")
        self.assertIn("thread-locked", bolts())

    def test_a_verdict_from_before_snapshots_still_reads(self) -> None:
        """Page, list, paper and job of a row that knows neither roads nor rules nor policy."""
        row = Verdict.objects.get(id=self.accept().json()["id"])
        hub = row.assessment["hubs"]["A1L"]
        for name in ("road", "inspection", "rules", "overruled", "alternatives", "also", "settled"):
            hub.pop(name)
        row.assessment.pop("road")
        Verdict.objects.filter(id=row.id).update(assessment=row.assessment, snapshot={})
        self.observe("A1L", "spin", {"answer": "free"})
        page = self.page(str(row.id))
        self.assertEqual((page["road"]["label"], page["news"], page["prices"]), ("Not asked then", 0, None))
        self.assertIn("Not asked then", self.paper(str(row.id))[0])
        self.assertTrue(self.client.get(f"/api/cases/{self.case.id}/job").json()["steps"])

    def test_a_departure_that_no_table_lists_any_more_is_left_out(self) -> None:
        """An old name stops no case."""
        Departure.objects.create(case=self.case, school="colour", option="blue", reason="x", person=self.user)
        self.assertEqual(self.client.get(f"/api/cases/{self.case.id}/deciding?hub=A1L").status_code, 200)
        self.assertEqual(self.accept().status_code, 201)

    def test_a_closed_case_departs_nowhere(self) -> None:
        """It is refused in words, and what was decided can still be read."""
        number = self.accept().json()["id"]
        self.send(f"cases/{self.case.id}/finish", {"outcome": "Done", "rechecks": [AGAIN], "unproven_because": "x"})
        refused = self.send(f"cases/{self.case.id}/departures", {"school": "sides", "option": "both", "reason": "x"})
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "closed"))
        self.assertEqual(self.page(number)["choice"], "replace_unit")
