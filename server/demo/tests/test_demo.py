"""The demo tells the stories that it is there to tell."""

from cases.models import Case
from django.core.management import CommandError, call_command
from django.test import TestCase
from garage.models import Vehicle
from hematite.verdict import choices
from people.models import User
from photos.models import Photo
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
        cases = Case.objects.filter(vehicle__label__startswith=label).order_by("opened_at")
        return assessment(self.user, cases[0].id)

    def test_stories(self) -> None:
        """A worn unit found; a case proven and closed; one half-way; one where it is no bearing."""
        self.assertGreaterEqual(Vehicle.objects.count(), 4)
        van = self.judged("Bookmobile")["culprits"][0]
        self.assertEqual((van["hub"], van["mechanism"]), ("A1L", "outer_race"))
        self.assertIsNotNone(Case.objects.get(vehicle__label__startswith="Heritage").closed_at)
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

    def test_loads_into_an_empty_database_only(self) -> None:
        """Never over somebody's data."""
        with self.assertRaises(CommandError):
            call_command("load_demo")
        call_command("load_demo", "--if-empty")
        self.assertEqual(User.objects.count(), 1)
