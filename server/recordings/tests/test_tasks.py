"""The worker: the same task through rows in the database, as `make start` runs it."""

import uuid

from cases.services import open_case
from django.core.management import call_command
from django.test import TransactionTestCase, override_settings
from django_tasks.base import TaskResultStatus
from django_tasks_db.models import DBTaskResult
from garage.services import add_vehicle
from people.models import User, Workshop
from workshop.tests.people import WHEEL, vehicle_data, wav

from recordings.models import Analysis
from recordings.services import keep_recording, take_up_again

QUEUE = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
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

    def test_heard_by_the_worker(self) -> None:
        """An upload answers at once with a waiting analysis; the worker hears it; a second run changes nothing."""
        user = User.objects.create_user("ours", workshop=Workshop.objects.create(name="ours"))
        case = open_case(user, add_vehicle(user, vehicle_data()).id, "")
        name = uuid.uuid4()
        keep_recording(user, case.id, recording_id=name, sound=wav("outer_race"), made=MADE)
        self.assertEqual(Analysis.objects.get().state, "waiting")
        for _ in range(2):
            call_command("db_worker", "--batch", "--no-startup-delay", verbosity=0)
            heard = Analysis.objects.get()
            self.assertEqual(heard.state, "done")
            self.assertEqual(heard.heard["families"][0]["kind"], "outer_race")

    def test_what_a_killed_worker_left_is_taken_up_again(self) -> None:
        """Its task stands as running for ever; at the next start the recording is queued again, and once only."""
        user = User.objects.create_user("ours", workshop=Workshop.objects.create(name="ours"))
        case = open_case(user, add_vehicle(user, vehicle_data()).id, "")
        keep_recording(user, case.id, recording_id=uuid.uuid4(), sound=wav("outer_race"), made=MADE)
        DBTaskResult.objects.update(status=TaskResultStatus.RUNNING)
        for queued in (1, 0):
            self.assertEqual(take_up_again(), queued)
        call_command("db_worker", "--batch", "--no-startup-delay", verbosity=0)
        self.assertEqual(Analysis.objects.get().state, "done")
