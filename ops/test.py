"""`make test`: set-up, lint, types, the core's tests alone, then Django's runner with the browser tests."""

import os
import re
import subprocess
import sys
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from ops import api_types
from ops.build import PYTHON, WEB, ensure_python, ensure_web
from ops.database import Database
from ops.packages import ensure_packages
from ops.say import ROOT, say, show

VAR = Path(os.environ.get("HEMATITE_TEST_VAR", ROOT / "var" / "test"))
BIN = PYTHON.parent
# Of the core's tests a few modules take a minute or two each, the slowest first; the others take seconds.
SLOWEST = ("trials", "job_properties", "listening", "speed", "assessment", "walkrounds", "road", "bundles")
PARTS = 4  # of the others
LONG_OPS = ("test_machines", "test_backup", "test_upgrade", "test_faults")
CORES = 2


def main() -> int:
    """Run every check, all of them even when one fails; return 1 when any did."""
    ensure_packages(tests=True)
    ensure_python()
    ensure_web()
    checks: dict[str, Callable[[], int]] = {
        "Python lint": lambda: show([BIN / "ruff", "check", "core", "server", "ops"], cwd=ROOT),
        "Python format": lambda: show([BIN / "ruff", "format", "--check", "core", "server", "ops"], cwd=ROOT),
        "Core types": lambda: show([BIN / "mypy"], cwd=ROOT),
        "Import direction": lambda: show([BIN / "lint-imports"], cwd=ROOT),
        "API types are fresh": lambda: api_types.main(write=False),
        "Words": lambda: show([PYTHON, "-m", "ops.words"], cwd=ROOT),
        "Web lint": lambda: show(["npm", "run", "--silent", "lint"], cwd=WEB),
        "Web types": lambda: show(["npm", "run", "--silent", "check"], cwd=WEB),
        "Web units": lambda: show(["npm", "run", "--silent", "test"], cwd=WEB),
    }
    with ThreadPoolExecutor(CORES) as pool:
        results = dict(zip(checks, pool.map(_said, checks, checks.values()), strict=True))
    counts = [_core_tests(), _ops_tests(), _server_tests()]
    failed = [name for name, code in results.items() if code]
    if failed:
        say(f"\nFailed checks: {', '.join(failed)}")
    bad = sum(b for _, b in counts) + len(failed)
    say(f"\n{sum(a for a, _ in counts) + len(results) - len(failed)} passed, {bad} failed")
    return 1 if bad else 0


def _said(name: str, check: Callable[[], int]) -> int:
    say(f"\n── {name}")
    return check()


def _core_tests() -> tuple[int, int]:
    """Run the core alone: no Django settings, no database in its environment; in parts, as a core comes free."""
    say("\n── Core tests, alone")
    environment = {k: v for k, v in os.environ.items() if not k.startswith(("DJANGO", "HEMATITE"))}
    environment |= {"PYTHONPATH": str(ROOT / "core"), "OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}
    slowest = [f"tests.test_{name}" for name in SLOWEST]
    found = sorted(f"tests.{path.stem}" for path in (ROOT / "core" / "tests").glob("test_*.py"))
    others = [name for name in found if name not in slowest]
    parts = [[name] for name in slowest] + [others[n::PARTS] for n in range(PARTS)]
    with ThreadPoolExecutor(CORES) as pool:
        counts = list(pool.map(lambda part: _counted([PYTHON, "-m", "unittest", *part], environment), parts))
    return sum(good for good, _ in counts), sum(bad for _, bad in counts)


def _ops_tests() -> tuple[int, int]:
    say("\n── Start command, machines, backups, faults")
    found = sorted(path.stem for path in (ROOT / "ops" / "tests").glob("test_*.py"))
    parts = sorted(found, key=lambda name: LONG_OPS.index(name) if name in LONG_OPS else len(LONG_OPS))
    with ThreadPoolExecutor(CORES) as pool:  # each has a database, a folder and ports of its own
        run = [[PYTHON, "-m", "unittest", f"ops.tests.{name}"] for name in parts]
        counts = list(pool.map(lambda command: _counted(command, dict(os.environ)), run))
    return sum(good for good, _ in counts), sum(bad for _, bad in counts)


def _server_tests() -> tuple[int, int]:
    say("\n── Server and browser tests")
    with Database(VAR, throwaway=True) as database:
        environment = os.environ | {"HEMATITE_VAR": str(VAR)} | database.environment()
        labels = sys.argv[1:]
        command = [PYTHON, "server/manage.py", "test", "--no-input", f"--parallel={CORES}", *(labels or ["server"])]
        return _counted(command, environment)


def _counted(command: list[object], environment: dict[str, str]) -> tuple[int, int]:
    """Run a test runner, pass its words on, and return how many passed and failed."""
    running = subprocess.Popen(
        [str(part) for part in command], cwd=ROOT, env=environment, stderr=subprocess.PIPE, text=True
    )
    said = []
    assert running.stderr is not None
    for line in running.stderr:
        said.append(line)
        sys.stdout.write(line)
        sys.stdout.flush()
    code, text = running.wait(), "".join(said)
    ran = int(match.group(1)) if (match := re.search(r"^Ran (\d+) tests?", text, re.MULTILINE)) else 0
    bad = sum(int(n) for n in re.findall(r"(?:failures|errors)=(\d+)", text))
    skipped = sum(int(n) for n in re.findall(r"skipped=(\d+)", text))
    return (ran - bad - skipped, bad) if ran and bool(code) == bool(bad) else (0, max(bad, 1))


if __name__ == "__main__":
    raise SystemExit(main())
