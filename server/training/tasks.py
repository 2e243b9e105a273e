"""Work longer than a request. Tasks take ids, are idempotent and may run twice."""

from django_tasks import task

from training import watching


@task()
def watch(exercise_id: str) -> None:
    """Let the bench answer an exercise."""
    watching.watch_exercise(exercise_id)
