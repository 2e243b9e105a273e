"""What goes amiss where a file is read."""

import os
import signal
import time
from pathlib import Path


def crash(*_: object) -> None:
    """End as a decoder does that writes where it must not."""
    os.kill(os.getpid(), signal.SIGSEGV)


def never_end() -> None:
    """Go on for longer than anybody waits."""
    time.sleep(600)


def take_all() -> int:
    """Ask for more memory than there may be."""
    return len(bytearray(1500 * 1024**2))


def fill_the_disk(file: Path) -> None:
    """Write more than any file holds."""
    with file.open("wb") as out:
        out.truncate(2 * 1024**3)


def same(value: object) -> object:
    """Return what was given."""
    return value
