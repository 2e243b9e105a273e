"""Backups: the database as one moment had it and every file beside it, in a Borg repository; and the way back.

Borg (an open format, of Debian's packages) keeps each piece once, by its hash; encrypts where a passphrase is given;
and checks every hash when an archive is read. The dump is one transaction's view, so people go on working; files are
written before the rows that name them and never change, so those of the dump are all there when it ends.
"""

import fcntl
import json
import os
import shutil
import subprocess
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import hematite
from django.conf import settings
from django.core.management import call_command
from django.db import connection
from django.utils import timezone
from photos.models import Photo
from recordings.models import Sound
from workshop import media

from keeping import dumps
from keeping.dumps import CannotKeep

FORMAT = "hematite-backup"
DUMP, ABOUT = "backup/database.sql", "backup/about.json"
UNENCRYPTED = {"BORG_UNKNOWN_UNENCRYPTED_REPO_ACCESS_IS_OK": "yes", "BORG_RELOCATED_REPO_ACCESS_IS_OK": "yes"}
KEPT = {"d": "--keep-daily", "w": "--keep-weekly", "m": "--keep-monthly", "y": "--keep-yearly"}


@dataclass(frozen=True)
class Restored:
    """What came back: rows by table, files, and the names of those that the rows name and the archive has not."""

    archive: str
    made_at: str
    rows: dict[str, int]
    files: int
    lost: list[str]


def back_up(repository: str) -> str:
    """Write an archive, read it back against its hashes, forget those that are too old. Returns its name."""
    rules = _rules()
    if not _exists(repository):
        sealed = "repokey-blake2" if settings.BACKUP_KEY else "none"
        _borg("init", "--make-parent-dirs", "--encryption", sealed, repository)
    archive = f"hematite-{timezone.now():%Y-%m-%dT%H:%M:%S.%f}"
    named = named_files()  # of rows that the dump has, and maybe of some that were deleted before it
    with _one_at_a_time():
        dumps.write(settings.VAR / DUMP)
        _bring_all_here()
        (settings.VAR / ABOUT).write_text(json.dumps(_about(), indent=1), encoding="utf-8")
        without = [word for pattern in ("*.part", "*-small.jpg") for word in ("--exclude", f"sh:**/{pattern}")]
        made = ["create", "--compression", "zstd", *without, f"{repository}::{archive}", "backup", "media"]
        _borg(*made, cwd=settings.VAR)
    _borg("extract", "--dry-run", f"{repository}::{archive}")
    _borg("prune", "--glob-archives", "hematite-*", *rules, repository)
    _borg("compact", repository)
    if lost := sorted(set(named) - _files(f"{repository}::{archive}")):
        words = f"{len(lost)} files that cases name are not in it, {lost[0]} for one"
        raise CannotKeep(f"{archive} was written, but {words}: they are gone from the disk, or cannot be read.")
    return archive


def _files(archive: str) -> set[str]:
    """Return the sounds and pictures that an archive has: a file that cannot be read is only a warning of Borg's."""
    return {line.removeprefix("media/") for line in _borg("list", "--format", "{path}{NL}", archive).splitlines()}


def archives(repository: str) -> list[str]:
    """Return the archives of a repository, the latest last."""
    found = json.loads(_borg("list", "--json", "--glob-archives", "hematite-*", repository))
    return [one["archive"] for one in found["archives"]]


def restore(repository: str, archive: str = "") -> Restored:
    """Bring an archive back into an empty database: rows as they were, then up to this version; files by their hash.

    Raises CannotKeep where somebody is in the database already, or where there is nothing to bring back.
    """
    if dumps.people():
        raise CannotKeep("There are people in this database. Restore into an empty one: nothing is overwritten.")
    known = archives(repository)
    wanted = archive or (known[-1] if known else "")
    if wanted not in known:
        raise CannotKeep(f"There is no archive {wanted or 'at all'} in {repository}.")
    settings.VAR.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=settings.VAR, prefix="restore-") as folder:
        stage = Path(folder)
        _borg("extract", f"{repository}::{wanted}", cwd=stage)
        about = json.loads((stage / ABOUT).read_text(encoding="utf-8"))
        dumps.load(stage / DUMP)
        rows = dumps.rows()
        call_command("migrate", interactive=False, verbosity=0)
        lost, files = _put_back(stage / "media")
    return Restored(wanted, about["made_at"], rows, files, lost)


def named_files() -> dict[str, str]:
    """Return every file that a row names, with its hash, '' where nobody kept one."""
    sounds = dict(Sound.objects.exclude(file="").values_list("file", "file_sha256"))
    pictures = Photo.objects.exclude(file="").values_list("file", flat=True)
    return sounds | {name: Path(name).stem for name in pictures}


@contextmanager
def _one_at_a_time() -> Iterator[None]:
    """Give the folder `backup` beside the files, for the moment."""
    folder = settings.VAR / "backup"
    with (settings.VAR / "backup.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise CannotKeep("Another backup is being made on this machine.") from None
        shutil.rmtree(folder, ignore_errors=True)  # of one that was killed
        folder.mkdir(mode=0o700)
        try:
            yield
        finally:
            shutil.rmtree(folder, ignore_errors=True)


def _borg(*words: str, cwd: Path | None = None) -> str:
    borg = shutil.which("borg")
    if borg is None:
        raise CannotKeep("Borg is missing. Run this once, as root: apt-get install borgbackup")
    sealed = {"BORG_PASSPHRASE": settings.BACKUP_KEY}
    told = os.environ | UNENCRYPTED | sealed | {"BORG_BASE_DIR": str(settings.VAR / "borg")}
    done = subprocess.run(  # noqa: S603 - words of ours and of whoever runs the server
        [borg, *words], cwd=cwd, env=told, capture_output=True, text=True, check=False
    )
    if done.returncode > 1:  # 1 is a warning: a file that changed while it was read is a part of the moment
        raise CannotKeep(f"borg {words[0]}: {done.stderr.strip()[-600:]}")
    return done.stdout


def _exists(repository: str) -> bool:
    if "://" not in repository and not (Path(repository) / "config").is_file():
        return False
    try:
        _borg("info", repository)
    except CannotKeep as fault:
        if "does not exist" in str(fault):
            return False
        raise
    return True


def _rules() -> list[str]:
    """Return how many archives are kept, of the setting: `7d 5w 24m`."""
    found: list[str] = []
    for word in settings.BACKUP_KEEP.split():
        if word[-1] not in KEPT or not word[:-1].isdigit():
            raise CannotKeep(f"HEMATITE_BACKUP_KEEP: “{word}” is no rule. Say for instance 7d 5w 24m.")
        found += [KEPT[word[-1]], word[:-1]]
    return found


def _about() -> dict:
    with connection.cursor() as cursor:
        cursor.execute("SELECT CONCAT(app, '.', name) FROM django_migrations ORDER BY id")
        migrations = [name for (name,) in cursor.fetchall()]
    made = timezone.now().isoformat(timespec="seconds")
    return {"format": FORMAT, "version": 1, "core": hematite.__version__, "made_at": made, "migrations": migrations}


def _bring_all_here() -> None:
    """Have every file on this machine's disk, where a shared store has them."""
    settings.MEDIA_ROOT.mkdir(parents=True, exist_ok=True)
    if media.shared():
        for name in named_files():
            media.path(name)


def _put_back(folder: Path) -> tuple[list[str], int]:
    """Keep every file that a row names, if it is what was kept; return those that are not there, and how many are."""
    lost, files = [], 0
    for name, digest in named_files().items():
        source = folder / name
        if not source.is_file() or (digest and media.sha256(source) != digest):
            lost.append(name)
            continue
        with media.a_part(name) as part:
            shutil.copyfile(source, part.name)
            media.move_once(Path(part.name), name)
        source.unlink()
        files += 1
    return lost, files
