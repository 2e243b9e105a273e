"""The core as a package of its own: installed without the rest, with its command and all of its tables."""

import json
import os
import shutil
import subprocess
import tempfile
import unittest
from pathlib import Path

from ops.build import PYTHON
from ops.say import ROOT


class CorePackage(unittest.TestCase):
    """`pip install ./core` into an empty folder."""

    def test_installed_alone(self) -> None:
        """It answers from a folder that knows nothing of the project, and brings every table."""
        with tempfile.TemporaryDirectory() as folder:
            source, target = Path(folder) / "core", Path(folder) / "site"
            shutil.copytree(ROOT / "core", source, ignore=shutil.ignore_patterns("__pycache__", "tests", "bench"))
            pip = [str(PYTHON), "-m", "pip", "--disable-pip-version-check", "install", "--quiet", "--no-deps"]
            built = subprocess.run(
                [*pip, "--no-build-isolation", "--target", str(target), str(source)],
                capture_output=True, text=True, check=False,
            )  # fmt: skip
            self.assertEqual(built.returncode, 0, built.stderr)
            named = {str(one.relative_to(source)) for one in (source / "hematite").rglob("*") if one.is_file()}
            brought = {str(one.relative_to(target)) for one in (target / "hematite").rglob("*") if one.is_file()}
            self.assertEqual({name for name in named - brought if not name.endswith(".pyc")}, set())
            told = os.environ | {"PYTHONPATH": str(target)}

            def ask(*command: str) -> str:
                done = subprocess.run(command, cwd=folder, env=told, capture_output=True, text=True, check=False)
                self.assertEqual(done.returncode, 0, done.stderr)
                return done.stdout

            words = ["orders", "--elements", "13", "--element-diameter", "12.7", "--pitch-diameter", "62", "--json"]
            self.assertIn("bpfo", json.loads(ask(str(target / "bin" / "hematite"), *words)))
            where = ask(str(PYTHON), "-c", "import hematite; print(hematite.__file__)")
            self.assertTrue(where.startswith(str(target)), where)
