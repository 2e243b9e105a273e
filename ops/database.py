"""A private MariaDB: own data folder, own socket, own port on 127.0.0.1; never the system's."""

import getpass
import hashlib
import os
import secrets
import shutil
import socket
import subprocess
import tempfile
import threading
import time
from pathlib import Path

from ops.say import CannotGoOn, run, say

LONGEST_SOCKET_PATH = 100  # the kernel allows 107 bytes
PATIENCE_S = 60
RESTS_S = 1
LOG_BYTES = 5_000_000


class Database:
    """One private server below `home`. Use as a context manager: it stops when the block ends."""

    def __init__(self, home: Path, *, throwaway: bool = False) -> None:
        self.home, self.throwaway = home, throwaway
        self.data = home / "db"
        self.socket = self._socket_path()
        self._process: subprocess.Popen[bytes] | None = None
        self._ended, self._starting = threading.Event(), threading.Lock()

    def _socket_path(self) -> Path:
        here = self.home / "db.sock"
        if len(str(here)) < LONGEST_SOCKET_PATH:
            return here
        return Path(tempfile.gettempdir()) / f"hematite-{hashlib.sha256(str(here).encode()).hexdigest()[:12]}.sock"

    @property
    def password(self) -> str:
        """Return the password of the server's one account, made at the first start."""
        kept = self.home / "db_password"
        if not kept.is_file():
            kept.touch(mode=0o600)
            kept.write_text(secrets.token_urlsafe(24))
        return kept.read_text()

    def environment(self) -> dict[str, str]:
        """Return what Django's settings read."""
        return {"HEMATITE_DB_SOCKET": str(self.socket), "HEMATITE_DB_PASSWORD": self.password}

    def __enter__(self) -> "Database":
        self.home.mkdir(parents=True, exist_ok=True)
        self._create_data()
        self._stop_leftover()
        self._start()
        self._grant()
        self._ended.clear()
        threading.Thread(target=self._keep_going, daemon=True).start()
        return self

    def _keep_going(self) -> None:
        """Start it again when it stops by itself, as it does on a full disk: what was committed is there."""
        while not self._ended.wait(RESTS_S):
            if self._process is None or self._process.poll() is None:
                continue
            with self._starting:
                self._start_again()

    def _start_again(self) -> None:
        if self._ended.is_set():
            return
        say("The database stopped by itself; it is started again.")
        try:
            self._start()
        except CannotGoOn:  # no room yet: the next try may have some
            self._ended.wait(RESTS_S * 10)

    def __exit__(self, *_: object) -> None:
        self._ended.set()
        with self._starting:
            self._stop()

    def _stop(self) -> None:
        if self._process and self._process.poll() is None:
            self._process.terminate()
            try:
                self._process.wait(30)
            except subprocess.TimeoutExpired:
                self._process.kill()

    def _create_data(self) -> None:
        """Make the data folder under another name and rename it, so that a half-made one is never used."""
        if (self.data / "mysql").is_dir():
            return
        if self.data.exists():
            aside = self.data.with_name(f"db.half-made.{int(time.time())}")
            self.data.rename(aside)
            say(f"The database folder was only half made; it was set aside as {aside.name}, and a new one is made.")
        part = self.home / "db.part"
        shutil.rmtree(part, ignore_errors=True)
        say("Making the database …")
        run(
            ["mariadb-install-db", "--no-defaults", f"--datadir={part}", f"--user={getpass.getuser()}",
             f"--tmpdir={self._scratch()}",
             "--skip-test-db", "--auth-root-authentication-method=socket",
             f"--auth-root-socket-user={getpass.getuser()}"],
            what="Making the database",
        )  # fmt: skip
        part.rename(self.data)

    def _scratch(self) -> Path:
        """Return a folder of its own for tables of the moment: a server that starts clears such files away in its own,
        and one that is shared holds those of another server that is at work, a demo's beside the tests'.
        """
        scratch = self.home / "db.tmp"
        scratch.mkdir(exist_ok=True)
        return scratch

    def _admin(self, *arguments: str) -> subprocess.CompletedProcess[bytes]:
        tool = ["mariadb-admin", "--no-defaults", f"--socket={self.socket}", "--connect-timeout=3", *arguments]
        return subprocess.run(tool, capture_output=True, check=False)

    def _stop_leftover(self) -> None:
        """Stop the server of a run that was killed: it still holds the data folder."""
        if self.socket.exists() and self._admin("ping").returncode == 0:
            say("A database of an earlier, killed run still goes; it is stopped first.")
            self._admin("shutdown")
        deadline = time.monotonic() + PATIENCE_S
        while self._leftover_pid() and time.monotonic() < deadline:
            time.sleep(0.2)
        self.socket.unlink(missing_ok=True)

    def _leftover_pid(self) -> int | None:
        try:
            pid = int((self.home / "db.pid").read_text())
            command = Path(f"/proc/{pid}/cmdline").read_bytes()
        except (OSError, ValueError):
            return None
        return pid if str(self.data).encode() in command else None

    def _start(self) -> None:
        mariadbd = shutil.which("mariadbd", path=f"{os.environ.get('PATH', '')}:/usr/sbin")
        # Of a throwaway's: a test that dies in a transaction must not hold up the end of all tests for ever.
        quick = ["--innodb-flush-log-at-trx-commit=0", "--skip-log-bin", "--lock-wait-timeout=60"]
        quick = quick if self.throwaway else []
        log = self.home / "db.log"
        if log.is_file() and log.stat().st_size > LOG_BYTES:
            log.replace(log.with_suffix(".log.1"))
        self._process = subprocess.Popen(
            [mariadbd or "mariadbd", "--no-defaults", f"--datadir={self.data}", f"--socket={self.socket}",
             f"--pid-file={self.home / 'db.pid'}", "--bind-address=127.0.0.1", f"--port={free_port()}",
             f"--user={getpass.getuser()}", "--character-set-server=utf8mb4", "--max-allowed-packet=64M",
             f"--tmpdir={self._scratch()}", f"--log-error={log}", *quick],
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True,
        )  # fmt: skip
        deadline = time.monotonic() + PATIENCE_S
        while self._admin("ping").returncode:
            if self._process.poll() is not None or time.monotonic() > deadline:
                tail = "\n".join(log.read_text(errors="replace").splitlines()[-12:]) if log.exists() else ""
                raise CannotGoOn(f"the database did not start. The end of {log}:\n{tail}")
            time.sleep(0.1)

    def _grant(self) -> None:
        """Make database and account; harmless when they are there."""
        account = "hematite@localhost"
        sql = (
            "CREATE DATABASE IF NOT EXISTS hematite CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;"
            f"CREATE USER IF NOT EXISTS {account}; ALTER USER {account} IDENTIFIED BY '{self.password}';"
            f"GRANT ALL ON hematite.* TO {account}; GRANT ALL ON `test\\_hematite%`.* TO {account};"
        )
        run(["mariadb", "--no-defaults", f"--socket={self.socket}", "-e", sql], what="Making the database account")


def free_port() -> int:
    """Return a port on 127.0.0.1 that nobody uses now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
