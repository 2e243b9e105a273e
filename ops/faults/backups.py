"""Backups that are killed at any moment while people send: the next one goes, and has all that was confirmed."""

import contextlib
import os
import random
import signal
import subprocess
import tempfile
import time
from pathlib import Path

from ops.faults.power import Site
from ops.running import MANAGE

PATIENCE = 30  # tries, a second apart: what the killed one had begun may still be ending


def killed(here: Site, repository: Path, dice: random.Random) -> list[str]:
    """Kill a backup while two send, make another, and return what was confirmed before it and is not in it."""
    command = [*MANAGE, "back_up", str(repository)]
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
    with here.two_who_send(dice):
        with subprocess.Popen(command, env=here.environment, start_new_session=True, **quiet) as backup:
            time.sleep(dice.random() * 6)
            with contextlib.suppress(ProcessLookupError):
                os.killpg(backup.pid, signal.SIGKILL)
        confirmed = set(here.confirmed)
        for _ in range(PATIENCE):
            again = subprocess.run(command, env=here.environment, capture_output=True, text=True, check=False)
            if not again.returncode:
                return _lacking(here, repository, again.stdout.split()[0], confirmed)
            time.sleep(1)
    return [again.stderr[-300:]]


def _lacking(here: Site, repository: Path, archive: str, confirmed: set[str]) -> list[str]:
    """Return the recordings of which an archive has no row, and the files of rows that it has not."""
    told = here.environment | {"BORG_BASE_DIR": str(here.folder / "borg")}
    told |= {"BORG_UNKNOWN_UNENCRYPTED_REPO_ACCESS_IS_OK": "yes", "BORG_RELOCATED_REPO_ACCESS_IS_OK": "yes"}
    with tempfile.TemporaryDirectory() as folder:
        subprocess.run(["borg", "extract", f"{repository}::{archive}"], cwd=folder, env=told, check=True)
        dump = Path(folder, "backup", "database.sql").read_text(errors="replace")
        files = {file.name for file in Path(folder, "media").rglob("*.flac")}
    lacking = [number for number in sorted(confirmed) if number not in dump]
    named = {word.rpartition("/")[2] for word in dump.split("'") if word.endswith(".flac")}
    return lacking + sorted(named - files) + ([] if len(named) >= len(confirmed) else ["rows that name no file"])
