"""A few power cuts and full disks; `make faults` does a thousand."""

import random
import tempfile
import unittest
from pathlib import Path

from ops.faults import full, power


class Faults(unittest.TestCase):
    """What was confirmed is there; what was not can be sent again."""

    def folder(self) -> Path:
        """Return a folder of this test's own."""
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        return Path(held.name)

    def test_power_cuts_while_people_send(self) -> None:
        """The server, its database, or both, at random moments."""
        dice = random.Random()
        with power.site(self.folder()) as here:
            for kind in power.KINDS:
                self.assertEqual(power.cut(here, dice, kind), [], kind)
            self.assertGreater(len(here.confirmed), 0)
            self.assertEqual(here.lost(here.confirmed), [])

    @unittest.skipUnless(full.may_mount(), "a small disk is mounted, which this user may not")
    def test_a_full_disk(self) -> None:
        """The disk of the files, then that of the database: refused in words, and taken once there is room."""
        folder = self.folder()
        for name, megabytes in full.DISKS.items():
            with full.small_disk(folder / name, megabytes) as disk, full.site_on(disk, folder / "rest", name) as here:
                for n in range(3 if name == "database" else 2):
                    self.assertEqual(full.fill(here, disk, random.Random(n)), [], name)
                self.assertEqual(here.lost(here.confirmed), [])
