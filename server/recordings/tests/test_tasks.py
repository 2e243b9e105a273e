"""The worker: the same task through rows in the database, as `make start` runs it."""

import os
import time
import uuid
from datetime import timedelta
from unittest import mock

from cases.services import open_case
from django.core.management import call_command
from django.test import TransactionTestCase, override_settings
from django.utils import timezone
from django_tasks.base import TaskResultStatus
from django_tasks_db.models import DBTaskResult
from garage.services import add_vehicle
from people.models import User, Workshop
from workshop.tests.people import WHEEL, vehicle_data, wav

from recordings import hearing
from recordings.models import Analysis, Recording
from recordings.services import keep_recording
from recordings.tasks import hear

QUEUE = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["default", "later"]}}
MADE = {
    "place": "A1L",
    "sensor": "clip",
    "situation": "stand_driven",
    "gain_group": "g",
    "speed": WHEEL,
    "after_repair": False,
}


@override_settings(TASKS=QUEUE)
class Worker(TransactionTestCase):
    """Enqueued in one transaction, heard by another process's loop."""

    def setUp(self) -> None:
        """Keep a recording that nobody has heard yet."""
        self.user = User.objects.create_user("ours", workshop=Workshop.objects.create(name="ours"))
        self.case = open_case(self.user, add_vehicle(self.user, vehicle_data()).id, "")
        self.keep()

    def keep(self) -> None:
        """Keep one."""
        sound = wav("outer_race")
        keep_recording(self.user, self.case.id, recording_id=uuid.uuid4(), sound=sound, made=MADE)

    def work(self) -> Analysis:
        """Let a worker do what is queued."""
        call_command("db_worker", "--queue-name", "*", "--batch", "--no-startup-delay", verbosity=0)
        return Analysis.objects.get()

    def hold(self, by: str, *, seconds: float = 60, **more: object) -> None:
        """Let a process have the recording, as one that was killed in the middle leaves it."""
        until = timezone.now() + timedelta(seconds=seconds)
        DBTaskResult.objects.update(status=TaskResultStatus.RUNNING)
        Analysis.objects.update(held_by=by, held_until=until, **more)

    def test_heard_by_the_worker(self) -> None:
        """An upload answers at once with a waiting analysis; the worker hears it; a second run changes nothing."""
        self.assertEqual(Analysis.objects.get().state, "waiting")
        for _ in range(2):
            heard = self.work()
            self.assertEqual((heard.state, heard.held_by, heard.tries), ("done", "", 1))
            self.assertEqual(heard.heard["families"][0]["kind"], "outer_race")

    def test_what_a_killed_worker_had_is_taken_up_again(self) -> None:
        """At once where its process is known to be gone, else when it gave no sign of life for a while; once only."""
        gone = f"{hearing._machine()}:{2**22 + 1}:1"
        for by, seconds in ((gone, 60), ("another machine:7:1", -1)):
            self.hold(by, seconds=seconds)
            self.assertEqual([hearing.take_up_again() for _ in range(2)], [1, 0])
        self.assertEqual(self.work().state, "done")

    def test_what_is_heard_elsewhere_is_left_alone(self) -> None:
        """A process that lives, here or on another machine, keeps what it has."""
        for by in (f"{hearing._machine()}:{os.getpid()}:1", "another machine:7:1"):
            self.hold(by)
            self.assertEqual(hearing.take_up_again(), 0)
            with mock.patch.object(hearing.confined, "heard") as listened:
                hearing.hear_recording(str(Analysis.objects.get().recording_id))
            listened.assert_not_called()

    def test_never_twice_at_once(self) -> None:
        """Asked a second time while one hears it, the second goes away."""
        number = str(Analysis.objects.get().recording_id)

        def meanwhile(*args: object, **kinds: object) -> object:
            hearing.hear_recording(number)
            return listen(*args, **kinds)

        listen = hearing.confined.heard
        with mock.patch.object(hearing.confined, "heard", side_effect=meanwhile) as listened:
            hearing.hear_recording(number)
        self.assertEqual(listened.call_count, 1)
        self.assertEqual(Analysis.objects.get().state, "done")

    def test_given_up_after_three_tries(self) -> None:
        """What kills its worker each time is said on the screen, and may be asked for again."""
        self.hold("another machine:7:1", seconds=-1, tries=hearing.MOST_TRIES)
        self.assertEqual(hearing.take_up_again(), 0)
        self.assertIn("broken off 3 times", Analysis.objects.get().error)
        hearing.ask_again(Analysis.objects.get().recording_id)
        self.assertEqual(self.work().state, "done")

    def test_a_worker_gives_signs_of_life(self) -> None:
        """A long sound is not taken from the worker that is at it."""
        number = str(Analysis.objects.get().recording_id)
        ends: list[object] = []

        def slow(*args: object, **kinds: object) -> object:
            for _ in range(2):
                time.sleep(0.3)
                ends.append(Analysis.objects.get().held_until)
            return listen(*args, **kinds)

        listen = hearing.confined.heard
        with mock.patch.object(hearing, "BEAT_S", 0.1), mock.patch.object(hearing.confined, "heard", side_effect=slow):
            hearing.hear_recording(number)
        self.assertLess(ends[0], ends[1])

    def test_a_queue_that_is_away_loses_nothing(self) -> None:
        """What is sent is kept and waits; it is queued when the queue is back."""
        self.work()
        Analysis.objects.all().delete()
        away = mock.patch.object(hear.get_backend(), "enqueue", side_effect=ConnectionError("away"))
        with away, self.assertLogs("recordings.hearing", "ERROR"):
            hearing.have_heard(Analysis.objects.create(recording=Recording.objects.get()).recording_id)
            self.assertEqual(hearing.take_up_again(), 1)
        self.assertEqual(hearing.take_up_again(), 1)
        self.assertEqual(self.work().state, "done")

    def test_what_nobody_waits_for_comes_last(self) -> None:
        """A recording that is heard again in the background is heard after one that was just made."""
        hearing.ask_again(Analysis.objects.get().recording_id, later=True)
        later = str(Analysis.objects.get().recording_id)
        DBTaskResult.objects.filter(queue_name="default").delete()
        self.keep()
        order: list[str] = []
        with mock.patch.object(hearing, "hear_recording", side_effect=order.append):
            call_command("db_worker", "--queue-name", "*", "--batch", "--no-startup-delay", verbosity=0)
        self.assertEqual(order[-1], later)
        self.assertEqual(len(order), 2)
