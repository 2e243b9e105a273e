"""What is done by itself: once, by whichever machine comes first, and without holding up the rest."""

from datetime import timedelta
from unittest import mock

from django.test import TestCase, override_settings
from django.utils import timezone

from keeping import chores
from keeping.models import Chore


class Chores(TestCase):
    """Two processes on one database."""

    def kinds(self, *made: chores.Kind) -> None:
        """Have these chores only."""
        self.enterContext(mock.patch.object(chores, "KINDS", made))

    def test_one_does_it_and_then_it_rests(self) -> None:
        """The second process finds it done; when its time has come it is done again."""
        work = mock.Mock()
        self.kinds(chores.Kind("sweep", timedelta(hours=1), work))
        first, second = chores.Doing(), chores.Doing()
        self.assertEqual([one.what_is_due() for one in (first, second, first)], [["sweep"], [], []])
        Chore.objects.update(begun_at=timezone.now() - timedelta(hours=2))
        self.assertEqual([one.what_is_due() for one in (second, first)], [["sweep"], []])
        self.assertEqual(work.call_count, 2)
        self.assertEqual(Chore.objects.get().failed, "")

    def test_what_every_machine_does_for_itself(self) -> None:
        """Copies on its own disk say."""
        self.kinds(chores.Kind("tidy", timedelta(hours=1), mock.Mock(), here=True))
        first, second = chores.Doing(), chores.Doing()
        self.assertEqual([one.what_is_due() for one in (first, second, first)], [["tidy"], ["tidy"], []])

    def test_what_fails_is_written_down(self) -> None:
        """The rest is done; the owner sees it, until it goes well."""
        work = mock.Mock(side_effect=[OSError("no room"), None])
        self.kinds(chores.Kind(chores.BACKUP, timedelta(0), work), chores.Kind("sweep", timedelta(0), mock.Mock()))
        doing = chores.Doing()
        with self.assertLogs("keeping.chores", "ERROR"):
            self.assertEqual(doing.what_is_due(), ["sweep"])
        row = Chore.objects.get(name=chores.BACKUP)
        self.assertEqual((row.done_at, "no room" in row.failed), (None, True))
        doing.what_is_due()
        row.refresh_from_db()
        self.assertEqual((row.done_at is not None, row.failed), (True, ""))

    def test_what_failed_is_tried_again_within_the_hour(self) -> None:
        """A backup a day that found the disk away does not wait until tomorrow."""
        self.kinds(chores.Kind(chores.BACKUP, timedelta(days=1), mock.Mock(side_effect=OSError("away"))))
        with self.assertLogs("keeping.chores", "ERROR"):
            chores.Doing().what_is_due()
        due = Chore.objects.get().begun_at + timedelta(days=1) - timezone.now()
        self.assertTrue(timedelta(minutes=55) < due <= timedelta(hours=1), due)

    @override_settings(BACKUP="")
    def test_the_real_ones_run(self) -> None:
        """Every chore of the table goes, on an empty workshop."""
        done = chores.Doing().what_is_due()
        self.assertEqual(done, [kind.name for kind in chores.KINDS])
