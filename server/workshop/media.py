"""Files below MEDIA_ROOT: written whole or not at all, and never twice."""

import os
import tempfile
from pathlib import Path

from django.conf import settings


def path(name: str) -> Path:
    """Return where a kept file lies."""
    return Path(settings.MEDIA_ROOT) / name


def write_once(name: str, data: bytes) -> str:
    """Write a file that is named by its own hash, and return its name; one that is already there is left alone.

    It is on the disk, its name with it, before this returns: a row must not name what a power cut takes away. Several
    may write the same file at once, each a part of its own.
    """
    target = path(name)
    if target.exists():
        return name
    target.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.NamedTemporaryFile(dir=target.parent, prefix=target.stem, suffix=".part", delete=False) as part:
        part.write(data)
        part.flush()
        os.fsync(part.fileno())
    Path(part.name).replace(target)
    folder = os.open(target.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)
    return name
