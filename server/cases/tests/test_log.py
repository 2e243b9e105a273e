"""The log: appended, superseded, never edited; and the yard in a constant number of queries."""

import uuid
from datetime import datetime
from unittest import mock

from django.db import connection
from django.test.utils import CaptureQueriesContext
from garage.models import Axle, Hub, Vehicle
from workshop.tests.people import AGAIN, WorkshopTestCase, vehicle_data

from cases.models import Case, Observation

date_of = datetime.fromisoformat


class Log(WorkshopTestCase):
    """Observations."""

    def log(self) -> list[dict]:
        """Return the case's log."""
        return self.client.get(f"/api/cases/{self.case.id}").json()["observations"]

    def test_found_when_it_was_found(self) -> None:
        """An entry that waited a day on a device was found a day ago, and stands where it came in."""
        early = self.observe("A1L", "spin", {"answer": "rumbles"}, waited_s=86_400).json()
        self.observe("A1R", "spin", {"answer": "free"})
        waited = date_of(early["at"]) - date_of(early["found_at"])
        self.assertAlmostEqual(waited.total_seconds(), 86_400, delta=5)
        self.assertEqual([row["hub"] for row in self.log()][-2:], ["A1L", "A1R"])
        self.assertEqual(self.observe("A1L", "rock", {"answer": "nothing"}, waited_s=-4).status_code, 422)

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
        self.send(f"cases/{self.case.id}/finish", {"outcome": "sound", "rechecks": [AGAIN], "unproven_because": "x"})
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

    def test_the_board_by_what_cases_wait_for(self) -> None:
        """From opened to proven a case goes through every column, and is looked for by any word of it."""
        waits = lambda: self.client.get("/api/yard").json()["open_cases"][0]["waits"]  # noqa: E731
        said = [waits()]
        self.observe("A1L", "spin", {"answer": "rumbles"})
        said.append(waits())
        decided = {"hub": "A1L", "choice": "replace_unit", "reason": "worn"}
        self.send(f"cases/{self.case.id}/verdicts", decided)
        said.append(waits())
        self.observe("", "parts", {"answer": "ordered", "text": "unit, new axle nut"})
        said.append(waits())
        self.assertEqual(self.client.get("/api/yard").json()["open_cases"][0]["ordered"], "unit, new axle nut")
        self.observe("", "parts", {"answer": "here"}, supersedes=str(Observation.objects.get(kind="parts").id))
        self.assertEqual((waits(), self.observe("", "parts", {"answer": "soon"}).status_code), ("do", 422))
        for step in self.client.get(f"/api/cases/{self.case.id}/job").json()["steps"]:
            tick = {"id": str(uuid.uuid4()), "step": step["id"], "kind": "done"}
            self.send(f"cases/{self.case.id}/job/entries", tick)
        said.append(waits())
        columns = [column["key"] for column in self.client.get("/api/yard").json()["columns"]]
        self.assertEqual(said, columns)
        self.send(f"vehicles/{self.vehicle.id}", vehicle_data() | {"revision": 1, "plate": "KRO 17"}, method="put")
        for word, found in (("wheels", 1), ("kro", 1), ("test kro", 1), ("kro nothing", 0), ("Zeppelin", 0)):
            yard = self.client.get(f"/api/yard?search={word}").json()
            self.assertEqual((yard["open_count"], len(yard["open_cases"])), (found, found), word)

    def test_the_history_of_a_vehicle(self) -> None:
        """Its cases, the latest first, and nobody else's."""
        again = self.send("cases", {"vehicle": str(self.vehicle.id), "complaint": "Back again"}).json()["id"]
        history = self.client.get(f"/api/vehicles/{self.vehicle.id}/cases").json()
        self.assertEqual([row["id"] for row in history], [again, str(self.case.id)])
        self.assertEqual(self.neighbour.get(f"/api/vehicles/{self.vehicle.id}/cases").status_code, 404)

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
