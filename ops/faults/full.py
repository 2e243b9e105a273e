"""Disks that are full: a small one for the files, another for the database."""

import contextlib
import os
import random
import subprocess
import uuid
from collections.abc import Iterator
from pathlib import Path

from ops.faults.power import Site, noise, site

DISKS = {"files": 24, "database": 420}  # MB; a new database takes 220
FULL, AWAY = 507, 503
MOST = 250  # recordings until the disk is full: rows are small, and tables grow in leaps


@contextlib.contextmanager
def small_disk(folder: Path, megabytes: int) -> Iterator[Path]:
    """Give a folder that is a filesystem of its own, in memory. Needs to be allowed to mount."""
    folder.mkdir(parents=True, exist_ok=True)
    subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={megabytes}m", "hematite-trial", folder], check=True)
    try:
        yield folder
    finally:
        subprocess.run(["umount", "--lazy", folder], check=False)


def may_mount() -> bool:
    """Return whether this process may mount: as root, where the machine lets it."""
    return os.geteuid() == 0 and subprocess.run(["unshare", "-m", "true"], check=False).returncode == 0


@contextlib.contextmanager
def site_on(disk: Path, rest: Path, what: str) -> Iterator[Site]:
    """Give an installation of which the files, or the database, lie on a disk; the rest elsewhere."""
    if what == "database":
        with site(rest / "files-elsewhere", data=disk) as here:
            yield here
        return
    with site(disk, data=rest / "database-elsewhere") as here:
        yield here


@contextlib.contextmanager
def filled(disk: Path, *, but: int) -> Iterator[None]:
    """Fill a disk but for some bytes, for the moment."""
    ballast = disk / "ballast"
    room = os.statvfs(disk)
    free = room.f_bavail * room.f_frsize
    try:
        if free > but:
            with ballast.open("wb") as file:
                os.posix_fallocate(file.fileno(), 0, free - but)
        yield
    finally:
        ballast.unlink(missing_ok=True)


def fill(here: Site, disk: Path, dice: random.Random) -> list[str]:
    """Send until the disk is full, then make room; return what was confirmed and is lost, and what was said wrongly."""
    numbers: set[str] = set()
    wrong: list[str] = []
    with filled(disk, but=dice.randrange(40_000)):
        for _ in range(MOST):
            number = str(uuid.UUID(int=dice.getrandbits(128), version=4))
            here.sent[number] = noise(dice)
            numbers.add(number)
            answered = here.send(number)
            if answered not in (201, FULL, AWAY):
                wrong.append(f"{number} was answered {answered}")
            if answered != 201:
                break
        else:
            wrong.append("the disk was never full")
    here.database.wait()  # it may have stopped on the full disk
    return wrong + here.lost_of(numbers)
