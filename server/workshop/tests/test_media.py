"""Kept files: whole, once, and however many write them at the same moment."""

import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from django.test import SimpleTestCase, override_settings

from workshop import media


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
