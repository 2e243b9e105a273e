"""Debian packages: which are missing, and getting them where that is allowed."""

import importlib.util
import os
import shutil
import subprocess
import sys
import sysconfig
from pathlib import Path

from ops.say import CannotGoOn, run, say

LEAST_NODE = 20
# A program that tells whether a package is there, and the package that brings it.
SERVING = {
    "mariadbd": "mariadb-server",
    "mariadb_config": "libmariadb-dev",
    "cc": "build-essential",
    "pkg-config": "pkg-config",
}
TESTING = {
    "chromium": "chromium",
    "certutil": "libnss3-tools",
    "nginx": "nginx-light",
    "redis-server": "redis-server",
    "borg": "borgbackup",
}


def missing_packages(programs: dict[str, str]) -> list[str]:
    """Return the Debian packages whose programs are not to be found."""
    path = os.pathsep.join([os.environ.get("PATH", ""), "/usr/sbin", "/usr/local/sbin"])
    missing = [package for program, package in programs.items() if not shutil.which(program, path=path)]
    version = f"python{sys.version_info.major}.{sys.version_info.minor}"
    if importlib.util.find_spec("ensurepip") is None:
        missing.append(f"{version}-venv")
    if not Path(sysconfig.get_paths()["include"], "Python.h").is_file():
        missing.append(f"{version}-dev")
    return missing


def ensure_packages(*, tests: bool) -> None:
    """Install missing Debian packages as root or with passwordless sudo, else say the one line to run."""
    _check_node()
    missing = missing_packages(SERVING | (TESTING if tests else {}))
    if not missing:
        return
    say(f"Installing Debian packages: {', '.join(missing)} …")
    prefix = _privilege()
    if prefix is None or not shutil.which("apt-get"):
        line = f"apt-get update && apt-get install -y --no-install-recommends {' '.join(missing)}"
        raise CannotGoOn(f"some Debian packages are missing. Run this once, as root:\n\n    {line}\n")
    quiet = os.environ | {"DEBIAN_FRONTEND": "noninteractive"}
    run([*prefix, "apt-get", "update"], what="apt-get update", env=quiet)
    install = ["apt-get", "install", "-y", "--no-install-recommends", *missing]
    run([*prefix, *install], what="Installing Debian packages", env=quiet)


def _privilege() -> list[str] | None:
    """Return what to put before apt-get: nothing as root, sudo where it asks no password, else None."""
    if os.geteuid() == 0:
        return []
    if (
        shutil.which("sudo")
        and subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False).returncode == 0
    ):
        return ["sudo", "-n"]
    return None


def _check_node() -> None:
    if not shutil.which("npm"):
        raise CannotGoOn(f"Node.js is missing. Install Node.js {LEAST_NODE} or later with npm.")
    found = subprocess.run(["node", "--version"], capture_output=True, text=True, check=False).stdout.strip()
    if int(found.lstrip("v").split(".")[0] or 0) < LEAST_NODE:
        raise CannotGoOn(f"Node.js {found} is too old. Install Node.js {LEAST_NODE} or later.")
