"""A few power cuts, full disks and upgrades that break off; `make faults` does a thousand."""

import random
import tempfile
import unittest
from pathlib import Path

from ops.faults import full, power, upgrades


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
                for n in range(2):
                    self.assertEqual(full.fill(here, disk, random.Random(n)), [], name)
                self.assertEqual(here.lost(here.confirmed), [])

    def test_an_upgrade_that_breaks_off(self) -> None:
        """Of the first release: begun again it ends, and every value that was there is there."""
        with upgrades.old_release(self.folder()) as old:
            for seconds in (0.7, 2.5, 4.0):
                self.assertEqual(upgrades.broken_off(old, after_s=seconds, database_too=seconds > 1), [], seconds)
