"""Work longer than a request. Tasks take ids, are idempotent and may run twice."""

from django_tasks import task

from recordings import hearing


@task()
def hear(recording_id: str) -> None:
    """Hear a recording."""
    hearing.hear_recording(recording_id)
