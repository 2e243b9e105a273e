"""The Python and web sides, made from their lock files; made again only when something changed."""

import hashlib
import shutil
import sys
from collections.abc import Iterable
from pathlib import Path

from ops.say import ROOT, run, say

VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
MADE = {WEB / "src" / "locales" / ".wuchale", WEB / "src" / "locales" / "data.js"}  # by the build, from the catalogues


def _digest(paths: Iterable[Path]) -> str:
    seen = hashlib.sha256()
    for path in sorted(paths):
        seen.update(str(path.relative_to(ROOT)).encode() + path.read_bytes())
    return seen.hexdigest()


def _fresh(stamp: Path, digest: str) -> bool:
    return stamp.is_file() and stamp.read_text() == digest


def ensure_python() -> None:
    """Make `.venv` from requirements.lock, and put core and server on its path."""
    lock, stamp = ROOT / "requirements.lock", VENV / ".lock"
    digest = _digest([lock])
    if _fresh(stamp, digest) and PYTHON.exists():
        return
    say("Installing Python packages (once, a minute or two) …")
    if not PYTHON.exists():
        shutil.rmtree(VENV, ignore_errors=True)
        run([sys.executable, "-m", "venv", VENV], what="Making .venv")
    pip = [PYTHON, "-m", "pip", "--disable-pip-version-check", "install", "--quiet"]
    run([*pip, "--require-hashes", "-r", lock], what="Installing Python packages")
    site = VENV / "lib" / f"python{sys.version_info.major}.{sys.version_info.minor}" / "site-packages"
    (site / "hematite.pth").write_text(f"{ROOT / 'core'}\n{ROOT / 'server'}\n")
    stamp.write_text(digest)


def ensure_node_modules() -> None:
    """Install the locked npm packages."""
    stamp = WEB / "node_modules" / ".lock"
    digest = _digest([WEB / "package-lock.json"])
    if not _fresh(stamp, digest):
        say("Installing npm packages (once) …")
        run(["npm", "ci", "--no-audit", "--no-fund"], what="npm ci", cwd=WEB)
        stamp.write_text(digest)


def _web_sources() -> list[Path]:
    tops = [path for path in WEB.iterdir() if path.is_file() and path.name != "README.md"]
    paths = [path for folder in ("src", "static") for path in (WEB / folder).rglob("*") if path.is_file()]
    return tops + [path for path in paths if path not in MADE and not MADE & set(path.parents)]


def ensure_web() -> None:
    """Build the web app, with compressed copies of its files, when its sources changed."""
    ensure_node_modules()
    stamp = WEB / "build" / ".sources"
    digest = _digest(_web_sources())
    if not _fresh(stamp, digest):
        say("Building the web app …")
        shutil.rmtree(WEB / "build", ignore_errors=True)
        run(["npm", "run", "build"], what="Building the web app", cwd=WEB)
        run([PYTHON, "-m", "whitenoise.compress", "--quiet", WEB / "build"], what="Compressing the web app")
        stamp.write_text(digest)
