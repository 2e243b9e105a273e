"""The queue of what is to be heard: rows of the database, or lists of a Redis that many workers share."""

import django_rq
from django.conf import settings
from django_tasks.base import Task
from django_tasks_db.models import DBTaskResult

LATER = "later"  # the queue of what nobody waits for
LOW = -50


def put(task: Task, recording_id: str, *, later: bool) -> None:
    """Put a recording in the queue. Raises what the backend raises where it cannot be reached."""
    if later:
        task = task.using(queue_name=LATER, **({"priority": LOW} if task.get_backend().supports_priority else {}))
    task.enqueue(recording_id)


def standing_in() -> set[str]:
    """Return the recordings that stand in the queue. Raises what the backend raises where it cannot be reached."""
    if settings.REDIS:
        jobs = [job for name in settings.QUEUES for job in django_rq.get_queue(name).get_jobs()]
        return {str(job.args[0]) for job in jobs}
    return {str(word) for row in DBTaskResult.objects.ready() for word in row.args_kwargs["args"]}
