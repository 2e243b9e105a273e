"""Kept files: written whole or not at all, and never twice.

They lie below MEDIA_ROOT. Where the machines of an installation share a store, it has them all; below MEDIA_ROOT lies
what this machine wrote or asked for, and may be taken away at will: a file is named by its hash and never changes.
"""

import errno
import hashlib
import logging
import os
import shutil
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import IO

from django.conf import settings
from django.core.files import File
from django.core.files.storage import Storage, storages
from hematite.language import say

from workshop.refusals import Refusal

log = logging.getLogger(__name__)
SHARED = "shared"  # the name of the store among the settings' STORAGES
PIECE = 1 << 20
IN_USE_S = 3600  # what was read within the hour may be about to be read again


class Away(Refusal):
    """The shared store cannot be reached."""

    def __init__(self) -> None:
        words = say(
            "Where sounds and pictures are kept cannot be reached now. What you entered stays here; try it again."
        )
        super().__init__("store_away", words, status=503)


def path(name: str) -> Path:
    """Return where a kept file lies on this machine; it is fetched from the shared store if it is not here yet."""
    here = _here(name)
    if not here.exists():
        _fetch(name, here)
    return here


def _here(name: str) -> Path:
    return Path(settings.MEDIA_ROOT) / name


def shared() -> Storage | None:
    """Return the store that the machines share, None where there is one machine and its disk."""
    return storages[SHARED] if SHARED in settings.STORAGES else None


@contextmanager
def _reached() -> Iterator[None]:
    """Say in words that the store cannot be reached, whatever its library raises."""
    try:
        yield
    except FileNotFoundError:
        raise
    except Exception as fault:
        log.exception("The shared store of files")
        raise Away from fault


def _fetch(name: str, here: Path) -> None:
    """Bring a file from the shared store, whole or not at all; one that is not there is left missing."""
    store = shared()
    if store is None:
        return
    with suppress(FileNotFoundError), _reached(), a_part(name) as part, store.open(name) as there:
        while piece := there.read(PIECE):
            part.write(piece)
        part.flush()
        Path(part.name).replace(here)


def write_once(name: str, data: bytes) -> str:
    """Write a file that is named by its own hash, and return its name; one that is already there is left alone."""
    if _here(name).exists():
        _renew(name)
    else:
        with a_part(name) as part:
            part.write(data)
            part.flush()
            move_once(Path(part.name), name)
    return name


@contextmanager
def a_part(name: str) -> Iterator[IO[bytes]]:
    """Open a file beside where one is to be kept. Several may write the same one at once, each a part of its own."""
    target = _here(name)
    target.parent.mkdir(parents=True, exist_ok=True)
    if shutil.disk_usage(target.parent).free < settings.KEPT_FREE_BYTES:
        raise OSError(errno.ENOSPC, say("what is kept free of the disk is for the database"))
    part = tempfile.NamedTemporaryFile(  # noqa: SIM115 - it is closed and moved below, or taken away
        dir=target.parent, prefix=target.stem[:12], suffix=".part", delete=False
    )
    try:
        with part:
            yield part
    finally:
        Path(part.name).unlink(missing_ok=True)


def move_once(part: Path, name: str) -> str:
    """Put a written file where it is kept, and return its name; one that is already there is left alone.

    It is on the disk, its name with it, before this returns: a row must not name what a power cut takes away.
    """
    target = _here(name)
    if target.exists():
        _renew(name)
        return name
    with part.open("rb") as written:
        os.fsync(written.fileno())
        if store := shared():  # what is here is there as well, always
            with _reached():
                store.save(name, File(written, name))
    part.replace(target)
    folder = os.open(target.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)
    return name


def _renew(name: str) -> None:
    """Let a file that is here already be as new as if it were written now: it may have been on its way out."""
    here = _here(name)
    os.utime(here)
    if store := shared():
        with _reached(), here.open("rb") as kept:
            store.save(name, File(kept, name))


def lain_s(name: str) -> float:
    """Return for how many seconds a file has lain since it was written; without end for one that is gone."""
    with suppress(FileNotFoundError), _reached():
        store = shared()
        written = store.get_modified_time(name).timestamp() if store else _here(name).stat().st_mtime
        return time.time() - written
    return float("inf")


def sha256(file: Path) -> str:
    """Return the hash of a file, read a piece at a time."""
    with file.open("rb") as opened:
        return hashlib.file_digest(opened, "sha256").hexdigest()


def verified(name: str, digest: str) -> Path:
    """Return where a kept file lies. Raises a refusal where it is gone or is no longer what was kept.

    `digest`: its hash, '' where nobody kept one.
    """
    kept = path(name)
    if digest and kept.is_file() and sha256(kept) != digest and shared():
        kept.unlink()  # the copy on this machine; the one in the store is asked for again
        kept = path(name)
    if not kept.is_file():
        raise Refusal("file_gone", say("This file is no longer on the disk. Bring it back from a backup."), status=410)
    if digest and sha256(kept) != digest:
        raise Refusal("file_damaged", say("This file is damaged on the disk. Bring it back from a backup."), status=410)
    return kept


def remove(name: str) -> None:
    """Take a file away for good, here and in the shared store. One that is gone already is no fault."""
    if store := shared():
        with _reached():
            store.delete(name)
    _here(name).unlink(missing_ok=True)


def trim(most_bytes: int) -> int:
    """Take the files that were longest not read off this machine's disk until `most_bytes` are left; return how many.

    Only where a shared store has them all.
    """
    if shared() is None:
        return 0
    found = [(file, file.stat()) for file in Path(settings.MEDIA_ROOT).rglob("*.*") if file.is_file()]
    found = [(max(stat.st_atime, stat.st_mtime), stat.st_size, file) for file, stat in found if file.suffix != ".part"]
    left, gone = sum(size for _, size, _ in found), 0
    for used, size, file in sorted(found):
        if left <= most_bytes or used > time.time() - IN_USE_S:
            break
        file.unlink(missing_ok=True)
        left, gone = left - size, gone + 1
    return gone
