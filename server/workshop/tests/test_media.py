"""Kept files: whole, once, and however many write them at the same moment."""

import hashlib
import os
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from django.conf import settings
from django.test import SimpleTestCase, override_settings

from workshop import health, media
from workshop.refusals import Refusal
from workshop.tests.object_store import ObjectStore


class WrittenOnce(SimpleTestCase):
    """Below a folder of its own."""

    def test_many_at_once(self) -> None:
        """Of twenty threads with the same sound none fails; one whole file stays, and no part of any."""
        data = bytes(range(256)) * 4096
        with tempfile.TemporaryDirectory() as folder, override_settings(MEDIA_ROOT=folder):
            with ThreadPoolExecutor(20) as threads:
                names = list(threads.map(lambda _: media.write_once("sounds/ab/abc.flac", data), range(20)))
            self.assertEqual(set(names), {"sounds/ab/abc.flac"})
            left = [str(one.relative_to(folder)) for one in Path(folder).rglob("*") if one.is_file()]
            self.assertEqual(left, ["sounds/ab/abc.flac"])
            self.assertEqual(media.path("sounds/ab/abc.flac").read_bytes(), data)
            media.write_once("sounds/ab/abc.flac", b"other")
            self.assertEqual(media.path("sounds/ab/abc.flac").read_bytes(), data)


class SharedStore(SimpleTestCase):
    """Two machines, each with a disk of its own, and one store."""

    name = "sounds/ab/abc.flac"

    def setUp(self) -> None:
        """Start the store; begin on the first machine."""
        self.store = self.enterContext(ObjectStore())
        self.disks = [self.enterContext(tempfile.TemporaryDirectory()) for _ in range(2)]
        stores = settings.STORAGES | {media.SHARED: self.store.storage()}
        self.enterContext(override_settings(STORAGES=stores))
        self.on(0)

    def on(self, machine: int) -> None:
        """Go to a machine."""
        self.enterContext(override_settings(MEDIA_ROOT=self.disks[machine]))

    def test_written_on_one_read_on_the_other(self) -> None:
        """It is in the store before anybody is told that it is kept; a copy that is damaged is fetched again."""
        data = bytes(range(256)) * 4096
        media.write_once(self.name, data)
        self.assertEqual(self.store.names(), {self.name})
        self.on(1)
        digest = hashlib.sha256(data).hexdigest()
        self.assertEqual(media.verified(self.name, digest).read_bytes(), data)
        media.path(self.name).write_bytes(b"damaged")
        self.assertEqual(media.verified(self.name, digest).read_bytes(), data)

    def test_copies_make_room_for_others(self) -> None:
        """What was long not read leaves the disk, not the store; what is removed leaves both."""
        for n in range(4):
            media.write_once(f"sounds/{n}.flac", bytes(1000))
            os.utime(media.path(f"sounds/{n}.flac"), (n, n))
        self.assertEqual(media.trim(2000), 2)
        self.assertEqual(sorted(one.name for one in Path(self.disks[0], "sounds").iterdir()), ["2.flac", "3.flac"])
        self.assertEqual(media.path("sounds/0.flac").read_bytes(), bytes(1000))  # asked for again
        media.remove("sounds/0.flac")
        self.assertFalse(media.path("sounds/0.flac").exists())

    def test_a_store_that_is_away(self) -> None:
        """Nothing is said to be kept; what is asked for is refused in words, and health says so."""
        self.store.stop()
        self.addCleanup(self.store.start)
        with self.assertLogs("workshop.media", "ERROR"), self.assertRaisesRegex(Refusal, "cannot be reached now"):
            media.write_once(self.name, b"sound")
        self.assertFalse(Path(self.disks[0], self.name).exists())
        with self.assertLogs("workshop.media", "ERROR"), self.assertRaises(Refusal):
            media.path(self.name)
        self.assertFalse(health._writable())
