"""The fleet: the work to come, parts, comebacks and costs; ones own only, in a constant number of queries."""

import csv
import io
import uuid
from datetime import timedelta
from unittest import mock

from cases.models import Case
from cases.services import open_case
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from garage.services import add_vehicle
from upkeep.models import Recheck
from verdicts.models import Verdict
from workshop.tests.people import AGAIN, WorkshopTestCase, vehicle_data

from fleet.tests.repairs import repaired


class FleetTestCase(WorkshopTestCase):
    """A workshop with vehicles."""

    def fleet(self) -> dict:
        """Return the fleet."""
        answers = [self.client.get(f"/api/fleet{part}") for part in ("", "/past")]
        self.assertEqual([answer.status_code for answer in answers], [200, 200])
        return answers[0].json() | answers[1].json()

    def decided(self, hub: str = "A1L", choice: str = "replace_unit", case: Case | None = None) -> str:
        """Decide at a hub."""
        body = {"hub": hub, "choice": choice, "reason": "sure"}
        return self.send(f"cases/{(case or self.case).id}/verdicts", body).json()["id"]


class Work(FleetTestCase):
    """What is to come."""

    def test_jobs_and_rechecks_against_hours(self) -> None:
        """What is left of an open job is this week's, a recheck its own week's, what is overdue this week's."""
        self.assertEqual(sum(week["jobs"] for week in self.fleet()["weeks"]), 0)
        self.decided()
        for days in (-20, 15, 400):
            self.send(f"vehicles/{self.vehicle.id}/rechecks", AGAIN)
            day = timezone.localdate() + timedelta(days=days)
            Recheck.objects.filter(expected_on=None).update(expected_on=day, asks="play")
        weeks = self.fleet()["weeks"]
        self.assertGreater(weeks[0]["jobs"], 30)
        self.assertEqual((weeks[0]["looks"], sum(week["looks"] for week in weeks)), (20, 40))
        self.assertEqual(weeks[1]["there_are"], 9 * 60 * 5)
        self.assertEqual(len(weeks), 8)

    def test_what_is_left_follows_every_change(self) -> None:
        """A step done, a fitting answered, another decision: each is counted at once, by the yard too."""
        minutes = lambda: self.fleet()["weeks"][0]["jobs"]  # noqa: E731
        self.decided()
        seen = [minutes(), minutes()]
        self.assertEqual(seen[0], seen[1])
        self.send(f"cases/{self.case.id}/job/entries", {"id": str(uuid.uuid4()), "step": "lift.off", "kind": "done"})
        seen.append(minutes())
        self.send(f"vehicles/{self.vehicle.id}/hubs/A1L/book", {"fittings": {"brake": "drum"}})
        seen.append(minutes())
        self.decided("A1R")
        seen.append(minutes())
        self.assertEqual(len(set(seen)), 4, seen)

    def test_parts_of_all_jobs_together(self) -> None:
        """Two vans' units of one number are one line, unknown ones are not; what was ordered is none."""
        units = lambda: [row for row in self.fleet()["orders"] if row["label"] == "Hub unit"]  # noqa: E731
        for label, number in (("Second", "HU-7"), ("Third", "HU-7"), ("Fourth", "")):
            data = vehicle_data(label)
            for hub in data["axles"][0]["hubs"]:
                hub["bearings"] = [{"row": "unit", "designation": number}] if number else []
            self.decided(case=open_case(self.user, add_vehicle(self.user, data).id, "Growl"))
        self.decided()
        labels = [[one["vehicle_label"] for one in unit["wanted"]] for unit in units()]
        self.assertEqual([unit["count"] for unit in units()], [1, 1, 2])
        self.assertEqual({*labels[0], *labels[1]}, {"Test van", "Fourth"})
        self.assertEqual(set(labels[2]), {"Second", "Third"})
        self.observe("", "parts", {"answer": "ordered", "text": "unit"})
        self.assertEqual([unit["count"] for unit in units()], [1, 2])

    def test_what_is_fitted_is_not_ordered(self) -> None:
        """Once the unit is ticked as on, it is no longer asked for; what is not yet on still is."""
        self.decided()
        before = {row["label"] for row in self.fleet()["orders"]}
        entry = {"id": str(uuid.uuid4()), "step": "A1L.unit.on", "kind": "done"}
        self.assertEqual(self.send(f"cases/{self.case.id}/job/entries", entry).status_code, 200)
        self.assertEqual(before - {row["label"] for row in self.fleet()["orders"]}, {"Hub unit"})

    def test_more_than_are_counted(self) -> None:
        """It says how many open jobs it left out."""
        self.decided()
        self.decided(case=open_case(self.user, self.vehicle.id, "Growl"))
        self.assertEqual(self.fleet()["more"], 0)
        with mock.patch("fleet.work.MOST", 1):
            self.assertEqual(self.fleet()["more"], 1)


class Past(FleetTestCase):
    """What was done."""

    def test_what_came_back_and_how_little_it_proves(self) -> None:
        """Watched for a year, or back within it; the range is said, and that few are few."""
        for n in range(3):  # the first came back after 100 days, was mended again, and that held
            repaired(self.user, f"Van {n}", days_ago=500, back_after=100 if n == 0 else None)
        repaired(self.user, "Van 9", days_ago=20)  # nobody knows yet
        person = next(row for row in self.fleet()["comebacks"] if row["by"] == "Person")
        self.assertEqual((person["name"], person["back"], person["of"]), ("ours", 1, 4))
        self.assertLess(person["low"], 0.1)
        self.assertGreater(person["high"], 0.6)
        self.assertIn("too few", person["words"])

    def test_what_is_a_comeback(self) -> None:
        """Renewed or stopped again is one, mended or not; looked elsewhere or left is none."""
        for n, (again, back) in enumerate(
            {"replace_bearing": 1, "off_road": 1, "leave": 0, "look_elsewhere": 0}.items()
        ):
            with self.subTest(again):
                before = self.all_repairs()
                verdict = repaired(self.user, f"Van {n}", days_ago=500, back_after=100, again=again)
                self.assertEqual(self.all_repairs()["back"] - before["back"], back)
                Case.objects.filter(vehicle=verdict.case.vehicle).exclude(id=verdict.case_id).update(closed_at=None)
                self.assertEqual(self.all_repairs()["back"] - before["back"], back)

    def all_repairs(self) -> dict:
        """Return the group of all repairs."""
        groups = [row for row in self.fleet()["comebacks"] if row["by"] == "All"]
        return groups[0] if groups else {"back": 0, "of": 0}

    def test_decided_anew_is_one_repair(self) -> None:
        """Only what was decided last at a hub of a case was done."""
        case = repaired(self.user, "Van 1", days_ago=500).case
        first = case.verdicts.get()
        first.pk = uuid.uuid4()
        first.save(force_insert=True)
        self.assertEqual(self.all_repairs()["of"], 1)

    def test_only_ways_that_the_job_follows(self) -> None:
        """A unit that was bolted on tells nothing of how nuts are set."""
        repaired(self.user, "Van 1", days_ago=500)
        kinds = {row["by"] for row in self.fleet()["comebacks"]}
        self.assertIn("One-time fasteners", kinds)
        self.assertNotIn("How a nut is set", kinds)

    def test_a_part_by_its_number(self) -> None:
        """What the logbook says was fitted about that day, else what the bearing is called."""
        repaired(self.user, "Van 1", days_ago=500)
        vehicle = Verdict.objects.get().case.vehicle
        day = str(timezone.localdate() - timedelta(days=499))
        line = {"id": str(uuid.uuid4()), "on": day, "kind": "fitted", "hub": "A1L", "number": "HU-77"}
        self.send(f"vehicles/{vehicle.id}/logbook", line)
        parts = [row["name"] for row in self.fleet()["comebacks"] if row["by"] == "Part"]
        self.assertEqual(parts, ["HU-77"])

    def test_cost_by_vehicle(self) -> None:
        """As the verdicts said, of cases that were closed in a year."""
        repaired(self.user, "Van 1", days_ago=30)
        repaired(self.user, "Van 2", days_ago=600)
        (row,) = self.fleet()["costs"]
        brief = Verdict.objects.filter(case__vehicle=row["vehicle"]).get().brief
        self.assertEqual((row["label"], row["cost"]), ("Van 1", {brief["currency"]: brief["now"]}))

    def test_tables_and_neighbours(self) -> None:
        """Each table as CSV; the neighbour's are empty; as many queries for forty as for one."""
        repaired(self.user, "Van 1", days_ago=30)
        with CaptureQueriesContext(connection) as few:
            self.fleet()
        for n in range(2, 12):
            repaired(self.user, f"Van {n}", days_ago=500, back_after=50)
        with CaptureQueriesContext(connection) as many:
            self.fleet()
        self.assertEqual(len(many), len(few))
        for table in ("weeks", "orders", "comebacks", "costs"):
            rows = list(csv.reader(io.StringIO(self.client.get(f"/api/fleet/{table}.csv").content.decode())))
            self.assertGreater(len(rows), 0)
            self.assertEqual(len({len(row) for row in rows}), 1)
        theirs = self.neighbour.get("/api/fleet").json() | self.neighbour.get("/api/fleet/past").json()
        self.assertEqual((theirs["orders"], theirs["comebacks"], theirs["costs"]), ([], [], []))
        self.assertEqual(self.client.get("/api/fleet/people.csv").status_code, 422)
