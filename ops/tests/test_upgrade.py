"""A database full of an earlier version's data, brought up to date: nothing is lost, and all of it can be looked at.

`releases/` keeps one a release, from 0.1.0 on: the demo of that version as `mariadb-dump` writes it. With the next
release one is added.
"""

import lzma
import os
import subprocess
import tempfile
import unittest
from contextlib import ExitStack
from pathlib import Path

from ops.database import Database
from ops.running import MANAGE

RELEASES = sorted((Path(__file__).parent / "releases").glob("*.sql.xz"))
NOT_COMPARED = {"django_migrations", "django_content_type", "auth_permission"}  # Django's own lists of what there is
# Asks for every page of what is there, as somebody of that workshop.
LOOK = """
from cases.models import Case
from django.test import Client
from garage.models import Vehicle
from people.models import User
from verdicts.models import Verdict
user = User.objects.filter(demo=True).first() or User.objects.first()
client = Client()
client.force_login(user)
paths = ["yard", "due", "fleet", "fleet/past", "policy", "people", "keeping"]
for case in Case.objects.filter(workshop=user.workshop):
    paths += [f"cases/{case.pk}{more}" for more in ("", "/state", "/recordings", "/photos")]
for vehicle in Vehicle.objects.filter(workshop=user.workshop):
    paths += [f"vehicles/{vehicle.pk}{more}" for more in ("", "/cases", "/logbook")]
for verdict in Verdict.objects.filter(case__workshop=user.workshop):
    paths += [f"verdicts/{verdict.pk}", f"verdicts/{verdict.pk}/paper?units=metric"]
said = {path: client.get(f"/api/{path}", secure=True).status_code for path in paths}
bad = [(path, status) for path, status in said.items() if status != 200]
print(len(paths), "looked at;", "bad:", bad)
"""


class Upgrade(unittest.TestCase):
    """Each kept release."""

    def setUp(self) -> None:
        """Start an empty database."""
        stack = ExitStack()
        self.addCleanup(stack.close)
        folder = Path(stack.enter_context(tempfile.TemporaryDirectory()))
        database = stack.enter_context(Database(folder, throwaway=True))
        self.socket = str(database.socket)
        self.told = os.environ | database.environment() | {"HEMATITE_VAR": str(folder), "HEMATITE_DEMO": "1"}
        self.told |= {"HEMATITE_HOSTS": "testserver"}

    def ask(self, sql: str, *, database: str = "hematite") -> list[tuple[str, ...]]:
        """Return rows."""
        tool = [
            "mariadb",
            "--no-defaults",
            f"--socket={self.socket}",
            "-N",
            "--default-character-set=utf8mb4",
            database,
        ]
        said = subprocess.run([*tool, "-e", sql], capture_output=True, text=True, check=True).stdout
        return [tuple(line.split("\t")) for line in said.splitlines()]

    def columns(self) -> dict[str, list[str]]:
        """Return the columns of every table."""
        sql = "SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = 'hematite'"
        found: dict[str, list[str]] = {}
        for table, column in self.ask(f"{sql} ORDER BY table_name, ordinal_position"):
            found.setdefault(table, []).append(column)
        return found

    def rows(self, columns: dict[str, list[str]]) -> dict[str, list[tuple[str, ...]]]:
        """Return every row of these columns, in order."""
        return {
            table: sorted(self.ask(f"SELECT {', '.join(f'`{one}`' for one in named)} FROM `{table}`"))
            for table, named in columns.items()
            if table not in NOT_COMPARED
        }

    def manage(self, *words: str) -> str:
        """Run a command of this version's."""
        done = subprocess.run([*MANAGE, *words], env=self.told, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stdout[-1000:] + done.stderr[-3000:])
        return done.stdout

    def test_nothing_is_lost(self) -> None:
        """Every value of every row that was there is there; every case, vehicle and verdict opens."""
        self.assertTrue(RELEASES)
        for release in RELEASES:
            with self.subTest(release.name):
                self.ask("DROP DATABASE hematite; CREATE DATABASE hematite CHARACTER SET utf8mb4", database="mysql")
                load = ["mariadb", "--no-defaults", f"--socket={self.socket}", "hematite"]
                subprocess.run(load, input=lzma.decompress(release.read_bytes()), check=True, capture_output=True)
                before = self.columns()
                was = self.rows(before)
                self.assertGreater(sum(map(len, was.values())), 500)
                self.manage("migrate", "--no-input")
                after = self.columns()
                lost = {table: set(named) - set(after.get(table, ())) for table, named in before.items()}
                self.assertEqual({table: gone for table, gone in lost.items() if gone}, {})
                now = self.rows(before)
                for table, rows in was.items():
                    self.assertEqual(now[table], rows, table)
                looked = self.manage("shell", "-c", LOOK).strip()
                self.assertTrue(looked.endswith("bad: []"), looked)
                self.manage("migrate", "--check")
                self.manage("makemigrations", "--check", "--dry-run")
