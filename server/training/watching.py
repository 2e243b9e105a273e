"""Letting the bench answer an exercise itself, in the background, so that a learner can hold their way against its."""

import logging
from dataclasses import asdict

from django.db import transaction
from hematite.training import observe

from training import lessons
from training.models import Exercise

log = logging.getLogger(__name__)


def have_watched(exercise_id: object) -> None:
    """Have the bench answer an exercise once it is stored."""
    transaction.on_commit(lambda: _enqueue(str(exercise_id)))


def _enqueue(exercise_id: str) -> None:
    from training.tasks import watch  # noqa: PLC0415 - the task calls back into this module

    try:
        watch.enqueue(exercise_id)
    except Exception:
        log.exception("The queue cannot be reached; the bench's own way of %s is missing", exercise_id)


def watch_exercise(exercise_id: str) -> None:
    """Answer an exercise as the bench would, and keep how. May run twice."""
    exercise = Exercise.objects.filter(id=exercise_id).first()
    if exercise is None or exercise.watched:
        return
    vehicle = exercise.case.core if exercise.case else exercise.stands  # by the workshop's windows
    found = observe(exercise.hidden, vehicle, lessons.heard_of(exercise.hidden))
    kept = asdict(found) | {"minutes": found.minutes}
    Exercise.objects.filter(id=exercise_id, watched={}).update(watched=kept)
