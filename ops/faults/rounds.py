"""The rounds of `make faults`."""

import os
import random
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path

from ops.faults import backups, full, power, upgrades
from ops.say import say

SHARES = {"upload": 84, "full disk": 10, "backup": 4, "upgrade": 2}  # of a hundred: those that take longest least often
A_SITE = 60  # rounds on one installation
KINDS = ("database", "database", "database", "server", "both")  # a database is back in a second, a server in three


def main() -> int:
    """Play; return 1 where anything was lost."""
    many, seed = int(os.environ.get("ROUNDS") or 1000), os.environ.get("SEED") or "1"
    wrong: list[str] = []
    for kind, share in SHARES.items():
        if kind == "full disk" and not full.may_mount():
            say("full disk: a small disk is mounted for it, which this user may not. Left out.")
            continue
        begun, rounds, found = time.monotonic(), 0, 0
        for lost in PLAYED[kind](max(many * share // 100, 1), random.Random(f"{seed}/{kind}")):
            rounds += 1
            found += len(lost)
            for words in lost:
                say(f"  {kind}, round {rounds}: {words}")
            wrong += lost
        say(f"{kind}: {rounds} rounds, {found} lost or wrong, {time.monotonic() - begun:.0f} s")
    return 1 if wrong else 0


def _sites(rounds: int) -> Iterator[tuple[power.Site, Path, int]]:
    """Give installations, and how many rounds each has."""
    for first in range(0, rounds, A_SITE):
        with tempfile.TemporaryDirectory() as folder, power.site(Path(folder) / "site") as here:
            yield here, Path(folder), min(A_SITE, rounds - first)


def _uploads(rounds: int, dice: random.Random) -> Iterator[list[str]]:
    for here, _, some in _sites(rounds):
        for n in range(some):
            if n % 20 == 19:
                here.another_case()
            yield power.cut(here, dice, dice.choice(KINDS))
        say(f"  {some} cuts on one installation, {len(here.confirmed)} recordings confirmed: each is looked at again …")
        yield from ([words] for words in here.lost(here.confirmed))  # all of them, after all of it


def _full_disks(rounds: int, dice: random.Random) -> Iterator[list[str]]:
    for name, megabytes in full.DISKS.items():
        with tempfile.TemporaryDirectory() as folder:
            base = Path(folder)
            with full.small_disk(base / name, megabytes) as disk, full.site_on(disk, base / "rest", name) as here:
                for _ in range(rounds // len(full.DISKS)):
                    yield full.fill(here, disk, dice)
                yield from ([words] for words in here.lost(here.confirmed))


def _backups(rounds: int, dice: random.Random) -> Iterator[list[str]]:
    for here, folder, some in _sites(rounds):
        for _ in range(some):
            yield backups.killed(here, folder / "backups", dice)


def _upgrades(rounds: int, dice: random.Random) -> Iterator[list[str]]:
    with tempfile.TemporaryDirectory() as folder, upgrades.old_release(Path(folder)) as old:
        for _ in range(rounds):
            yield upgrades.broken_off(old, after_s=dice.uniform(-4, 4), database_too=dice.random() < 0.5)


PLAYED: dict[str, Callable[[int, random.Random], Iterator[list[str]]]] = {
    "upload": _uploads,
    "full disk": _full_disks,
    "backup": _backups,
    "upgrade": _upgrades,
}


if __name__ == "__main__":
    raise SystemExit(main())
