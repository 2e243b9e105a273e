"""`make fuzz`: hostile input against a server and a worker of our own, on a database of their own.

1. The API by its own description, right and wrong bodies (schemathesis), `EXAMPLES=20` an operation;
2. ten thousand changed sounds, pictures, bundles, tables and bodies (`sending`), as `MANY=10000`;
3. a coverage-guided fuzzer on each decoder (`guided`, atheris), `SECONDS=60` each.
What went wrong is kept below `var/fuzz/kept`.
"""

import os
import subprocess
from pathlib import Path

from ops.build import PYTHON, ensure_python
from ops.database import Database, free_port
from ops.made_up import WORD
from ops.packages import ensure_packages
from ops.running import MANAGE, VAR, VAR_LOG, Environment, Running, gunicorn, hearing
from ops.say import ROOT, run, say

TARGETS = ("sound", "log", "universal file", "speed log", "book", "picture", "bundle", "case")
OWNER = """
from people.models import Role, User, Workshop
workshop, new = Workshop.objects.get_or_create(name="{name}")
if new:
    User.objects.create_user("{name}", password="{word}", workshop=workshop, role=Role.OWNER)
"""
GUIDED = ("-rss_limit_mb=1024", "-timeout=20")


def main() -> int:
    """Do all three; return 1 where any found something."""
    ensure_packages(tests=True)
    ensure_python()
    folder = VAR / "fuzz"
    folder.mkdir(parents=True, exist_ok=True)
    with Database(folder, throwaway=True) as database:
        environment = os.environ | database.environment() | {"HEMATITE_VAR": str(folder), "HEMATITE_PLAIN_HTTP": "1"}
        environment |= {
            "HEMATITE_SECRET_KEY": "of-this-trial-only-" * 3,
            "PYTHONPATH": f"{ROOT}:{ROOT / 'core'}",
            VAR_LOG: str(folder / "logs"),
        }
        run([*MANAGE, "migrate", "--no-input"], what="Bringing the database up to date", env=environment)
        for name in ("ours", "described"):  # what the one part fills the other need not take along
            run([*MANAGE, "shell", "-v", "0", "-c", OWNER.format(name=name, word=WORD)], what=name, env=environment)
        wrong = _against_a_server(environment, folder)
    return 1 if wrong + _guided(folder) else 0


def _against_a_server(environment: Environment, folder: Path) -> int:
    port = free_port()
    server = gunicorn(f"127.0.0.1:{port}", environment, "--workers", "2", "--threads", "4")
    address = f"http://127.0.0.1:{port}"
    with Running([server, hearing(environment)], folder / "fuzz.pids") as running:
        running.wait_for(f"{address}/healthz")
        groups = [str(process.pid) for process in running.processes.values()]
        many = ["--many", os.environ.get("MANY") or "10000", "--seed", os.environ.get("SEED") or "1"]
        say("The API, by its description …")
        examples = os.environ.get("EXAMPLES") or "20"
        wrong = _done("described", address, WORD, folder, examples, environment=environment)
        say("Changed files and bodies …")
        told = [address, WORD, folder / "kept", *many, "--groups", *groups]
        return wrong + _done("sending", *told, environment=environment)


def _guided(folder: Path) -> int:
    wrong = 0
    for target in TARGETS:
        say(f"Guided by coverage: {target} …")
        corpus = folder / "corpus" / target.replace(" ", "-")
        kept = folder / "kept" / f"guided-{target.replace(' ', '-')}-"
        told = [f"-max_total_time={os.environ.get('SECONDS') or 60}", f"-artifact_prefix={kept}", *GUIDED]
        wrong += _done("guided", target, corpus, *told, quiet=folder / "guided.log")
    return wrong


def _done(module: str, *words: object, environment: Environment | None = None, quiet: Path | None = None) -> int:
    """Run one of the parts; return 1 where it found something. `quiet`: a file for its words, the last are said."""
    command = [str(PYTHON), "-m", f"ops.hostile.{module}", *map(str, words)]
    if quiet is None:
        return int(subprocess.run(command, env=environment, cwd=ROOT, check=False).returncode != 0)
    with quiet.open("w+b") as log:
        code = subprocess.run(command, env=environment, cwd=ROOT, check=False, stdout=log, stderr=log).returncode
        log.seek(0)
        lines = [line for line in log.read().decode(errors="replace").splitlines() if line.strip()]
    say("\n".join(lines[-40:] if code else lines[-1:]))
    return int(code != 0)


if __name__ == "__main__":
    raise SystemExit(main())
