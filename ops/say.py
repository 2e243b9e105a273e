"""Words on the terminal, and commands run with their output kept for when they fail."""

import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


class CannotGoOn(SystemExit):
    """A plain reason to stop, with what to do about it."""

    def __init__(self, words: str) -> None:
        super().__init__(f"\nHematite cannot go on: {words}")


def say(words: str) -> None:
    """Print a line at once."""
    print(words, flush=True)


def run(command: Sequence[str | Path], *, what: str, **options: object) -> None:
    """Run a command quietly; on failure show the end of what it said."""
    done = subprocess.run([str(c) for c in command], capture_output=True, text=True, check=False, **options)
    if done.returncode:
        tail = "\n".join((done.stdout + done.stderr).strip().splitlines()[-25:])
        raise CannotGoOn(f"{what} failed.\n{tail}")


def show(command: Sequence[str | Path], **options: object) -> int:
    """Run a command with its output on the terminal; return its exit code."""
    sys.stdout.flush()
    return subprocess.run([str(c) for c in command], check=False, **options).returncode
