"""`make start`: everything from a fresh clone to a page that answers on this machine; Ctrl-C stops all of it."""

import os
import subprocess
import sys

from ops.build import ensure_python, ensure_web
from ops.packages import ensure_packages
from ops.running import (
    MANAGE,
    VAR,
    Environment,
    Running,
    check_port,
    chores,
    counting,
    database,
    gunicorn,
    hearing,
    keep_secret_key,
    only_one,
    port_from,
    set_up_code,
    stop_like_ctrl_c,
)
from ops.say import ROOT, CannotGoOn, run, say


def main() -> None:
    """Start it all and stay until told to stop."""
    port = port_from("PORT", 8000)
    stop_like_ctrl_c()
    with only_one():
        check_port(port)
        ensure_packages(tests=False)
        ensure_python()
        ensure_web()
        keep_secret_key()
        with database() as found:
            environment = found | {"HEMATITE_DEMO": os.environ.get("HEMATITE_DEMO", "1")}
            run([*MANAGE, "bring_up_to_date"], what="Bringing the database up to date", env=environment)
            demo = environment["HEMATITE_DEMO"] == "1"
            if demo:
                _load_demo(environment)
            _serve(port, environment, "" if demo else set_up_code(environment))


def _load_demo(environment: Environment) -> None:
    done = subprocess.run([*MANAGE, "load_demo", "--if-empty"], env=environment, check=False)
    if done.returncode:
        raise CannotGoOn("the demo could not be loaded; the words above say why.")


def _serve(port: int, environment: Environment, code: str) -> None:
    server = gunicorn(f"127.0.0.1:{port}", counting(environment), "--workers", "2", "--threads", "4")
    with Running([server, hearing(environment), chores(environment)], VAR / "start.pids") as running:
        running.wait_for(f"http://127.0.0.1:{port}/healthz")
        _greet(port, environment, code)
        try:
            running.watch()
        except KeyboardInterrupt:
            say("\nStopping …")


def _greet(port: int, environment: Environment, code: str) -> None:
    say(f"\nHematite is ready: http://localhost:{port}")
    if code:
        say(f"Nobody can sign in yet. Set up your workshop, once: http://localhost:{port}/set-up#{code}")
    if environment["HEMATITE_DEMO"] == "1":
        sys.path.insert(0, str(ROOT / "server"))
        from people.demo import SIGN_IN  # noqa: PLC0415 - plain data, importable without Django

        say(f"Demo sign-in:  {SIGN_IN['username']}  /  {SIGN_IN['password']}")
    say("Ctrl-C stops it. Your data stays in var/.")


if __name__ == "__main__":
    try:
        main()
    except KeyboardInterrupt:
        say("\nStopped.")
