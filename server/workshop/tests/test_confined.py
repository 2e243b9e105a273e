"""Reading what anybody sent: what crashes, never ends or takes all memory ends alone, and is said so."""

import os
import tempfile
from pathlib import Path
from unittest import mock

from cases.models import Case
from django.test import SimpleTestCase
from hematite.errors import BadRecording
from hematite.recordings import measure

from workshop import confined
from workshop.refusals import Refusal
from workshop.tests import amiss
from workshop.tests.people import WorkshopTestCase, wav


class Confined(SimpleTestCase):
    """One process for what is read, whatever it holds."""

    def test_what_it_says_comes_back(self) -> None:
        """Answers and refusals alike, of a process that is not this one."""
        self.assertEqual(confined.read(amiss.same, {"a": b"b" * 3_000_000}), {"a": b"b" * 3_000_000})
        self.assertNotEqual(confined.read(os.getpid), os.getpid())
        with self.assertRaises(BadRecording):
            confined.read(measure, Path(__file__))

    def test_what_takes_too_much(self) -> None:
        """In words, at once or when its time is up; what is asked next is answered."""
        with mock.patch.object(confined, "READING_S", 2):
            for wrong in (amiss.crash, amiss.never_end, amiss.take_all):
                with self.subTest(wrong.__name__):
                    with self.assertRaises(Refusal) as refused, self.assertLogs("workshop.confined", "WARNING"):
                        confined.read(wrong)
                    self.assertEqual(refused.exception.message, confined.TOO_MUCH)
                    self.assertEqual(confined.read(amiss.same, 5), 5)

    def test_what_fills_the_disk(self) -> None:
        """No file grows beyond what any holds."""
        with tempfile.TemporaryDirectory() as folder, self.assertRaises(OSError):
            confined.read(amiss.fill_the_disk, Path(folder) / "large")


class Sent(WorkshopTestCase):
    """Through the API."""

    def test_a_file_that_kills_its_decoder(self) -> None:
        """It is refused in words; nothing is kept of it, and the next one is."""
        with mock.patch("recordings.services.measure", amiss.crash), self.assertLogs("workshop.confined", "WARNING"):
            refused = self.record("A1L", wav(seconds=2))
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "too_much"))
        self.assertEqual(Case.objects.get(id=self.case.id).recordings.count(), 0)
        self.assertEqual(self.record("A1L", wav(seconds=2)).status_code, 201)
