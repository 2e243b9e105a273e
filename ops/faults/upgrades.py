"""Upgrades of the first release's data that are broken off at any moment, and begun again."""

import contextlib
import lzma
import os
import signal
import subprocess
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from ops.faults.power import Cut
from ops.running import MANAGE, Environment
from ops.say import ROOT

RELEASES = sorted((ROOT / "ops" / "tests" / "releases").glob("*.sql.xz"))
NOT_COMPARED = {"django_migrations", "django_content_type", "auth_permission"}  # Django's own lists of what there is
COLUMNS = (
    "SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = 'hematite' "
    "ORDER BY table_name, ordinal_position"
)
COMMAND = [*MANAGE, "bring_up_to_date"]

Rows = dict[str, list[tuple[str, ...]]]


@dataclass
class Old:
    """A database that holds what an earlier release wrote."""

    database: Cut
    environment: Environment
    release: Path
    columns: dict[str, list[str]] = field(default_factory=dict)
    rows: Rows = field(default_factory=dict)
    said: str = ""  # by the last upgrade

    @property
    def tool(self) -> list[str]:
        """Return the database's own command line, as its owner."""
        return ["mariadb", "--no-defaults", f"--socket={self.database.socket}", "--default-character-set=utf8mb4"]

    def ask(self, sql: str, *, database: str = "hematite") -> list[tuple[str, ...]]:
        """Return rows."""
        said = subprocess.run(
            [*self.tool, "-N", database, "-e", sql], capture_output=True, text=True, check=True
        ).stdout
        return [tuple(line.split("\t")) for line in said.splitlines()]

    def load(self) -> None:
        """Put the old release's data back in the place of what is there."""
        self.ask("DROP DATABASE hematite; CREATE DATABASE hematite CHARACTER SET utf8mb4", database="mysql")
        data = lzma.decompress(self.release.read_bytes())
        subprocess.run([*self.tool, "hematite"], input=data, check=True, capture_output=True)

    def all_columns(self) -> dict[str, list[str]]:
        """Return the columns of every table."""
        found: dict[str, list[str]] = {}
        for table, column in self.ask(COLUMNS):
            found.setdefault(table, []).append(column)
        return {table: columns for table, columns in found.items() if table not in NOT_COMPARED}

    def all_rows(self) -> Rows:
        """Return every value that the old release had a place for."""
        return {
            table: sorted(self.ask(f"SELECT {', '.join(f'`{one}`' for one in named)} FROM `{table}`"))  # noqa: S608
            for table, named in self.columns.items()
        }


@contextlib.contextmanager
def old_release(folder: Path, release: Path = RELEASES[0]) -> Iterator[Old]:
    """Give a database with a release's data; the first one's, if none is said."""
    clean = {name: value for name, value in os.environ.items() if not name.startswith("HEMATITE")}
    with Cut(folder) as database:
        told = {"HEMATITE_VAR": str(folder), "HEMATITE_SECRET_KEY": "of-this-trial-only-" * 3}
        old = Old(database, clean | told | database.environment(), release)
        old.load()
        old.columns = old.all_columns()
        old.rows = old.all_rows()
        yield old


def break_off(old: Old, *, after_s: float, database_too: bool = False) -> None:
    """Upgrade, and kill that, with the database or alone, so long after its first change or, if negative, its start."""
    with subprocess.Popen(COMMAND, env=old.environment, start_new_session=True, stderr=subprocess.DEVNULL) as upgrade:
        while after_s > 0 and upgrade.poll() is None and not (old.database.home / "upgrade").is_dir():
            time.sleep(0.01)
        time.sleep(abs(after_s))
        if database_too:
            old.database.kill()
        with contextlib.suppress(ProcessLookupError):
            os.killpg(upgrade.pid, signal.SIGKILL)
    if database_too:
        old.database.wait()


def broken_off(old: Old, *, after_s: float, database_too: bool) -> list[str]:
    """Break an upgrade of the old data off, and upgrade again; return the tables that differ."""
    old.load()
    break_off(old, after_s=after_s, database_too=database_too)
    again = subprocess.run(COMMAND, env=old.environment, capture_output=True, text=True, check=False)
    old.said += again.stdout
    if again.returncode:
        return [f"begun again it failed: {again.stderr[-400:]}"]
    check = subprocess.run([*MANAGE, "migrate", "--check"], env=old.environment, capture_output=True, check=False)
    now = old.all_rows()
    differ = [table for table, rows in old.rows.items() if now[table] != rows]
    return differ + (["it is not up to date"] if check.returncode else [])
