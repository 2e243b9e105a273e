"""Having recordings heard: by whichever worker comes first, by one at a time, and again where a worker died at it."""

import logging
import os
import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from datetime import timedelta
from pathlib import Path

import hematite
from cases.services import case_itself
from django.db import connection, transaction
from django.db.models import F, Q, QuerySet
from django.utils import timezone
from hematite.errors import HematiteError
from hematite.language import say
from people.models import Workshop
from workshop import confined, media
from workshop.languages import speaking_to
from workshop.refusals import Refusal

from recordings import decoded, queue, storage
from recordings.models import Analysis, Recording
from recordings.situations import situation_of

log = logging.getLogger(__name__)
HELD = timedelta(seconds=60)  # how long a worker has a recording after its last sign of life
BEAT_S = 15
TAKEN = timedelta(seconds=30)  # between leaving the queue and being held
MOST_TRIES = 3
AT_ONCE = 5  # heard again in the background
GIVEN_UP = (
    f"Hearing it was broken off {MOST_TRIES} times: it may be more than this machine can do. It is kept; hear it again."
)


def have_heard(recording_id: object, *, later: bool = False) -> None:
    """Have a recording heard once what is being stored is stored. `later`: after all that somebody waits for."""
    transaction.on_commit(lambda: _enqueue(str(recording_id), later=later))


def _enqueue(recording_id: str, *, later: bool = False) -> None:
    """Put a recording in the queue. One that cannot be reached is no harm to what is stored: it is tried again."""
    from recordings.tasks import hear  # noqa: PLC0415 - the task calls back into this module

    try:
        queue.put(hear, recording_id, later=later)
    except Exception:
        log.exception("The queue cannot be reached; %s waits until it can", recording_id)
        return
    Analysis.objects.filter(recording_id=recording_id).update(queued_at=timezone.now())


def ask_again(recording_id: object, *, later: bool = False) -> None:
    """Have a recording heard anew; what a worker hears of it now does not count any more."""
    fresh = {"state": Analysis.State.WAITING, "error": "", "tries": 0, "asked": F("asked") + 1, "queued_at": None}
    Analysis.objects.filter(recording_id=recording_id).update(**fresh)
    have_heard(recording_id, later=later)


def of_another_hearing(version: str) -> bool:
    """Return whether this version may hear differently: the middle number counts up when what it hears changes."""
    return version.split(".")[:2] != hematite.__version__.split(".")[:2]


def heard_by_others(workshop_id: int) -> QuerySet[Analysis]:
    """Return what other versions heard in the sounds of a workshop that are still there, the oldest first."""
    this = ".".join(hematite.__version__.split(".")[:2]) + "."
    done = Analysis.objects.filter(recording__case__workshop=workshop_id, state=Analysis.State.DONE)
    there = done.exclude(recording__sound__file="").exclude(core_version__startswith=this)
    return there.order_by("recording__made_at", "pk")


def hear_some_again() -> int:
    """Have a few recordings heard by this version, of the workshops that want it, while nobody waits for any.

    Few, since what is heard again is no witness until it is: cases are whole but for a moment. Returns how many.
    """
    if Analysis.objects.filter(state=Analysis.State.WAITING).exists():
        return 0
    for workshop in Workshop.objects.filter(hear_again=True):
        some = list(heard_by_others(workshop.pk).values_list("recording_id", flat=True)[:AT_ONCE])
        if some:
            for recording_id in some:
                ask_again(recording_id, later=True)
            return len(some)
        Workshop.objects.filter(pk=workshop.pk).update(hear_again=False)
    return 0


def take_up_again() -> int:
    """Queue what waits and nobody hears; return how many. May run anywhere, at any time, as often as one likes."""
    waiting = Analysis.objects.filter(state=Analysis.State.WAITING)
    gone = [row.pk for row in waiting.filter(held_by__startswith=f"{_machine()}:") if not _lives(row.held_by)]
    now = timezone.now()
    waiting.filter(Q(pk__in=gone) | Q(held_until__lt=now)).update(held_by="", held_until=None, queued_at=None)
    waiting.filter(held_until=None, tries__gte=MOST_TRIES).update(state=Analysis.State.FAILED, error=GIVEN_UP)
    lost = waiting.filter(held_until=None).filter(Q(queued_at=None) | Q(queued_at__lt=now - TAKEN))
    numbers = list(map(str, lost.values_list("recording_id", flat=True)))
    left = sorted(set(numbers) - queue.standing_in()) if numbers else []
    for recording_id in left:
        have_heard(recording_id)
    return len(left)


def hear_recording(recording_id: str) -> None:
    """Hear a kept recording and keep what was heard. May run twice, or beside itself; a refusal is kept as words."""
    with _held(recording_id) as mine:
        going_on = bool(mine)
        waits = Analysis.objects.filter(recording_id=recording_id, held_by=mine, state=Analysis.State.WAITING)
        while going_on and (asked := waits.values_list("asked", flat=True).first()):
            # If it was asked for again meanwhile, of a corrected speed say, what was heard is of no use and not kept.
            going_on = _hear(recording_id, waits.filter(asked=asked))


def _hear(recording_id: str, asked: QuerySet[Analysis]) -> bool:
    """Hear it; return False where its sound cannot be had now, which is no try."""
    fields: dict = {"core_version": hematite.__version__, "error": ""}
    try:
        recording = Recording.objects.select_related("sound", "case", "person").get(id=recording_id)
        vehicle = case_itself(recording.case_id).core
        with speaking_to(recording.person.workshop.language):
            found = confined.heard(decoded.heard, storage.file_of(recording), situation_of(recording), vehicle)
        fields |= {"state": "done", "heard": found[0], "plot": found[1]}
    except media.Away:
        asked.update(queued_at=None, tries=F("tries") - 1)
        return False
    except (HematiteError, Refusal) as refusal:
        fields |= {"state": "failed", "error": str(refusal)}
    except Exception:
        # Said on the screen, so that nobody waits for ever; raised, so that the task's log has the cause.
        asked.update(state="failed", error=say("Hearing it failed, which is a fault of the program."))
        raise
    asked.update(**fields)
    return True


@contextmanager
def _held(recording_id: str) -> Iterator[str]:
    """Hold a waiting recording alone, and say so as long as this process lives. Gives '' where another has it."""
    me, now = f"{_machine()}:{os.getpid()}:{threading.get_ident()}", timezone.now()
    free = Analysis.objects.filter(recording_id=recording_id, state=Analysis.State.WAITING)
    free = free.filter(Q(held_until=None) | Q(held_until__lt=now))
    if not free.update(held_by=me, held_until=now + HELD, tries=F("tries") + 1):
        yield ""
        return
    done = threading.Event()
    beating = threading.Thread(target=_beat, args=(recording_id, me, done), daemon=True)
    beating.start()
    try:
        yield me
    finally:
        done.set()
        beating.join()
        Analysis.objects.filter(recording_id=recording_id, held_by=me).update(held_by="", held_until=None)


def _beat(recording_id: str, me: str, done: threading.Event) -> None:
    """Give signs of life until it is done."""
    while not done.wait(BEAT_S):
        with suppress(Exception):  # a database away for a moment: the next beat may reach it
            mine = Analysis.objects.filter(recording_id=recording_id, held_by=me)
            mine.update(held_until=timezone.now() + HELD)
        connection.close()


def _machine() -> str:
    """Return what tells this machine, or this container of it, from others."""
    boot = Path("/proc/sys/kernel/random/boot_id")
    inside = Path("/proc/self/ns/pid")
    parts = [socket.gethostname()[:40]]
    if boot.is_file() and inside.exists():
        parts += [boot.read_text(encoding="ascii")[:8], str(inside.stat().st_ino)]
    return "/".join(parts)


def _lives(held_by: str) -> bool:
    """Return whether a process of this machine goes on."""
    return Path(f"/proc/{held_by.split(':')[1]}").exists()
