"""The logbook and the trends: complete, filtered, on paper, and ones own."""

import csv
import io
import uuid
from datetime import timedelta

from cases.models import Case, Observation
from cases.services import open_case
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from pypdf import PdfReader
from scipy import stats
from workshop.tests.people import AGAIN, WorkshopTestCase, wav


class LogbookTestCase(WorkshopTestCase):
    """A vehicle with a past."""

    def setUp(self) -> None:
        """Say where."""
        super().setUp()
        self.path = f"/api/vehicles/{self.vehicle.id}"

    def measured(self, days_ago: int, mm: float, hub: str = "A1L", case: Case | None = None) -> Case:
        """Measure the play of a hub so many days ago."""
        case = case or open_case(self.user, self.vehicle.id, "Service")
        at = timezone.now() - timedelta(days=days_ago)
        value = {"readings_mm": [mm, mm, mm], "resolution_mm": 0.01}
        row = Observation.objects.create(case=case, hub=hub, kind="end_play", value=value, person=self.user)
        Observation.objects.filter(id=row.id).update(found_at=at)
        return case

    def series(self, hub: str = "A1L", key: str = "play") -> dict:
        """Return a series of the vehicle."""
        rows = self.client.get(f"{self.path}/growth").json()["series"]
        return next(row for row in rows if (row["hub"], row["key"]) == (hub, key))


class Logbook(LogbookTestCase):
    """Everything that was kept, the latest first."""

    def test_everything_is_in_it(self) -> None:
        """Case, finding, verdict, step, recheck, odometer and stop, each with its person."""
        self.observe("A1L", "spin", {"answer": "rumbles"})
        self.send(f"cases/{self.case.id}/verdicts", {"hub": "A1L", "choice": "replace_unit", "reason": "sure"})
        entry = {"id": str(uuid.uuid4()), "step": "A1L.wheel.off", "kind": "done"}
        self.send(f"cases/{self.case.id}/job/entries", entry)
        self.send(f"vehicles/{self.vehicle.id}/rechecks", AGAIN)
        odometer = {"id": str(uuid.uuid4()), "on": str(timezone.localdate()), "km": 52_000}
        self.send(f"vehicles/{self.vehicle.id}/odometer", odometer)
        felt = {"id": str(uuid.uuid4()), "trip": str(uuid.uuid4()), "hub": "A1L", "felt": "warm", "place": "Pass"}
        self.send(f"vehicles/{self.vehicle.id}/feels", felt)
        rows = self.client.get(f"{self.path}/logbook").json()["rows"]
        self.assertEqual(
            {row["kind"] for row in rows}, {"case", "found", "decided", "done", "again", "odometer", "road"}
        )
        self.assertTrue(all(row["person"] == "ours" for row in rows))
        self.assertEqual([row["at"] for row in rows], sorted((row["at"] for row in rows), reverse=True))

    def test_filters_paper_and_table(self) -> None:
        """By hub, by kind, by a word; the same lines as PDF and as CSV."""
        self.observe("A1L", "spin", {"answer": "rumbles"})
        self.observe("A1R", "spin", {"answer": "free"})
        asked = "?hub=A1L&kind=found&word=RUMB"
        (row,) = self.client.get(f"{self.path}/logbook{asked}").json()["rows"]
        self.assertIn("rumbles", row["words"])
        text = self.client.get(f"{self.path}/logbook.csv{asked}").content.decode()
        head, line = csv.reader(io.StringIO(text))
        self.assertEqual((head[1], line[1], line[3]), ("hub", "A1L", row["words"]))
        paper = (
            PdfReader(io.BytesIO(self.client.get(f"{self.path}/logbook.pdf{asked}").content)).pages[0].extract_text()
        )
        self.assertIn("rumbles", paper)
        self.assertIn("A1L, found, “RUMB” only", paper)
        self.assertNotIn("free, even", paper)

    def test_a_cell_is_never_a_formula(self) -> None:
        """A note that begins like one is quoted off."""
        self.observe("A1L", "note", {"text": "=1+1"})
        text = self.client.get(f"{self.path}/logbook.csv?kind=found").content.decode()
        self.assertEqual(list(csv.reader(io.StringIO(text)))[1][3], "'=1+1")

    def test_what_was_corrected_is_struck_out(self) -> None:
        """And stays."""
        first = self.observe("A1L", "spin", {"answer": "rumbles"}).json()["id"]
        self.observe("A1L", "spin", {"answer": "free"}, supersedes=first)
        rows = self.client.get(f"{self.path}/logbook?kind=found&hub=A1L").json()["rows"]
        self.assertEqual(sorted(row["struck"] for row in rows), [False, True])

    def test_the_same_queries_for_any_past(self) -> None:
        """Three cases or thirteen."""
        counts = []
        for _ in range(2):
            for days in range(10, 60, 10):
                self.measured(days, 0.05)
            with CaptureQueriesContext(connection) as asked:
                self.client.get(f"{self.path}/logbook")
            counts.append(len(asked))
        self.assertEqual(*counts)


class Growth(LogbookTestCase):
    """Slopes over visits."""

    def test_a_growing_play_has_a_range_to_act_by(self) -> None:
        """The library's slope, and dates that lie ahead; its mate, which stands still, is told apart."""
        days, play = (800, 600, 400, 200, 0), (0.012, 0.018, 0.026, 0.032, 0.04)
        for ago, mm in zip(days, play, strict=True):
            self.measured(ago, mm)
            self.measured(ago, 0.01 + 0.0001 * (ago % 3), hub="A1R")
        row = self.series()
        theirs = stats.theilslopes(play, [-ago for ago in days]).slope * 365.25
        self.assertAlmostEqual(row["trend"]["slope"], theirs, places=4)
        self.assertEqual((row["limit"], row["trend"]["grows"]), (0.05, "surely"))
        today = str(timezone.localdate())
        self.assertTrue(today < row["trend"]["soonest_on"] <= row["trend"]["expected_on"] <= row["trend"]["latest_on"])
        self.assertEqual(row["beside_mate"], "It grows faster than its mate.")

    def test_a_repair_begins_anew(self) -> None:
        """What stood before says nothing: too little to say."""
        for ago, mm in ((800, 0.02), (600, 0.03), (400, 0.04), (300, 0.06)):
            self.measured(ago, mm)
        self.send(f"cases/{self.case.id}/verdicts", {"hub": "A1L", "choice": "replace_unit", "reason": "sure"})
        self.assertEqual(self.series()["breaks"], [])  # decided and not done
        body = {"outcome": "x", "rechecks": [AGAIN], "unproven_because": "x"}
        self.send(f"cases/{self.case.id}/finish", body)
        row = self.series()
        self.assertEqual((len(row["breaks"]), row["trend"]["visits"], row["trend"]["slope"]), (1, 0, None))
        self.assertIn("Too little to say", row["trend"]["words"])

    def test_nothing_measured(self) -> None:
        """Is said by an empty list, to ones own only."""
        self.assertEqual(self.client.get(f"{self.path}/growth").json()["series"], [])
        self.assertEqual(self.neighbour.get(f"{self.path}/growth").status_code, 404)
        self.assertEqual(self.neighbour.get(f"{self.path}/logbook.csv").status_code, 404)

    def test_sounds_are_followed_too(self) -> None:
        """The strongest line of the bearing at each recording."""
        self.record("A1L", wav("outer_race"))
        self.assertGreater(self.series(key="lines")["points"][0]["value"], 2.3)
