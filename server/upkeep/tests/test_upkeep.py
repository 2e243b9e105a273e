"""Coming back: rechecks planned, foretold by the odometer, answered; the calendar and the sticker."""

import io
import re
import uuid
from datetime import date, timedelta

import vobject
import zxingcpp
from cases.models import Case, Observation
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from icalendar import Calendar
from PIL import Image
from pypdf import PdfReader
from workshop.tests.people import AGAIN, WorkshopTestCase, vehicle_data

from upkeep.models import Reading, Recheck
from upkeep.sticker import qr_png


class UpkeepTestCase(WorkshopTestCase):
    """A vehicle that is read and looked at again."""

    def setUp(self) -> None:
        """Say where."""
        super().setUp()
        self.path = f"vehicles/{self.vehicle.id}"
        self.today = timezone.localdate()

    def ago(self, days: int) -> date:
        """Return a day before today, or after."""
        return self.today - timedelta(days=days)

    def read(self, days_ago: int, km: float | None, **more: object):
        """Enter what the odometer showed."""
        body = {"id": str(uuid.uuid4()), "on": str(self.ago(days_ago)), "km": km}
        return self.send(f"{self.path}/odometer", body | more)

    def plan(self, **more: object) -> dict:
        """Plan a recheck."""
        return self.send(f"{self.path}/rechecks", AGAIN | more).json()

    def upkeep(self) -> dict:
        """Return what the vehicle's screen gets."""
        return self.client.get(f"/api/{self.path}/upkeep").json()

    def answer(self, row: dict, **more: object):
        """Answer a recheck."""
        return self.send(f"rechecks/{row['id']}/answer", {"case": str(uuid.uuid4())} | more)


class Odometer(UpkeepTestCase):
    """Readings, corrected by superseding."""

    def test_distances_turn_into_dates(self) -> None:
        """Even driving of 30 km a day: 600 km more are 20 days, and the list says so with its range."""
        row = self.plan(after_km=600, due_on=str(self.ago(-90)))
        self.assertEqual((row["expected_on"], row["due_km"]), (str(self.ago(-90)), None))
        for days, km in ((90, 10_000), (60, 10_900), (30, 11_790), (0, 12_700)):
            self.read(days, km)
        found = self.upkeep()
        (row,) = found["rechecks"]
        self.assertAlmostEqual(found["km_a_day"]["per_day"], 30.0, places=1)
        self.assertEqual((row["due_km"], row["state"]), (10_600, "overdue"))  # counted from the first reading known

    def test_a_distance_that_is_not_reached_yet(self) -> None:
        """It moves with every reading; past its distance it is overdue whatever the date says."""
        for days, km in ((90, 10_000), (60, 10_900), (30, 11_800), (1, 12_700)):
            self.read(days, km)
        row = self.plan(after_km=600, due_on=str(self.ago(-90)))
        expected = date.fromisoformat(row["expected_on"])
        self.assertTrue(abs((expected - self.today).days - 19) <= 2, expected)
        self.assertTrue(row["soonest_on"] <= row["expected_on"] <= row["latest_on"])
        self.assertEqual(row["state"], "later")
        self.read(0, 13_400)
        (row,) = self.upkeep()["rechecks"]
        self.assertEqual(row["state"], "overdue")

    def test_a_reading_that_goes_back_is_refused_until_the_wrong_one_is_corrected(self) -> None:
        """Nothing is edited: the wrong one is superseded, or taken back."""
        wrong = self.read(30, 91_000).json()
        refused = self.read(0, 19_500)
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "goes_back"))
        self.assertEqual(self.read(30, 19_000, supersedes=wrong["id"]).status_code, 200)
        self.assertEqual(self.read(0, 19_500).status_code, 200)
        self.assertEqual([one["km"] for one in self.upkeep()["readings"]], [19_000, 19_500])
        again = self.read(30, 18_000, supersedes=wrong["id"])
        self.assertEqual(again.json()["code"], "already_superseded")
        last = self.upkeep()["readings"][-1]
        self.assertEqual(self.read(0, None, supersedes=last["id"], withdrawn=True).status_code, 200)
        self.assertEqual(len(self.upkeep()["readings"]), 1)
        self.assertEqual(Reading.objects.count(), 4)

    def test_refusals(self) -> None:
        """A day to come, nothing, a negative, what is no number, a vehicle next door."""
        self.assertEqual(self.read(-5, 100).json()["code"], "reading_ahead")
        self.assertEqual(self.read(0, None).json()["code"], "no_reading")
        for wrong in (-5, "far", 1e12):
            self.assertEqual(self.read(0, wrong).status_code, 422, wrong)
        self.assertEqual(Reading.objects.count(), 0)
        twice = {"id": str(uuid.uuid4()), "on": str(self.today), "km": 5}
        self.assertEqual([self.send(f"{self.path}/odometer", twice).status_code for _ in "12"], [200, 200])
        other = self.send("vehicles", vehicle_data("Other")).json()["id"]
        self.assertEqual(self.send(f"vehicles/{other}/odometer", twice).json()["code"], "id_taken")


class Rechecks(UpkeepTestCase):
    """Planned with the closing, answered in two taps."""

    def close(self, **more: object) -> dict:
        """Decide, and close the case with what the job asks for."""
        self.send(f"cases/{self.case.id}/verdicts", {"hub": "A1L", "choice": "replace_unit", "reason": "sure"})
        usual = self.client.get(f"/api/cases/{self.case.id}/job").json()["usual_rechecks"]
        body = {"outcome": "Quiet", "rechecks": usual, "unproven_because": "Goes home"} | more
        closed = self.send(f"cases/{self.case.id}/finish", body)
        self.assertEqual(closed.status_code, 200, closed.content)
        return {row["key"]: row for row in self.upkeep()["rechecks"]}

    def test_a_closed_case_plans_what_its_job_asks_for(self) -> None:
        """Wheel nuts twice, warmth, the next service, the mate; distances count from the odometer."""
        rows = self.close(odometer_km=52_000)
        self.assertEqual(set(rows), {"wheel_nuts_soon", "wheel_nuts_road", "warmth", "next_service", "mate"})
        self.assertEqual((rows["mate"]["hub"], rows["mate"]["due_km"]), ("A1R", 57_000))
        job = self.client.get(f"/api/cases/{self.case.id}/job").json()
        self.assertEqual(len(job["rechecks"]), 5)

    def test_a_load_worked_out_shortens_what_wears(self) -> None:
        """What ISO 281 leaves of the life is left of the distance, with the reason; nuts settle as ever."""
        values = {"load_kg": 450, "load_after_kg": 600, "span_mm": 60, "radius_mm": 310}
        body = {"id": str(uuid.uuid4()), "hub": "A1L", "sum": "life", "values": values}
        kept = self.send(f"cases/{self.case.id}/worked", body)
        self.assertEqual(kept.status_code, 200, kept.content)
        self.send(f"cases/{self.case.id}/verdicts", {"hub": "A1L", "choice": "replace_unit", "reason": "sure"})
        job = self.client.get(f"/api/cases/{self.case.id}/job").json()
        usual = {row["key"]: row for row in job["usual_rechecks"]}
        self.assertLess(usual["next_service"]["after_km"], 6000)
        self.assertIn("ISO 281", usual["next_service"]["shortened"][0])
        self.assertEqual(usual["wheel_nuts_road"]["after_km"], 50)

    def test_a_good_answer_ends_it(self) -> None:
        """Once; a second person is told who was first."""
        row = self.close()["warmth"]
        self.assertEqual(self.answer(row, answer="good").json()["state"], "done")
        self.assertEqual(self.answer(row, answer="good").status_code, 200)  # sent twice
        again = self.answer(row, answer="bad")
        self.assertEqual((again.status_code, again.json()["code"]), (409, "done_already"))
        self.assertIn("ours has looked at this already: cool, or hand-warm", again.json()["message"])
        self.assertEqual(Case.objects.filter(closed_at=None).count(), 0)

    def test_a_reading_outside_opens_a_case_with_it(self) -> None:
        """With the dial's figures as the first witness; sent twice it is one case."""
        row, case = self.close()["next_service"], str(uuid.uuid4())
        loose = {"case": case, "reading": {"readings_mm": [0.31, 0.3, 0.31]}, "km": 53_000}
        first, second = (self.send(f"rechecks/{row['id']}/answer", loose).json() for _ in "12")
        self.assertEqual((first["outside"], first["opened"], second["opened"]), (True, case, case))
        entry = Observation.objects.get(case=case, kind="end_play")
        self.assertEqual((entry.hub, entry.value["readings_mm"]), ("A1L", [0.31, 0.3, 0.31]))
        opened = Case.objects.get(id=case)
        self.assertIn("next service", opened.complaint)
        self.assertEqual(self.upkeep()["readings"][-1]["km"], 53_000)

    def test_words_enter_no_more_than_was_said(self) -> None:
        """That it is noisy or moves is a complaint, no witness."""
        row = self.close()["mate"]
        opened = self.answer(row, answer="bad").json()["opened"]
        self.assertFalse(Observation.objects.filter(case=opened).exclude(kind="complaint").exists())

    def test_not_done_with_its_reason(self) -> None:
        """And one of one's own, and what is due at once after water."""
        row = self.plan(label="Look at the spacer", due_on=str(self.ago(-20)))
        self.assertEqual(self.send(f"rechecks/{row['id']}/drop", {"because": ""}).status_code, 422)
        self.assertEqual(self.send(f"rechecks/{row['id']}/drop", {"because": "sold"}).json()["said"], "not done: sold")
        water = self.send(f"{self.path}/events", {"id": str(uuid.uuid4()), "duty": "water"}).json()
        self.assertEqual((water["due_on"], water["state"]), (str(self.ago(-1)), "soon"))
        self.assertEqual(self.send(f"{self.path}/events", {"id": str(uuid.uuid4()), "duty": "dust"}).status_code, 422)
        nowhere = self.send(f"{self.path}/rechecks", AGAIN | {"hub": "A9L"})
        self.assertEqual(nowhere.status_code, 422)

    def test_the_list_is_in_order_and_ones_own(self) -> None:
        """What is overdue first; what is far off only where all is asked for."""
        for days in (40, 3, 8):
            self.plan(after_km=None, due_on=str(self.ago(-days)))
        Recheck.objects.filter(due_on=self.ago(-8)).update(due_on=self.ago(2), expected_on=self.ago(2))
        soon = self.client.get("/api/due").json()
        self.assertEqual([row["state"] for row in soon["rows"]], ["overdue", "soon"])
        self.assertEqual(self.client.get("/api/due?all=true").json()["count"], 3)
        self.assertEqual(self.neighbour.get("/api/due?all=true").json()["count"], 0)

    def test_the_list_takes_the_same_queries_for_any_number(self) -> None:
        """One row or forty."""
        self.plan()
        counts = []
        for _ in range(2):
            with CaptureQueriesContext(connection) as asked:
                self.client.get("/api/due?all=true")
            counts.append(len(asked))
            for _ in range(20):
                self.plan()
        self.assertEqual(*counts)


class Papers(UpkeepTestCase):
    """The calendar and the sticker, read back by others' readers."""

    def test_the_calendar_by_two_readers(self) -> None:
        """RFC 5545: every open recheck is a day of its own under a number that stays."""
        row = self.plan(label="Nuts, after 50 km; play", due_on=str(self.ago(-9)))
        address = self.client.get("/api/calendar").json()["address"]
        path = re.sub(r"^https?://[^/]+", "", address)
        answer = Client().get(path)  # a calendar signs nobody in
        self.assertTrue(answer["Content-Type"].startswith("text/calendar"))
        (event,) = Calendar.from_ical(answer.content).walk("VEVENT")
        self.assertEqual((event.decoded("dtstart"), str(event["uid"])), (self.ago(-9), f"{row['id']}@hematite"))
        other = vobject.readOne(answer.content.decode())
        self.assertEqual(other.vevent.summary.value, "Test van: Nuts, after 50 km; play")
        self.assertEqual(other.vevent.dtstart.value, self.ago(-9))
        self.answer(row, answer="good")
        self.assertFalse(Calendar.from_ical(Client().get(path).content).walk("VEVENT"))

    def test_a_renewed_address_ends_the_old(self) -> None:
        """And a guessed one is unknown."""
        old = self.client.get("/api/calendar").json()["address"]
        self.assertEqual(self.client.get("/api/calendar").json()["address"], old)
        new = self.client.post("/api/calendar/renew").json()["address"]
        self.assertNotEqual(old, new)
        codes = [Client().get(re.sub(r"^https?://[^/]+", "", one)).status_code for one in (old, new, new + "x")]
        self.assertEqual(codes[:2], [404, 200])
        self.assertNotEqual(codes[2], 200)
        theirs = self.neighbour.get("/api/calendar").json()["address"]
        self.plan(due_on=str(self.ago(-3)))
        self.assertNotIn(b"VEVENT", Client().get(re.sub(r"^https?://[^/]+", "", theirs)).content)

    def test_the_sticker_and_its_code(self) -> None:
        """Date, distance and what, and a code that a reader of its own kind turns back into the vehicle's address."""
        self.read(0, 52_000)
        self.plan(label="Play and lock of the set nut", hub="A1L", after_km=30, due_on=str(self.ago(-14)))
        answer = self.client.get(f"/api/{self.path}/sticker.pdf")
        page = PdfReader(io.BytesIO(answer.content)).pages[0]
        text = page.extract_text()
        for wanted in ("Test van", "A1L Play and lock of the set nut", "at 52,030 km", f"{self.ago(-14):%d %b %Y}"):
            self.assertIn(wanted, text)
        (picture,) = page.images
        read = zxingcpp.read_barcode(picture.image.convert("L"))
        self.assertEqual(read.text, f"http://testserver/vehicles/{self.vehicle.id}")

    def test_a_code_with_a_greasy_corner(self) -> None:
        """A tenth of it covered is still read."""
        picture = Image.open(io.BytesIO(qr_png("https://workshop.example/vehicles/1"))).convert("L")
        across = picture.width
        picture.paste(0, (int(across * 0.55), int(across * 0.55), int(across * 0.75), int(across * 0.75)))
        self.assertEqual(zxingcpp.read_barcode(picture).text, "https://workshop.example/vehicles/1")


class OnTheRoad(UpkeepTestCase):
    """Kit and stops."""

    def test_all_that_a_phone_needs_away(self) -> None:
        """The kit, where to stop, and for each hub what each feeling means beside each of its mate's."""
        found = self.client.get(f"/api/{self.path}/road?km=300&worked_on=true").json()
        self.assertEqual(found["stops_km"], [5, 25, 145, 265])
        self.assertTrue(found["kit"]["tools"])
        hub = next(one for one in found["hubs"] if one["id"] == "A1L")
        self.assertEqual((hub["mate"], len(hub["means"])), ("A1R", 12))
        worst = next(one for one in hub["means"] if (one["here"], one["mate"]) == ("hot", "cold"))
        self.assertEqual(worst["level"], "stop")
        self.assertEqual(self.client.get(f"/api/{self.path}/road?km=-3").status_code, 422)

    def test_what_a_hand_felt(self) -> None:
        """At the time it was felt, however long it waited on the phone; sent twice it is one."""
        body = {"id": str(uuid.uuid4()), "trip": str(uuid.uuid4()), "hub": "A1L", "felt": "warm", "waited_s": 7200}
        first, second = (self.send(f"{self.path}/feels", body).json() for _ in "12")
        self.assertEqual(first, second)
        self.assertLess(first["felt_at"], (timezone.now() - timedelta(hours=1)).isoformat())
        for wrong in ({"hub": "A9L"}, {"felt": "lukewarm"}, {"stop": 0}):
            self.assertEqual(self.send(f"{self.path}/feels", body | {"id": str(uuid.uuid4())} | wrong).status_code, 422)
