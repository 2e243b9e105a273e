"""Bringing the database up to date so that one that is broken off, by a power cut or a full disk, loses nothing.

MariaDB ends each change of a table or has not begun it, but a migration is many of them: begun anew it would trip over
what the first half did. So all of the database is written down before, and brought back where an upgrade broke off.
"""

import json
import os
import shutil
from pathlib import Path

import hematite
from django.conf import settings
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.utils import timezone

from keeping import dumps
from keeping.dumps import CannotKeep

DUMP, ABOUT = "before.sql", "about.json"
MADE_BY_DJANGO = {"django_migrations", "django_content_type", "auth_permission", "django_session"}


def bring_up_to_date() -> list[str]:
    """Apply the migrations that are missing, from the database as it was before. Returns what was done, in words.

    Nobody else may write meanwhile. Raises CannotKeep where somebody did after an upgrade broke off, or where there is
    no room to write down what is there.
    """
    said = _take_back()
    if not _missing():
        return said
    before = dumps.people()
    if before:
        _write_down()
    call_command("migrate", interactive=False, verbosity=0)
    if before:
        _keep_last()
    return [*said, f"The database is of version {hematite.__version__} now."]


def _begun() -> Path:
    """Return the folder that is there from before the first change until after the last."""
    return settings.VAR / "upgrade"


def _missing() -> bool:
    executor = MigrationExecutor(connection)
    return bool(executor.migration_plan(executor.loader.graph.leaf_nodes()))


def _write_down() -> None:
    """Write all of the database down, and only then say that the upgrade has begun."""
    settings.VAR.mkdir(parents=True, exist_ok=True)
    part = settings.VAR / "upgrade.part"
    shutil.rmtree(part, ignore_errors=True)
    part.mkdir(mode=0o700)
    dumps.write(part / DUMP, whole=True)
    about = {"core": hematite.__version__, "at": timezone.now().isoformat(timespec="seconds"), "rows": dumps.rows()}
    (part / ABOUT).write_text(json.dumps(about, indent=1), encoding="utf-8")
    for file in part.iterdir():
        _to_disk(file)
    part.rename(_begun())
    _to_disk(settings.VAR)


def _to_disk(path: Path) -> None:
    opened = os.open(path, os.O_RDONLY)
    try:
        os.fsync(opened)
    finally:
        os.close(opened)


def _keep_last() -> None:
    """Say that it is done; what was written down is kept until the next upgrade."""
    kept = settings.VAR / "upgraded"
    shutil.rmtree(kept, ignore_errors=True)
    _begun().rename(kept)
    _to_disk(settings.VAR)


def _take_back() -> list[str]:
    """Bring the database back to what it was before an upgrade that broke off."""
    begun = _begun()
    if not begun.is_dir():
        return []
    about = json.loads((begun / ABOUT).read_text(encoding="utf-8"))
    if more := [table for table, rows in _now().items() if rows > about["rows"].get(table, rows)]:
        raise CannotKeep(
            f"An upgrade broke off on {about['at']}, and since then somebody wrote into {', '.join(sorted(more))}. "
            f"Stop every server, and decide: what was there before it lies in {begun / DUMP}; once it is moved away, "
            "the database is taken as it is."
        )
    dumps.empty()
    dumps.load(begun / DUMP)
    _keep_last()
    return [f"An upgrade broke off on {about['at']}. The database is as it was before it, and it is begun anew."]


def _now() -> dict[str, int]:
    return {table: rows for table, rows in dumps.rows().items() if table not in MADE_BY_DJANGO}
