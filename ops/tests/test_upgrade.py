"""A database full of an earlier version's data, brought up to date: nothing is lost, and all of it can be looked at.

`releases/` keeps one a release, from 0.1.0 on: the demo of that version as `mariadb-dump` writes it. With the next
release one is added.
"""

import subprocess
import tempfile
import unittest
from contextlib import ExitStack
from pathlib import Path

from ops.faults import upgrades
from ops.faults.upgrades import RELEASES, Old
from ops.running import MANAGE

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

    def old(self, release: Path) -> Old:
        """Return a database that holds what a release wrote."""
        stack = ExitStack()
        self.addCleanup(stack.close)
        old = stack.enter_context(
            upgrades.old_release(Path(stack.enter_context(tempfile.TemporaryDirectory())), release)
        )
        old.environment |= {"HEMATITE_DEMO": "1", "HEMATITE_HOSTS": "testserver"}
        return old

    def manage(self, old: Old, *words: str) -> str:
        """Run a command of this version's."""
        done = subprocess.run([*MANAGE, *words], env=old.environment, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stdout[-1000:] + done.stderr[-3000:])
        return done.stdout

    def test_nothing_is_lost(self) -> None:
        """Every value of every row that was there is there; every case, vehicle and verdict opens."""
        self.assertTrue(RELEASES)
        for release in RELEASES:
            with self.subTest(release.name):
                old = self.old(release)
                self.assertGreater(sum(map(len, old.rows.values())), 500)
                self.manage(old, "bring_up_to_date")
                after = old.all_columns()
                lost = {table: set(named) - set(after.get(table, ())) for table, named in old.columns.items()}
                self.assertEqual({table: gone for table, gone in lost.items() if gone}, {})
                now = old.all_rows()
                for table, rows in old.rows.items():
                    self.assertEqual(now[table], rows, table)
                looked = self.manage(old, "shell", "-c", LOOK).strip()
                self.assertTrue(looked.endswith("bad: []"), looked)
                self.manage(old, "migrate", "--check")
                self.manage(old, "makemigrations", "--check", "--dry-run")
                self.assertEqual(self.manage(old, "bring_up_to_date"), "")

    def test_broken_off(self) -> None:
        """Killed before its first change, at it and amid them, with its database: begun again it loses nothing."""
        old = self.old(RELEASES[0])
        for seconds in (-1.0, 0.01, 0.5, 1.0):
            self.assertEqual(upgrades.broken_off(old, after_s=seconds, database_too=seconds == 0.5), [], seconds)
        self.assertIn("broke off", old.said)

    def test_somebody_wrote_meanwhile(self) -> None:
        """What came in after an upgrade broke off is not thrown away by beginning anew."""
        old = self.old(RELEASES[0])
        upgrades.break_off(old, after_s=0.001)
        old.ask("INSERT INTO people_workshop (name) VALUES ('Late')")
        again = subprocess.run(
            [*MANAGE, "bring_up_to_date"], env=old.environment, capture_output=True, text=True, check=False
        )
        self.assertNotEqual(again.returncode, 0)
        self.assertIn("somebody wrote into people_workshop", again.stderr)
        self.assertIn(("Late",), old.ask("SELECT name FROM people_workshop"))
