"""`make start`: everything from a fresh clone to a page that answers; Ctrl-C stops all of it."""

import contextlib
import fcntl
import os
import secrets
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

from ops.build import PYTHON, ensure_python, ensure_web
from ops.database import Database
from ops.packages import ensure_packages
from ops.say import ROOT, CannotGoOn, run, say

VAR = Path(os.environ.get("HEMATITE_VAR", ROOT / "var"))
MANAGE = [str(PYTHON), str(ROOT / "server" / "manage.py")]
PATIENCE_S = 60
WORKER_RESTS_S = 2  # between two starts of a worker that stops by itself


def main() -> None:
    """Start it all and stay until told to stop."""
    port = _port()
    signal.signal(signal.SIGTERM, _interrupt)
    VAR.mkdir(parents=True, exist_ok=True)
    with _only_one():
        stop_leftovers(VAR / "start.pids")
        check_port(port)
        ensure_packages(tests=False)
        ensure_python()
        ensure_web()
        with Database(VAR) as database:
            environment = _environment(database)
            run([*MANAGE, "migrate", "--no-input"], what="Bringing the database up to date", env=environment)
            _load_demo(environment)
            _serve(port, environment, _set_up_code(environment))


def _interrupt(*_: object) -> None:
    raise KeyboardInterrupt


def _port() -> int:
    try:
        return int(os.environ.get("PORT") or 8000)
    except ValueError:
        raise CannotGoOn(f"“{os.environ['PORT']}” is no port number. Try: make start PORT=8001") from None


@contextlib.contextmanager
def _only_one() -> Iterator[None]:
    """Hold a lock that dies with this process, so that a killed run never blocks the next."""
    with (VAR / "start.lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise CannotGoOn(f"it already runs from this folder ({VAR}). Stop that one first.") from None
        yield


def check_port(port: int) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            hint = f"make start PORT={port + 1}"
            raise CannotGoOn(f"port {port} is taken by another program. Stop it, or try: {hint}") from None


def stop_leftovers(kept: Path) -> None:
    """Stop the server and worker of a run that was killed: they still hold the port."""
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


def _environment(database: Database) -> dict[str, str]:
    secret = VAR / "secret_key"
    if not secret.is_file():
        secret.touch(mode=0o600)
        secret.write_text(secrets.token_urlsafe(50))
    demo = {"HEMATITE_DEMO": os.environ.get("HEMATITE_DEMO", "1")}
    return os.environ | {"HEMATITE_VAR": str(VAR)} | database.environment() | demo


def _load_demo(environment: dict[str, str]) -> None:
    if environment["HEMATITE_DEMO"] == "1":
        done = subprocess.run([*MANAGE, "load_demo", "--if-empty"], env=environment, check=False)
        if done.returncode:
            raise CannotGoOn("the demo could not be loaded; the words above say why.")


def _set_up_code(environment: dict[str, str]) -> str:
    """Return a one-time code to set up the first workshop where nobody can sign in yet, else ''."""
    if environment["HEMATITE_DEMO"] == "1":
        return ""
    command = [*MANAGE, "set_up", "--if-needed"]
    return subprocess.run(command, env=environment, check=True, capture_output=True, text=True).stdout.strip()


def _serve(port: int, environment: dict[str, str], code: str) -> None:
    gunicorn = [str(PYTHON), "-m", "gunicorn", "workshop.wsgi", "--chdir", str(ROOT / "server"),
                "--bind", f"127.0.0.1:{port}", "--workers", "2", "--threads", "4", "--timeout", "120",
                "--log-level", "warning"]  # fmt: skip
    running = {"server": _begin(gunicorn, environment), "worker": _worker(environment)}
    _note(running)
    try:
        _wait_for_page(port, list(running.values()))
        _greet(port, environment, code)
        while running["server"].poll() is None:
            time.sleep(0.5)
            if running["worker"].poll() is not None:
                say("What hears the recordings stopped by itself; it is started again.")
                time.sleep(WORKER_RESTS_S)
                running["worker"] = _worker(environment)
                _note(running)
        raise CannotGoOn("the server stopped by itself; the words above say why.")
    except KeyboardInterrupt:
        say("\nStopping …")
    finally:
        _stop(list(running.values()))


def _begin(command: list[str], environment: dict[str, str]) -> subprocess.Popen[bytes]:
    return subprocess.Popen(command, env=environment, start_new_session=True)


def _worker(environment: dict[str, str]) -> subprocess.Popen[bytes]:
    """Start what hears the recordings, once what an earlier, killed one left unheard is queued again."""
    subprocess.run([*MANAGE, "take_up_again"], env=environment, check=False)
    return _begin([*MANAGE, "db_worker", "--interval", "0.3"], environment)


def _note(running: dict[str, subprocess.Popen[bytes]]) -> None:
    (VAR / "start.pids").write_text(" ".join(str(process.pid) for process in running.values()))


def _wait_for_page(port: int, running: list[subprocess.Popen[bytes]]) -> None:
    deadline = time.monotonic() + PATIENCE_S
    while time.monotonic() < deadline and all(process.poll() is None for process in running):
        with contextlib.suppress(OSError):
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=20)
            return
        time.sleep(0.1)
    raise CannotGoOn("the server did not answer.")


def _greet(port: int, environment: dict[str, str], code: str) -> None:
    say(f"\nHematite is ready: http://localhost:{port}")
    if code:
        say(f"Nobody can sign in yet. Set up your workshop, once: http://localhost:{port}/set-up#{code}")
    if environment["HEMATITE_DEMO"] == "1":
        sys.path.insert(0, str(ROOT / "server"))
        from people.demo import SIGN_IN  # noqa: PLC0415 - plain data, importable without Django

        say(f"Demo sign-in:  {SIGN_IN['username']}  /  {SIGN_IN['password']}")
    say("Ctrl-C stops it. Your data stays in var/.")


def _stop(running: list[subprocess.Popen[bytes]]) -> None:
    for process in running:
        if process.poll() is None:
            process.terminate()
    for process in running:
        try:
            process.wait(15)
        except subprocess.TimeoutExpired:
            process.kill()


if __name__ == "__main__":
    try:
        main()
    except KeyboardInterrupt:
        say("\nStopped.")
