"""The demo tells the stories that it is there to tell."""

from datetime import timedelta

from cases.models import Case
from django.core.management import CommandError, call_command
from django.db.models import QuerySet
from django.test import TestCase
from django.utils import timezone
from fleet.past import came_back
from garage.models import Vehicle
from hematite.verdict import choices
from people.models import User
from photos.models import Photo
from upkeep.models import Recheck
from upkeep.services import state
from upkeep.usage import usage_of
from verdicts.models import Verdict
from verdicts.services import assessment

from demo.services import load


class Demo(TestCase):
    """Loaded once for all."""

    @classmethod
    def setUpTestData(cls) -> None:
        """Load it."""
        load()
        cls.user = User.objects.get()

    def judged(self, label: str) -> dict:
        """Return the assessment of the first case of a vehicle."""
        return assessment(self.user, self.of_today(label)[0].id)

    def of_today(self, label: str) -> QuerySet[Case]:
        """Return a vehicle's cases that are no history, the first one first."""
        lately = timezone.now() - timedelta(days=1)
        return Case.objects.filter(vehicle__label__startswith=label, opened_at__gt=lately).order_by("opened_at")

    def test_stories(self) -> None:
        """A worn unit found; a case proven and closed; one half-way; one where it is no bearing."""
        self.assertGreaterEqual(Vehicle.objects.count(), 4)
        van = self.judged("Bookmobile")["culprits"][0]
        self.assertEqual((van["hub"], van["mechanism"]), ("A1L", "outer_race"))
        self.assertIsNotNone(self.of_today("Heritage").get().closed_at)
        self.assertEqual(self.judged("Outreach")["culprits"][0]["cause"], "brake")
        quad = self.judged("Grounds quad")["culprits"][0]  # spun by hand: the speed is found in the sound
        self.assertEqual((quad["hub"], quad["mechanism"]), ("A2L", "outer_race"))

    def test_one_case_of_each_outcome(self) -> None:
        """Every choice was made once at least, none of them against the advice."""
        verdicts = Verdict.objects.all()
        self.assertEqual({verdict.choice for verdict in verdicts}, set(choices()))
        self.assertEqual([str(v) for v in verdicts if v.choice != v.advised], [])

    def test_half_an_inspection_is_kept(self) -> None:
        """The trailer's hub is open: some parts are looked at, one is photographed, and nothing calls it clean."""
        hub = self.judged("Reading-room")["hubs"]["A2R"]
        self.assertFalse(hub["inspection"]["complete"])
        self.assertEqual(len(hub["inspection"]["looked"]), 4)
        self.assertEqual(hub["choice"], "repack")
        self.assertEqual(Photo.objects.count(), 1)

    def test_two_years_of_history(self) -> None:
        """Something is overdue, something is due now, and the van's rate is learnt."""
        rows = {(row.vehicle.label, row.key): state(row) for row in Recheck.objects.select_related("vehicle")}
        self.assertEqual(rows["Reading-room trailer", "next_service"], "overdue")
        self.assertEqual(rows["Grounds quad", "water"], "due")
        known = usage_of(Vehicle.objects.get(label="Bookmobile 2")).rates["km"]
        self.assertTrue(known and 45 < known.per_day < 75 and known.low is not None)

    def test_some_came_back(self) -> None:
        """Of the repairs that are old enough two came back, and the fleet says how little that proves."""
        groups = {(one.by, one.name): one for one in came_back(self.user)}
        everything = groups["All", "All repairs"]
        self.assertEqual((everything.back, everything.of), (2, 14))
        self.assertTrue(groups["Part", "QU-4410"].few)

    def test_loads_into_an_empty_database_only(self) -> None:
        """Never over somebody's data."""
        with self.assertRaises(CommandError):
            call_command("load_demo")
        call_command("load_demo", "--if-empty")
        self.assertEqual(User.objects.count(), 1)
