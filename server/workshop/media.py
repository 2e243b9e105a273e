"""Files below MEDIA_ROOT: written whole or not at all, and never twice."""

import hashlib
import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from django.conf import settings

from workshop.refusals import Refusal


def path(name: str) -> Path:
    """Return where a kept file lies."""
    return Path(settings.MEDIA_ROOT) / name


def write_once(name: str, data: bytes) -> str:
    """Write a file that is named by its own hash, and return its name; one that is already there is left alone."""
    if not path(name).exists():
        with a_part(name) as part:
            part.write(data)
            part.flush()
            move_once(Path(part.name), name)
    return name


@contextmanager
def a_part(name: str) -> Iterator[IO[bytes]]:
    """Open a file beside where one is to be kept. Several may write the same one at once, each a part of its own."""
    target = path(name)
    target.parent.mkdir(parents=True, exist_ok=True)
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
    target = path(name)
    if target.exists():
        return name
    with part.open("rb") as written:
        os.fsync(written.fileno())
    part.replace(target)
    folder = os.open(target.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)
    return name


def sha256(file: Path) -> str:
    """Return the hash of a file, read a piece at a time."""
    with file.open("rb") as opened:
        return hashlib.file_digest(opened, "sha256").hexdigest()


def verified(name: str, digest: str) -> Path:
    """Return where a kept file lies. Raises a refusal where it is gone or is no longer what was kept.

    `digest`: its hash, '' where nobody kept one.
    """
    kept = path(name)
    if not kept.is_file():
        raise Refusal("file_gone", "This file is no longer on the disk. Bring it back from a backup.", status=410)
    if digest and sha256(kept) != digest:
        raise Refusal("file_damaged", "This file is damaged on the disk. Bring it back from a backup.", status=410)
    return kept
