"""What `make start` says and does when things are not as they should be."""

import contextlib
import io
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

from ops import packages, running
from ops.database import Database, free_port
from ops.say import ROOT, CannotGoOn


def quietly() -> contextlib.redirect_stdout:
    """Keep what is said to ourselves."""
    return contextlib.redirect_stdout(io.StringIO())


class Words(unittest.TestCase):
    """Refusals that say what to do."""

    def test_port_taken(self) -> None:
        """Names the port and another way."""
        with socket.socket() as other:
            other.bind(("127.0.0.1", 0))
            other.listen()
            port = other.getsockname()[1]
            with self.assertRaisesRegex(CannotGoOn, f"port {port} is taken.*PORT={port + 1}"):
                running.check_port(port)
        running.check_port(free_port())

    def test_apt_not_allowed(self) -> None:
        """Prints the one line to run, and installs nothing."""
        with (
            quietly(),
            mock.patch.object(packages, "missing_packages", return_value=["mariadb-server"]),
            mock.patch.object(packages, "_privilege", return_value=None),
            mock.patch.object(packages, "run") as ran,
            self.assertRaisesRegex(CannotGoOn, "apt-get install -y --no-install-recommends mariadb-server"),
        ):
            packages.ensure_packages(tests=False)
        ran.assert_not_called()

    def test_missing_programs_name_their_packages(self) -> None:
        """A program that is nowhere names the package that brings it."""
        self.assertEqual(packages.missing_packages({"no-such-program-here": "some-package"}), ["some-package"])

    def test_nonsense_port(self) -> None:
        """Text for a port number."""
        with mock.patch.dict(os.environ, PORT="front door"), self.assertRaisesRegex(CannotGoOn, "no port number"):
            running.port_from("PORT", 8000)


class KilledRun(unittest.TestCase):
    """What a run that was killed leaves behind."""

    def test_leftover_server_is_stopped(self) -> None:
        """Parts of this folder's earlier run are stopped; a stranger with a listed number is left alone."""
        sleep = "import time; time.sleep(60)"
        ours = subprocess.Popen([sys.executable, "-c", sleep, str(ROOT)], start_new_session=True)
        stranger = subprocess.Popen(["sleep", "60"], start_new_session=True)
        self.addCleanup(stranger.kill)
        with tempfile.TemporaryDirectory() as folder, quietly():
            kept = Path(folder) / "start.pids"
            kept.write_text(f"{ours.pid} {stranger.pid} 999999999")
            reaper = mock.patch.object(time, "sleep", side_effect=lambda _: ours.poll())
            with reaper:
                running.stop_leftovers(kept)
            self.assertFalse(kept.exists())
        self.assertEqual(ours.wait(5), -signal.SIGTERM)
        self.assertIsNone(stranger.poll())


class PrivateDatabase(unittest.TestCase):
    """The database's own folder."""

    def test_leaves_other_servers_alone(self) -> None:
        """What another server has in the machine's folder for the moment stays when this one starts."""
        with tempfile.TemporaryDirectory(prefix="#sql-") as other, tempfile.TemporaryDirectory() as home, quietly():
            theirs = Path(other).with_name(f"{Path(other).name}-at-work.MAI")
            theirs.write_bytes(b"x")
            self.addCleanup(theirs.unlink, missing_ok=True)
            with Database(Path(home), throwaway=True):
                self.assertTrue(theirs.exists())

    def test_half_made_then_killed(self) -> None:
        """A half-made folder is set aside; after a kill the next start takes over the data."""
        with tempfile.TemporaryDirectory() as folder, quietly():
            home = Path(folder)
            (home / "db").mkdir()
            (home / "db" / "half").write_text("made")
            first = Database(home, throwaway=True)
            first.__enter__()
            self.assertTrue(list(home.glob("db.half-made.*")))
            self.assertEqual(self.ask(home, "CREATE TABLE hematite.kept (n INT)").returncode, 0)
            with Database(home, throwaway=True):  # the first was never told to stop, as after a kill
                self.assertEqual(self.ask(home, "SELECT n FROM hematite.kept").returncode, 0)
            first.__exit__()

    def ask(self, home: Path, sql: str) -> subprocess.CompletedProcess[bytes]:
        """Run SQL as the data folder's owner."""
        tool = ["mariadb", "--no-defaults", f"--socket={home / 'db.sock'}", "-e", sql]
        return subprocess.run(tool, capture_output=True, check=False)
