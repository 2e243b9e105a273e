"""`make load`: fifty mechanics against two servers of our own on loopback, for two minutes, by Locust.

Prints what it took, and how many went wrong. On a database of its own with the demo's data; nothing else is touched.
`MECHANICS=50 SECONDS=120 make load`.
"""

import contextlib
import os
import subprocess
import time
from pathlib import Path

from ops.build import PYTHON, ensure_python
from ops.database import Database, free_port
from ops.made_up import WORD
from ops.packages import ensure_packages
from ops.running import MANAGE, VAR, Environment, Running, chores, gunicorn, hearing
from ops.say import ROOT, run, say

MOST_SECONDS, MOST_MECHANICS = 900, 400
PEOPLE = """
from people.models import Role, User, Workshop
ours = Workshop.objects.get_or_create(name='Under load')[0]
for n in range({mechanics}):
    if not User.objects.filter(username=f'load-{{n}}').exists():
        User.objects.create_user(f'load-{{n}}', password='{word}', workshop=ours, role=Role.MECHANIC)
"""


def main() -> int:
    """Play; return 1 where anything went wrong."""
    seconds = min(int(os.environ.get("SECONDS") or 120), MOST_SECONDS)
    mechanics = min(int(os.environ.get("MECHANICS") or 50), MOST_MECHANICS)
    ensure_packages(tests=False)
    ensure_python()
    folder = VAR / "load"
    folder.mkdir(parents=True, exist_ok=True)
    with Database(folder) as database:
        environment = os.environ | database.environment() | {"HEMATITE_VAR": str(folder), "HEMATITE_PLAIN_HTTP": "1"}
        environment |= {"HEMATITE_SECRET_KEY": "of-this-measurement-only-" * 2}
        run([*MANAGE, "migrate", "--no-input"], what="Bringing the database up to date", env=environment)
        people = PEOPLE.format(mechanics=mechanics, word=WORD)
        run([*MANAGE, "shell", "-c", people], what="Making the people", env=environment)
        return _play(environment, folder, mechanics, seconds)


def _play(environment: Environment, folder: Path, mechanics: int, seconds: int) -> int:
    ports = [free_port(), free_port()]
    servers = [gunicorn(f"127.0.0.1:{port}", environment, "--threads", "4", name=f"server {port}") for port in ports]
    with Running([*servers, hearing(environment), chores(environment)], folder / "load.pids") as running:
        for port in ports:
            running.wait_for(f"http://127.0.0.1:{port}/healthz")
        hosts = {
            "HEMATITE_LOAD_HOSTS": " ".join(f"http://127.0.0.1:{port}" for port in ports),
            "HEMATITE_LOAD_WORD": WORD,
        }
        say(
            f"{mechanics} mechanics for {seconds} s against two servers, a worker and the chores, all on this machine …"
        )
        command = [
            str(PYTHON),
            "-m",
            "locust",
            "-f",
            str(ROOT / "ops" / "load_people.py"),
            "--headless",
            "--only-summary",
        ]
        many = ["-u", str(mechanics), "-r", "5", "-t", f"{seconds}s", "--stop-timeout", "20"]
        before = {name: _cpu_s(process.pid) for name, process in running.processes.items()}
        done = subprocess.run([*command, *many], env=environment | hosts, cwd=ROOT, check=False).returncode
        begun = time.monotonic()
        left = _waiting(environment)
        while _waiting(environment) and time.monotonic() - begun < MOST_SECONDS:
            time.sleep(1)
        later = time.monotonic() - begun
        say(f"Recordings still to be heard when the mechanics left: {left}; all were {later:.0f} s later.")
        for name, process in running.processes.items():
            say(f"Processor: {name} {_cpu_s(process.pid) - before[name]:.1f} s")
        return 1 if done else 0


def _cpu_s(group: int) -> float:
    """Return the processor's seconds that the processes of a group took so far."""
    spent = 0
    for stat in Path("/proc").glob("[0-9]*/stat"):
        with contextlib.suppress(OSError):
            fields = stat.read_text().rpartition(")")[2].split()
            if int(fields[2]) == group:
                spent += int(fields[11]) + int(fields[12])
    return spent / os.sysconf("SC_CLK_TCK")


def _waiting(environment: Environment) -> int:
    count = "from recordings.models import Analysis as A; print(A.objects.filter(state='waiting').count())"
    said = subprocess.run([*MANAGE, "shell", "-c", count], env=environment, capture_output=True, text=True, check=True)
    return int(said.stdout.split()[-1])


if __name__ == "__main__":
    raise SystemExit(main())
