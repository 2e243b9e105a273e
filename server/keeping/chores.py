"""What is done by itself, again and again: a table, and who does it when."""

import logging
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.conf import settings
from django.core.management import call_command
from django.db import IntegrityError
from django.db.models import Q
from django.utils import timezone
from django_tasks_db.models import DBTaskResult
from recordings.hearing import hear_some_again, take_up_again
from workshop import media

from keeping import archive, erasing
from keeping.models import Chore

log = logging.getLogger(__name__)
DAY = timedelta(days=1)
RETRIED = timedelta(hours=1)  # after a failure, what is due less often


@dataclass(frozen=True)
class Kind:
    """One chore. `here`: every machine does its own."""

    name: str
    every: timedelta
    work: Callable[[], object]
    here: bool = False


def _forget_done_tasks() -> None:
    DBTaskResult.objects.finished().filter(finished_at__lt=timezone.now() - 7 * DAY).delete()


def _back_up() -> None:
    if settings.BACKUP:
        archive.back_up(settings.BACKUP)


BACKUP = "back up"
KINDS = (
    Kind(BACKUP, timedelta(hours=settings.BACKUP_EVERY_H), _back_up),
    Kind("take up what no worker holds", timedelta(seconds=20), take_up_again),
    Kind("hear some again", timedelta(seconds=20), hear_some_again),
    Kind("clear ended sessions", DAY, lambda: call_command("clearsessions")),
    Kind("forget what was done", DAY, _forget_done_tasks),
    Kind("end old sounds", DAY, erasing.end_old_sounds),
    Kind("clear practice benches", DAY, erasing.clear_benches),
    Kind("take files away", DAY / 4, erasing.take_files_away),
    Kind("make room for copies", timedelta(hours=1), lambda: media.trim(settings.CACHE_BYTES), here=True),
)


class Doing:
    """What one process does of it."""

    def __init__(self) -> None:
        self._last: dict[str, datetime] = {}  # of what every machine does for itself

    def what_is_due(self) -> list[str]:
        """Do it; return what was done. What fails is written down, and holds up nothing else."""
        return [kind.name for kind in KINDS if self._is_mine(kind) and _do(kind)]

    def _is_mine(self, kind: Kind) -> bool:
        now = timezone.now()
        if not kind.here:
            return begin(kind.name, kind.every, now=now)
        if now - self._last.get(kind.name, now - kind.every) < kind.every:
            return False
        self._last[kind.name] = now
        return True


def begin(name: str, every: timedelta, *, now: datetime) -> bool:
    """Return whether it is due, and nobody else has begun it: whoever gets True does it."""
    due = Chore.objects.filter(Q(name=name), Q(begun_at__lte=now - every))
    if due.update(begun_at=now):
        return True
    if Chore.objects.filter(name=name).exists():
        return False
    try:
        Chore.objects.create(name=name, begun_at=now)
    except IntegrityError:
        return False  # another machine, this moment
    return True


def _do(kind: Kind) -> bool:
    try:
        kind.work()
    except Exception as fault:
        log.exception("%s", kind.name)
        again = timezone.now() - kind.every + min(kind.every, RETRIED)
        Chore.objects.filter(name=kind.name).update(failed=str(fault)[:400] or repr(fault), begun_at=again)
        return False
    Chore.objects.filter(name=kind.name).update(done_at=timezone.now(), failed="")
    return True
