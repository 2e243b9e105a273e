"""Files below MEDIA_ROOT: written whole or not at all, and never twice."""

import os
from pathlib import Path

from django.conf import settings


def path(name: str) -> Path:
    """Return where a kept file lies."""
    return Path(settings.MEDIA_ROOT) / name


def write_once(name: str, data: bytes) -> str:
    """Write a file that is named by its own hash, and return its name; one that is already there is left alone."""
    target = path(name)
    if not target.exists():
        target.parent.mkdir(parents=True, exist_ok=True)
        part = target.with_suffix(f".{os.getpid()}.part")
        part.write_bytes(data)
        part.replace(target)
    return name
