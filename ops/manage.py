"""`make back-up TO=…`, `make restore FROM=…`: a command of the server's on our own database, running or not.

Any other: `python3 -m ops.manage COMMAND …`.
"""

import contextlib
import fcntl
import os
import subprocess
import sys
from collections.abc import Iterator

from ops.build import ensure_python
from ops.database import Database
from ops.packages import ensure_packages
from ops.running import MANAGE, VAR, Environment, database, keep_secret_key
from ops.say import say


def main() -> int:
    """Run it; return its exit code."""
    if len(sys.argv) < 2:
        say("Say which command, for instance: python3 -m ops.manage back_up /mnt/backups")
        return 2
    ensure_packages(tests=False)
    ensure_python()
    VAR.mkdir(parents=True, exist_ok=True)
    keep_secret_key()
    with _found() as environment:
        told = environment | {"HEMATITE_DEMO": os.environ.get("HEMATITE_DEMO", "0")}
        return subprocess.run([*MANAGE, *sys.argv[1:]], env=told, check=False).returncode


@contextlib.contextmanager
def _found() -> Iterator[Environment]:
    """Give the database of a server that runs from this folder, or else start it for the moment."""
    with (VAR / "start.lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield os.environ | {"HEMATITE_VAR": str(VAR)} | Database(VAR).environment()
            return
        with database() as environment:
            yield environment


if __name__ == "__main__":
    raise SystemExit(main())
