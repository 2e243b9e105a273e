"""A little of `make fuzz`, so that it goes on working: changed files for a server, decoders guided by coverage."""

import os
import subprocess
import tempfile
import unittest
from pathlib import Path

from ops.build import PYTHON
from ops.faults import power
from ops.made_up import WORD
from ops.say import ROOT


class Hostile(unittest.TestCase):
    """The parts of it."""

    def setUp(self) -> None:
        """Have a folder."""
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)

    def part(self, name: str, *words: object) -> subprocess.CompletedProcess[str]:
        """Run a part."""
        command = [str(PYTHON), "-m", f"ops.hostile.{name}", *map(str, words)]
        told = os.environ | {"PYTHONPATH": f"{ROOT}:{ROOT / 'core'}"}
        return subprocess.run(command, cwd=ROOT, env=told, capture_output=True, text=True, check=False)

    def test_changed_files(self) -> None:
        """Every kind is sent, and none is a fault."""
        with power.site(self.folder / "site") as here:
            here.begin_hearing()
            done = self.part("sending", here.at("").rstrip("/"), WORD, self.folder / "kept", "--many", 120)
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr[-3000:])
        self.assertEqual(list((self.folder / "kept").iterdir()), [])
        for kind in ("sound", "picture", "bundle", "archive", "book", "speed log", "body"):
            self.assertRegex(done.stdout, rf"(?m)^{kind} .*(200|201|422|400): \d+")

    def test_guided_by_coverage(self) -> None:
        """A target runs, and what is no refusal would be found."""
        for target in ("speed log", "case"):
            done = self.part("guided", target, self.folder / target, "-runs=300")
            self.assertEqual(done.returncode, 0, done.stderr[-3000:])
            self.assertIn("Done 300 runs", done.stderr)
