"""What anybody may have sent is read in a process of its own, with limits of time and memory.

A decoder that crashes, never ends or asks for all memory takes that process with it, not what answers or hears.
"""

import logging
import multiprocessing
import resource
import signal
import threading
import traceback
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing import forkserver
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from hematite.language import later, say, speaking, spoken

from workshop.refusals import Refusal

log = logging.getLogger(__name__)
T = TypeVar("T")

READING_S, HEARING_S = 60, 300  # a file of 200 MB, and fifteen minutes of sound, on a small old machine; judgement
READING_BYTES = 1024**3
HEARING_BYTES = 2 * 1024**3  # hearing fifteen minutes at 48 kHz takes 1.3 GB
LARGEST_WRITTEN = 1024**3  # bytes of a file that it writes
TOO_MUCH = later(
    "Reading this file takes more time or memory than any file of its kind should. It may be damaged: nothing of it "
    "was kept. Export it again, or cut it."
)
TOO_MUCH_TO_HEAR = later(
    "Hearing it takes more time or memory than a sound may take. It is kept as it came: cut it to the minutes that "
    "matter, and send those."
)
# Loaded once, into the process of which the others are copies; this module too, of the version that runs.
LOADED = ["hematite.bundles", "logbook.tables", "photos.pictures", "recordings.decoded", "workshop.confined"]

_copies = multiprocessing.get_context("forkserver")
_copies.set_forkserver_preload(LOADED)
_two = threading.BoundedSemaphore(2)  # that read at once, of each process that answers: the rest waits


@dataclass(frozen=True)
class _Limits:
    """What a process that reads may take, and what is said where it takes more."""

    seconds: int
    most_bytes: int
    words: str


def make_ready() -> None:
    """Begin what the readers are copies of, before the first file comes."""
    forkserver.ensure_running()


def read(function: Callable[..., T], *arguments: object) -> T:
    """Return what a function says of a file. Raises what it raises, or a refusal where it takes too much, or dies."""
    return _run(function, arguments, _Limits(READING_S, READING_BYTES, say(TOO_MUCH)))


def heard(function: Callable[..., T], *arguments: object) -> T:
    """Return what a function hears in a kept sound. Raises as `read`."""
    return _run(function, arguments, _Limits(HEARING_S, HEARING_BYTES, say(TOO_MUCH_TO_HEAR)))


def _run(function: Callable[..., T], arguments: tuple[object, ...], limits: _Limits) -> T:
    with _two:
        here, there = _copies.Pipe(duplex=False)
        process = _copies.Process(target=_answer, args=(there, function, arguments, limits, spoken()), daemon=True)
        process.start()
        there.close()
        try:
            answer, fault = here.recv() if here.poll(limits.seconds) else (None, TimeoutError())
        except EOFError:
            answer, fault = None, ProcessLookupError()
        finally:
            process.kill()
            process.join()
            here.close()
    if isinstance(fault, TimeoutError | ProcessLookupError | MemoryError):
        log.warning("%s was given up: %r, exit %s", function.__name__, fault, process.exitcode)
        raise Refusal("too_much", limits.words, status=422)
    if fault is not None:
        raise fault
    return answer


def _answer(
    there: Connection, function: Callable[..., Any], arguments: tuple[object, ...], limits: _Limits, language: str
) -> None:
    """Take the limits on, in a process that reads, and send what the function says or raises."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C is for who answers
    resource.setrlimit(resource.RLIMIT_CPU, (limits.seconds, limits.seconds))
    resource.setrlimit(resource.RLIMIT_DATA, (limits.most_bytes, limits.most_bytes))
    resource.setrlimit(resource.RLIMIT_FSIZE, (LARGEST_WRITTEN, LARGEST_WRITTEN))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    try:
        with speaking(language):
            there.send((function(*arguments), None))
    except Exception as fault:
        fault.add_note(traceback.format_exc())  # where it was raised is not sent along
        there.send((None, fault))
