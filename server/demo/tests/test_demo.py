"""The demo tells the stories that it is there to tell."""

from cases.models import Case
from django.core.management import CommandError, call_command
from django.test import TestCase
from garage.models import Vehicle
from people.models import User
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
        """Return the assessment of the case of a vehicle."""
        return assessment(self.user, Case.objects.get(vehicle__label__startswith=label).id)

    def test_stories(self) -> None:
        """A worn unit found; a case proven and closed; one half-way; one where it is no bearing."""
        self.assertGreaterEqual(Vehicle.objects.count(), 4)
        van = self.judged("Bookmobile")["culprits"][0]
        self.assertEqual((van["hub"], van["mechanism"]), ("A1L", "outer_race"))
        self.assertIsNotNone(Case.objects.get(vehicle__label__startswith="Heritage").closed_at)
        self.assertEqual(self.judged("Outreach")["culprits"][0]["cause"], "brake")
        self.assertEqual(self.judged("Reading-room")["culprits"], [])
        quad = self.judged("Grounds quad")["culprits"][0]  # spun by hand: the speed is found in the sound
        self.assertEqual((quad["hub"], quad["mechanism"]), ("A2L", "inner_race"))

    def test_loads_into_an_empty_database_only(self) -> None:
        """Never over somebody's data."""
        with self.assertRaises(CommandError):
            call_command("load_demo")
        call_command("load_demo", "--if-empty")
        self.assertEqual(User.objects.count(), 1)
