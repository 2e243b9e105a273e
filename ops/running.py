"""Processes that belong together: begun, watched, begun again where they may be, and stopped as one."""

import contextlib
import fcntl
import logging
import os
import secrets
import shutil
import signal
import socket
import ssl
import subprocess
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass, field
from logging.handlers import RotatingFileHandler
from pathlib import Path

from ops.build import PYTHON
from ops.database import Database
from ops.say import ROOT, CannotGoOn, say

VAR = Path(os.environ.get("HEMATITE_VAR", ROOT / "var"))
MANAGE = [str(PYTHON), str(ROOT / "server" / "manage.py")]
PATIENCE_S = 60
VAR_LOG = "HEMATITE_LOGS"  # the folder of the logs; without it all of it goes where the start command's words go
LOG_BYTES, LOGS_KEPT = 5_000_000, 5
RESTS_S = 2  # between two starts of a part that stops by itself

Environment = dict[str, str]


@dataclass
class Part:
    """One process. `vital`: nothing goes on without it; else it is begun again. `before`: run before each start."""

    name: str
    command: list[str]
    environment: Environment
    vital: bool = False
    before: list[str] = field(default_factory=list)

    def begin(self) -> subprocess.Popen[bytes]:
        """Start it in a group of its own, which can be stopped as one."""
        if self.before:
            subprocess.run(self.before, env=self.environment, check=False)
        if VAR_LOG not in self.environment:
            return subprocess.Popen(self.command, env=self.environment, start_new_session=True)
        process = subprocess.Popen(
            self.command, env=self.environment, start_new_session=True, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
        )
        threading.Thread(target=self._log, args=(process,), daemon=True).start()
        return process

    def _log(self, process: subprocess.Popen[bytes]) -> None:
        """Write what it says into a file that is begun anew before it grows too large."""
        file = Path(self.environment[VAR_LOG]) / f"{self.name.replace(' ', '-')}.log"
        file.parent.mkdir(parents=True, exist_ok=True)
        turning = RotatingFileHandler(file, maxBytes=LOG_BYTES, backupCount=LOGS_KEPT, encoding="utf-8")
        assert process.stdout is not None
        for line in process.stdout:
            turning.emit(logging.makeLogRecord({"msg": line.decode(errors="replace").rstrip("\n")}))
        turning.close()


def counting(environment: Environment) -> Environment:
    """Return an environment in which the processes that answer count together; with a token for the figures only."""
    if not environment.get("HEMATITE_METRICS_TOKEN"):
        return environment
    folder = VAR / "metrics"
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    return environment | {"PROMETHEUS_MULTIPROC_DIR": str(folder)}


def gunicorn(bind: str, environment: Environment, *more: str, name: str = "server", app: str = "workshop.wsgi") -> Part:
    """Return what answers browsers."""
    command = [str(PYTHON), "-m", "gunicorn", app, "--chdir", str(ROOT / "server"), "--bind", bind]
    return Part(
        name,
        [*command, "--timeout", "120", "--log-level", "warning", "--no-control-socket", *more],
        environment,
        vital=True,
    )


def hearing(environment: Environment, *, name: str = "what hears the recordings") -> Part:
    """Return what hears the recordings, once what an earlier, killed one left unheard is queued again."""
    # A worker that needs no copy of itself for each job: what is decoded is in a process of its own anyway.
    simple = ["--worker-class", "rq.worker.SimpleWorker"]
    of_redis = ["rqworker", "default", "later", "--job-class", "django_tasks_rq.Job", *simple]
    queue = of_redis if environment.get("HEMATITE_REDIS") else ["db_worker", "--queue-name", "*", "--interval", "0.3"]
    return Part(name, [*MANAGE, *queue], environment, before=[*MANAGE, "take_up_again"])


def chores(environment: Environment) -> Part:
    """Return what does by itself what is due: recordings that no worker holds, backups, clearing away."""
    return Part("what does the chores", [*MANAGE, "chores"], environment)


class Running:
    """Parts that run. Use as a context manager: they stop when the block ends."""

    def __init__(self, parts: list[Part], kept: Path) -> None:
        self.parts, self.kept = parts, kept
        self.processes: dict[str, subprocess.Popen[bytes]] = {}

    def __enter__(self) -> "Running":
        for part in self.parts:
            self._begin(part)
        return self

    def __exit__(self, *_: object) -> None:
        for process in self.processes.values():
            if process.poll() is None:
                process.terminate()
        for process in self.processes.values():
            try:
                process.wait(15)
            except subprocess.TimeoutExpired:
                process.kill()

    def _begin(self, part: Part) -> None:
        self.processes[part.name] = part.begin()
        self.kept.write_text(" ".join(str(process.pid) for process in self.processes.values()))

    def wait_for(self, address: str, *, authority: str = "") -> None:
        """Wait until an address answers, whatever it says. `authority`: whose certificate it has to have."""
        context = ssl.create_default_context(cafile=authority) if authority else None
        deadline = time.monotonic() + PATIENCE_S
        while time.monotonic() < deadline and all(process.poll() is None for process in self.processes.values()):
            try:
                urllib.request.urlopen(address, timeout=20, context=context)  # noqa: S310 - our own server's
            except urllib.error.HTTPError:
                return  # an answer all the same
            except OSError:
                pass
            else:
                return
            time.sleep(0.1)
        raise CannotGoOn("the server did not answer.")

    def watch(self) -> None:
        """Stay until a vital part stops; begin the others again when they do."""
        while True:
            time.sleep(0.5)
            for part in self.parts:
                if self.processes[part.name].poll() is None:
                    continue
                if part.vital:
                    raise CannotGoOn(f"the {part.name} stopped by itself; the words above say why.")
                say(f"{part.name.capitalize()} stopped by itself; it is started again.")
                time.sleep(RESTS_S)
                self._begin(part)


def stop_like_ctrl_c() -> None:
    """Let a plain kill stop everything in order, as Ctrl-C does."""

    def interrupt(*_: object) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, interrupt)


@contextlib.contextmanager
def only_one() -> Iterator[None]:
    """Hold a lock that dies with this process, so that a killed run never blocks the next; stop what one left."""
    VAR.mkdir(parents=True, exist_ok=True)
    with (VAR / "start.lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise CannotGoOn(f"it already runs from this folder ({VAR}). Stop that one first.") from None
        stop_leftovers(VAR / "start.pids")
        yield


def port_from(variable: str, usual: int) -> int:
    """Return a port from the environment."""
    said = os.environ.get(variable) or usual
    try:
        return int(said)
    except ValueError:
        raise CannotGoOn(f"“{said}” is no port number. Try: {variable}={usual + 1}") from None


def check_port(port: int, *, host: str = "127.0.0.1", variable: str = "PORT") -> None:
    """Refuse a port that another program has."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except PermissionError:
            raise CannotGoOn(f"port {port} is for the system's own programs. Try: {variable}={port + 8000}") from None
        except OSError:
            raise CannotGoOn(
                f"port {port} is taken by another program. Stop it, or try: {variable}={port + 1}"
            ) from None


def stop_leftovers(kept: Path) -> None:
    """Stop the processes of a run that was killed: they still hold the port."""
    pids = [int(word) for word in kept.read_text().split()] if kept.is_file() else []
    ours = [pid for pid in pids if _is_ours(pid)]
    if ours:
        say("Parts of an earlier, killed run still go; they are stopped first.")
    for pid in ours:
        with contextlib.suppress(ProcessLookupError):
            os.killpg(pid, signal.SIGTERM)
    deadline = time.monotonic() + PATIENCE_S
    while any(_is_ours(pid) for pid in ours) and time.monotonic() < deadline:
        time.sleep(0.1)
    kept.unlink(missing_ok=True)


def _is_ours(pid: int) -> bool:
    """Return whether a process is one of this folder's: its number may long belong to somebody else."""
    try:
        return str(ROOT).encode() in Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return False


@contextlib.contextmanager
def database() -> Iterator[Environment]:
    """Give what settings need to find the database: one on another machine, or else our own, which is started."""
    if os.environ.get("HEMATITE_DB_HOST"):
        yield dict(os.environ) | {"HEMATITE_VAR": str(VAR)}
        return
    with Database(VAR) as own:
        yield os.environ | {"HEMATITE_VAR": str(VAR)} | own.environment()


def keep_secret_key() -> None:
    """Make the key that sessions are signed with, once."""
    secret = VAR / "secret_key"
    if not secret.is_file():
        secret.touch(mode=0o600)
        secret.write_text(secrets.token_urlsafe(50))


def set_up_code(environment: Environment) -> str:
    """Return a one-time code to set up the first workshop where nobody can sign in yet, else ''."""
    command = [*MANAGE, "set_up", "--if-needed"]
    return subprocess.run(command, env=environment, check=True, capture_output=True, text=True).stdout.strip()
