"""Nothing that somebody else changed meanwhile is overwritten."""

import unittest
import uuid
from types import SimpleNamespace

from workshop.revisions import overtaken


class Revisions(unittest.TestCase):
    """A row, what was seen of it, and on which change of one's own."""

    def test_table(self) -> None:
        """As it was seen, or on top of one's own change that was the last; a row never changed before is no such."""
        own, other = uuid.uuid4(), uuid.uuid4()
        for revision, change, seen, after, expected in (
            (3, other, 3, None, False), (3, other, 2, None, True), (3, own, 2, own, False), (3, other, 2, own, True),
            (3, None, 2, None, True), (3, None, 2, own, True), (1, None, 1, None, False),
        ):  # fmt: skip
            row = SimpleNamespace(revision=revision, change=change)
            with self.subTest(seen=seen, after=after, change=change):
                self.assertEqual(overtaken(row, {"revision": seen, "after": after}), expected)
