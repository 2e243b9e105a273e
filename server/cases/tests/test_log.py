"""The log: appended, superseded, never edited; and the yard in a constant number of queries."""

import uuid
from unittest import mock

from django.db import connection
from django.test.utils import CaptureQueriesContext
from garage.models import Axle, Hub, Vehicle
from workshop.tests.people import WorkshopTestCase

from cases.models import Case, Observation


class Log(WorkshopTestCase):
    """Observations."""

    def log(self) -> list[dict]:
        """Return the case's log."""
        return self.client.get(f"/api/cases/{self.case.id}").json()["observations"]

    def test_superseding(self) -> None:
        """A correction supersedes; the old entry stays and no longer counts."""
        first = self.observe("A1L", "spin", {"answer": "rumbles"}).json()
        suspicion = self.bearing_fault()
        second = self.observe("A1L", "spin", {"answer": "free"}, supersedes=first["id"])
        self.assertEqual(second.status_code, 201)
        self.assertEqual([entry["superseded"] for entry in self.log()], [True, False])
        self.assertLess(self.bearing_fault(), suspicion)
        again = self.observe("A1L", "spin", {"answer": "grinds"}, supersedes=first["id"])
        self.assertEqual((again.status_code, again.json()["code"]), (409, "already_superseded"))

    def bearing_fault(self) -> float:
        """Return the suspicion of A1L."""
        return self.client.get(f"/api/cases/{self.case.id}/assessment").json()["hubs"]["A1L"]["bearing_fault"]

    def test_sent_twice(self) -> None:
        """The same entry twice is one entry; its number with other contents is refused."""
        body = {"id": str(uuid.uuid4()), "hub": "A1L", "kind": "end_play", "value": {"readings_mm": [0.1, 0.1, 0.1]}}
        path = f"cases/{self.case.id}/observations"
        self.assertEqual([self.send(path, body).status_code for _ in range(2)], [201, 201])
        self.assertEqual(Observation.objects.count(), 1)
        self.assertEqual(self.send(path, body | {"value": {"readings_mm": [9, 9, 9]}}).status_code, 409)

    def test_judged_at_once(self) -> None:
        """The answer carries the case as the other doors show it; where that fails, the entry is kept all the same."""
        body = {"id": str(uuid.uuid4()), "hub": "A1L", "kind": "spin", "value": {"answer": "rumbles"}}
        path = f"cases/{self.case.id}/observations"
        self.assertIsNone(self.send(path, body).json()["shown"])
        shown = self.send(f"{path}?judged=true", body).json()["shown"]
        self.assertEqual(shown["detail"], self.client.get(f"/api/cases/{self.case.id}").json())
        self.assertEqual(shown["assessment"], self.client.get(f"/api/cases/{self.case.id}/assessment").json())
        with (
            mock.patch("verdicts.services.assess", side_effect=KeyError("a fault")),
            self.assertLogs("verdicts.services"),
        ):
            failed = self.send(f"{path}?judged=true", body | {"id": str(uuid.uuid4()), "hub": "A1R"})
        self.assertEqual((failed.status_code, failed.json()["shown"]), (201, None))
        self.assertEqual(Observation.objects.count(), 2)

    def test_refusals(self) -> None:
        """What cannot be is refused in the trade's words."""
        cases = [
            ("A1L", "end_play", {"readings_mm": [0.1, -0.1, 0.1]}, "negative"),
            ("A1L", "end_play", {"readings_mm": [0.1]}, "at least 3"),
            ("A1L", "end_play", {"readings_mm": ["a", "b", "c"]}, "number"),
            ("A1L", "spin", {"answer": "sings"}, "Choose one of"),
            ("A9L", "spin", {"answer": "free"}, "no hub A9L"),
            ("", "spin", {"answer": "free"}, "at which hub"),
            ("A1L", "taste", {}, "kind of observation"),
            ("", "taste", {}, "kind of observation"),
            ("A1L", "end_play", {"readings_mm": [0.1] * 5000}, "at most"),
        ]
        for hub, kind, value, words in cases:
            with self.subTest(words):
                answer = self.observe(hub, kind, value)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.json()["message"])
        self.assertEqual(self.log(), [])

    def test_closed(self) -> None:
        """A closed case takes nothing more, and says where it belongs."""
        self.send(f"cases/{self.case.id}/finish", {"outcome": "sound", "after_km": 50, "unproven_because": "x"})
        answer = self.observe("A1L", "spin", {"answer": "free"})
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "closed"))


class Yard(WorkshopTestCase):
    """The list that grows."""

    def grow(self, vehicles: int, cases: int) -> None:
        """Add vehicles with two hubs and cases."""
        rows = Vehicle.objects.bulk_create(
            Vehicle(workshop=self.user.workshop, label=f"V{n:05}") for n in range(vehicles)
        )
        axles = Axle.objects.bulk_create(Axle(vehicle=row, position=1) for row in rows)
        stored = Axle.objects.filter(vehicle__in=rows) if axles[0].pk is None else axles
        Hub.objects.bulk_create(
            Hub(axle=axle, position=1, name="A1C", side="centre", design="cup_cone") for axle in stored
        )
        Case.objects.bulk_create(
            Case(workshop=self.user.workshop, vehicle=rows[n % vehicles], opened_by=self.user) for n in range(cases)
        )

    def queries(self) -> int:
        """Return how many queries the yard takes."""
        with CaptureQueriesContext(
            connection,
        ) as seen:
            self.assertEqual(self.client.get("/api/yard").status_code, 200)
        return len(seen)

    def test_constant_queries(self) -> None:
        """Two hundred vehicles take as many queries as one."""
        few = self.queries()
        self.grow(200, 300)
        self.assertEqual(self.queries(), few)

    def test_pages_and_search(self) -> None:
        """Pages hold 24; search finds by name."""
        self.grow(30, 1)
        first = self.client.get("/api/yard").json()
        self.assertEqual((len(first["vehicles"]), first["pages"], first["vehicle_count"]), (24, 2, 31))
        self.assertEqual(self.client.get("/api/yard?search=V00017").json()["vehicle_count"], 1)


class Complaints(WorkshopTestCase):
    """What is typed at opening is the witness."""

    def opened(self, text: str) -> list[dict]:
        """Open a case with a complaint; return its log."""
        body = {"vehicle": str(self.vehicle.id), "complaint": text}
        return self.send("cases", body).json()["observations"]

    def test_an_entry_is_taken_from_who_entered_it_only(self) -> None:
        """A tab that was left while somebody else signed in is answered as signed out."""
        url = f"/api/cases/{self.case.id}/observations"
        body = {"hub": "A1L", "kind": "spin", "value": {"answer": "free"}}
        for person, status in ((self.other.pk, 401), ("", 401), (self.user.pk, 201)):
            sent = body | {"id": str(uuid.uuid4())}
            headers = {"X-Entered-By": str(person)}
            answer = self.client.post(url, sent, content_type="application/json", headers=headers)
            self.assertEqual(answer.status_code, status, person)
        self.assertEqual(Observation.objects.filter(kind="spin").count(), 1)

    def test_opened_twice_is_one_case(self) -> None:
        """A double click opens one; a number of another workshop's case, or of another vehicle's, is refused."""
        body = {"id": str(uuid.uuid4()), "vehicle": str(self.case.vehicle_id), "complaint": "Growl"}
        count = Case.objects.count()
        answers = [self.send("cases", body) for _ in range(2)]
        self.assertEqual([answer.json()["id"] for answer in answers], [body["id"]] * 2)
        self.assertEqual(Case.objects.count(), count + 1)
        self.assertEqual(Case.objects.get(id=body["id"]).observations.filter(kind="complaint").count(), 1)
        Case.objects.filter(id=body["id"]).update(workshop=self.other.workshop)
        taken = self.send("cases", body)
        self.assertEqual((taken.status_code, taken.json()["code"]), (409, "id_taken"))

    def test_the_typed_complaint_is_the_witness(self) -> None:
        """Kind, side and end are read from it, shown, and never asked for again."""
        (entry,) = self.opened("Growls from behind, on the left side")
        self.assertEqual(entry["value"], {"words": ["growl"], "side": "left", "end": "rear"})
        self.assertIn("from behind", entry["words"])
        case = Case.objects.latest("opened_at")
        judged = self.client.get(f"/api/cases/{case.id}/assessment").json()
        self.assertNotEqual(judged["next_test"]["test"], "complaint")
        self.assertEqual(max(judged["hubs"], key=lambda hub: judged["hubs"][hub]["bearing_fault"]), "A2L")

    def test_words_that_name_nothing_say_nothing(self) -> None:
        """No entry is made up."""
        self.assertEqual(self.opened("Shock absorbers done, photo attached"), [])
