"""Backup and restore, from one machine with the demo's data to an empty one: row by row and sound by sound."""

import hashlib
import os
import re
import subprocess
import tempfile
import threading
import unittest
from contextlib import ExitStack
from pathlib import Path

from ops.database import Database
from ops.running import MANAGE, Environment

DUMP = ["--skip-comments", "--order-by-primary", "--skip-extended-insert", "--hex-blob", "--no-create-info"]
NOT_KEPT = ("django_session", "axes_accessattempt", "axes_accesslog", "axes_accessfailurelog")
# Keeps a sound in a case of the demo's: the file first, then the rows, as the server does.
KEEP_ONE = """
import uuid
from cases.models import Case
from people.models import User
from recordings.services import keep_recording
from hematite.recordings import encode_wav
from hematite.simulator import simulate
user = User.objects.filter(demo=True).first()
case = Case.objects.filter(workshop=user.workshop, closed_at=None).first()
hub = next(iter(case.core.hubs()))
made = {"place": hub.id, "sensor": "clip", "situation": "stand_driven", "gain_group": "g",
        "speed": {"kind": "wheel", "turns_per_s": 8.0}, "after_repair": False}
for seed in range(6):
    sound = simulate(hub, condition="sound", turns_per_s=8.0, duration_s=2.0, seed=seed)
    keep_recording(user, case.id, recording_id=uuid.uuid4(), sound=encode_wav(sound), made=made)
"""


class Machine:
    """A data folder with a database of its own."""

    def __init__(self, stack: ExitStack, folder: Path, **more: str) -> None:
        database = stack.enter_context(Database(folder, throwaway=True))
        clean = {name: value for name, value in os.environ.items() if not name.startswith("HEMATITE")}
        self.folder, self.socket = folder, str(database.socket)
        self.environment: Environment = clean | {"HEMATITE_VAR": str(folder)} | database.environment() | more

    def manage(self, *words: str, check: bool = True, **more: str) -> subprocess.CompletedProcess[str]:
        """Run a command of the server's."""
        told = self.environment | more
        done = subprocess.run([*MANAGE, *words], env=told, capture_output=True, text=True, check=False)
        if check and done.returncode:
            raise AssertionError(f"{words}: {done.stdout[-2000:]}{done.stderr[-3000:]}")
        return done

    def rows(self) -> dict[str, set[str]]:
        """Return every row of every table that a backup has, as SQL."""
        without = [f"--ignore-table=hematite.{table}" for table in NOT_KEPT]
        command = ["mariadb-dump", "--no-defaults", f"--socket={self.socket}", *DUMP, *without, "hematite"]
        said = subprocess.run(command, capture_output=True, text=True, check=True).stdout
        found: dict[str, set[str]] = {}
        for line in said.splitlines():
            if row := re.match(r"INSERT INTO `(\w+)`", line):
                found.setdefault(row[1], set()).add(line)
        return found

    def files(self) -> dict[str, str]:
        """Return every kept file with its hash; smaller copies are made again when they are asked for."""
        media = self.folder / "media"
        kept = [one for one in media.rglob("*.*") if one.is_file() and not one.name.endswith("-small.jpg")]
        return {str(one.relative_to(media)): hashlib.sha256(one.read_bytes()).hexdigest() for one in kept}


class BackupAndRestore(unittest.TestCase):
    """Two machines, one of which burns down."""

    def setUp(self) -> None:
        """Fill the first with the demo's data; the second is empty."""
        stack = ExitStack()
        self.addCleanup(stack.close)
        self.folder = Path(stack.enter_context(tempfile.TemporaryDirectory()))
        self.repository = str(self.folder / "elsewhere" / "backups")
        self.sealed = {"HEMATITE_BACKUP": self.repository, "HEMATITE_BACKUP_KEY": "a long passphrase of six words"}
        self.first = Machine(stack, self.folder / "first", HEMATITE_DEMO="1", **self.sealed)
        self.second = Machine(stack, self.folder / "second", **self.sealed)
        self.first.manage("migrate", "--no-input")
        self.first.manage("load_demo", "--if-empty")

    def test_a_machine_burns_down(self) -> None:
        """While people work, then in peace: what comes back is one moment's, whole, and refuses to overwrite."""
        work = threading.Thread(target=lambda: self.first.manage("shell", "-c", KEEP_ONE))
        work.start()
        meanwhile = self.first.manage("back_up").stdout.split()[0]
        work.join()
        self.assertIn("encrypted, and was read back whole", self.first.manage("back_up").stdout)
        self.assert_sealed()
        said = self.second.manage("restore").stdout
        before, after = self.first.rows(), self.second.rows()
        for table in before:
            self.assertEqual(after[table] ^ before[table], set(), table)
        self.assertGreater(len(before), 15)
        files = self.first.files()
        self.assertGreater(len(files), 20)
        self.assertEqual(self.second.files(), files)
        self.assertIn(f"{len(files)} files", said)
        refused = self.second.manage("restore", check=False)
        self.assertIn("There are people in this database", refused.stderr)
        self.assertEqual(self.second.rows(), after)
        self.restore_what_was_kept_meanwhile(meanwhile)
        self.say_what_is_missing()
        self.refuse_what_is_damaged()

    def assert_sealed(self) -> None:
        """Neither a name of the demo's nor a sound can be read in the repository; a wrong passphrase opens nothing."""
        kept = b"".join(one.read_bytes() for one in Path(self.repository).rglob("*") if one.is_file())
        self.assertNotIn(b"Bookmobile", kept)
        self.assertNotIn(b"fLaC", kept)
        wrong = self.second.manage("restore", check=False, HEMATITE_BACKUP_KEY="another")
        self.assertIn("passphrase", wrong.stderr)

    def restore_what_was_kept_meanwhile(self, archive: str) -> None:
        """An archive that was made while sounds came in has the file of every row that it has."""
        with ExitStack() as stack:
            third = Machine(
                stack, self.folder / "third", **{k: v for k, v in self.second.environment.items() if "BACKUP" in k}
            )
            said = third.manage("restore", "--archive", archive)
            self.assertEqual(said.stderr, "")
            rows, now = third.rows(), self.first.rows()
            sounds = rows["recordings_sound"]
            self.assertLessEqual(sounds, now["recordings_sound"])
            self.assertEqual(len(third.files()), len(sounds) + len(rows.get("photos_photo", ())))

    def say_what_is_missing(self) -> None:
        """A sound that is gone from the disk is said at the backup, not first at the restore."""
        sound = next((self.first.folder / "media" / "sounds").rglob("*.flac"))
        sound.unlink()
        done = self.first.manage("back_up", check=False)
        self.assertNotEqual(done.returncode, 0)
        self.assertIn("1 files that cases name are not in it", done.stderr)
        self.assertIn(sound.name, done.stderr)

    def refuse_what_is_damaged(self) -> None:
        """Flipped bytes in the repository are found, and nothing at all is brought back of it.

        All over the largest segment: one byte alone may lie in what only an older archive needs.
        """
        kept = [one for one in Path(self.repository, "data").rglob("*") if one.is_file()]
        segment = max(kept, key=lambda one: one.stat().st_size)
        data = bytearray(segment.read_bytes())
        for at in range(len(data) // 8, len(data), 4096):
            data[at] ^= 0xFF
        segment.write_bytes(bytes(data))
        with ExitStack() as stack:
            fourth = Machine(stack, self.folder / "fourth", **self.sealed)
            done = fourth.manage("restore", check=False)
            self.assertNotEqual(done.returncode, 0)
            self.assertIn("borg extract", done.stderr)
            self.assertEqual(fourth.rows(), {})
