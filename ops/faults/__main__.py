"""`make faults`: power cuts, full disks, backups and upgrades broken off, `ROUNDS=1000` in all.

Each round is a kill -9 or a full disk at a random moment, and a look at whether anything that was confirmed is lost.
`SEED=1`. On installations of its own below a temporary folder; as root, who may mount small disks.
"""

import os
import subprocess

from ops.build import PYTHON, ensure_python
from ops.packages import ensure_packages
from ops.say import ROOT


def main() -> int:
    """Run the rounds with the project's own Python."""
    ensure_packages(tests=True)
    ensure_python()
    told = os.environ | {"PYTHONPATH": f"{ROOT}:{ROOT / 'core'}"}
    return subprocess.run([PYTHON, "-m", "ops.faults.rounds"], cwd=ROOT, env=told, check=False).returncode


if __name__ == "__main__":
    raise SystemExit(main())
