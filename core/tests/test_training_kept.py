"""Real work to learn on: what of a case goes along, what answers, and how the bench itself gets on with it."""

import json
import tempfile
import unittest
from pathlib import Path

from hematite.bundles import vehicle_to_json
from hematite.errors import HematiteError
from hematite.evidence import Observation
from hematite.evidence.observations import KINDS
from hematite.training import Truth, draw, mark, matter_words, observe, options
from hematite.training.hands import entry_of, seen, strokes_mm
from hematite.training.kept import keep, stripped, wordless
from hypothesis import given
from hypothesis import strategies as st

from tests import test_command_line
from tests.test_bundles import VAN, bundle

NAMES = ("Bookmobile", "Fennimore", "P 41", "the one by the harbour")
FOUND = [
    Observation("complaint", "", {"text": f"{NAMES[1]} says it growls, no clicking", "side": "left"}),
    Observation("spin", "A1L", {"answer": "rumbles", "note": NAMES[3]}),
    Observation("spin", "A1R", {"answer": "free"}),
    Observation("rock", "A1R", {"hands": "3_9", "answer": "nothing"}),
    Observation("end_play", "A1L", {"readings_mm": [0.03, 0.04, 0.03], "instrument": f"{NAMES[1]}'s dial"}),
    Observation("part", "A1L", {"part": "unit", "finds": ["glitter"], "note": NAMES[3]}),
    Observation("note", "A1L", {"text": NAMES[1]}),
]
JSON = st.recursive(
    st.none() | st.booleans() | st.floats(allow_nan=False) | st.text(max_size=30),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.sampled_from(["a", "note"]), inner, max_size=4),
    max_leaves=12,
)


def kept(choice: str = "replace_unit") -> Truth:
    """Return a van of real work whose front left was replaced."""
    said = vehicle_to_json(VAN) | {"age_years": 11.2, "distance_km": 183_204.0, "plate": "QX 81"}
    said["axles"][0]["hubs"][0]["fastenings"] = {"axle_nut": {"least_nm": 290.0, "page": NAMES[2], "on": "2026-01-02"}}
    said["axles"][0]["hubs"][0]["play_source"] = NAMES[1]
    return keep(
        said, FOUND, number="7", hub="A1L", choice=choice, cause="outer_race", because="It was proven.", recorded=["r"]
    )


class Stripped(unittest.TestCase):
    """What goes along, and what stays."""

    def test_nothing_of_people_goes_along(self) -> None:
        """Neither names nor words, pages, dates or exact figures; sizes, torques and finds do."""
        text = json.dumps(kept().to_json())
        for word in (*NAMES, "QX 81", "2026-01-02", "11.2", "183204", "note"):
            self.assertNotIn(word, text, word)
        for word in ("rumbles", "glitter", "290.0", "62.0", "215/65 R16", "growl"):
            self.assertIn(word, text, word)
        self.assertEqual(kept().kept["vehicle"]["age_years"], 10.0)
        self.assertEqual(kept().kept["vehicle"]["distance_km"], 200_000.0)
        self.assertEqual(Truth.from_json(kept().to_json()), kept())

    def test_what_the_driver_said_is_said_in_the_tables_words(self) -> None:
        """What is named and where, of which what was denied is not; nobody's own sentence."""
        said = kept().complaint
        self.assertEqual((said["words"], said["side"]), (["growl"], "left"))
        self.assertIn("growls", said["text"])

    @given(JSON)
    def test_no_free_text_is_left_in_any_value(self, value: object) -> None:
        """Whatever an entry holds: what is left of text are single small words, as tables have for keys."""

        def texts(one: object) -> list[str]:
            if isinstance(one, dict):
                return [text for inner in one.values() for text in texts(inner)]
            if isinstance(one, list):
                return [text for inner in one for text in texts(inner)]
            return [one] if isinstance(one, str) else []

        for text in texts(wordless(value)):
            self.assertTrue(text.isascii() and text == text.lower() and " " not in text and len(text) <= 24, text)

    def test_a_vehicle_without_figures(self) -> None:
        """What nobody entered is not made up."""
        self.assertNotIn("age_years", stripped({"axles": []}))
        self.assertIsNone(stripped({"axles": [], "age_years": None})["age_years"])


class Asked(unittest.TestCase):
    """What answers."""

    def test_only_what_was_done_answers(self) -> None:
        """A test gives what was found then; one that nobody made is refused, at every kind and at every hub."""
        truth = kept()
        self.assertEqual(entry_of(truth, VAN, "spin", "A1L"), {"answer": "rumbles"})
        self.assertEqual(strokes_mm(truth, "A1L"), [0.03, 0.04, 0.03])
        hub = VAN.hub("A1L")
        assert hub is not None
        self.assertEqual(seen(truth, hub, "unit"), ["glitter"])
        self.assertEqual(entry_of(truth, VAN, "rock_3_9", "A1R")["answer"], "nothing")  # by where the hands were
        made = {("spin", "A1L"), ("spin", "A1R"), ("rock_3_9", "A1R"), ("end_play", "A1L"), ("part", "A1L")}
        for kind in KINDS:
            for place in ("", "A1L", "A1R", "A2L"):
                if (kind, place) not in made:
                    with self.assertRaises(HematiteError):
                        entry_of(truth, VAN, kind, place)
        with self.assertRaises(HematiteError):
            seen(truth, hub, "axle_nut")
        with self.assertRaises(HematiteError):
            strokes_mm(truth, "A2R")

    def test_right_is_what_was_done_and_proven(self) -> None:
        """Whatever the rules would say; what proved it is told; to leave it would have been a danger."""
        for choice in ("replace_unit", "replace_bearing"):
            truth = kept(choice)
            self.assertIn(choice, [one.key for one in options(truth, VAN)])
            right = mark(truth, VAN, (), hub="A1L", key=choice)
            self.assertEqual((right.right, right.because), (True, "It was proven."))
            self.assertEqual(mark(truth, VAN, (), hub="", key="leave").harm, "danger")
            self.assertFalse(mark(truth, VAN, (), hub="A1R", key=choice).right)
        self.assertEqual(matter_words(kept()), "From our own work")

    def test_the_bench_asks_for_what_there_is(self) -> None:
        """It follows its own advice, says of what nobody did that it was not done, and comes to an end."""
        found = observe(kept(), VAN)
        self.assertEqual((found.hub, found.key), ("A1L", "replace_unit"))
        self.assertLess(len(found.steps), 40)

    def test_none_is_drawn(self) -> None:
        """There is no chance in real work."""
        with self.assertRaises(HematiteError):
            draw("real", seed=1)


class OnTheCommandLine(unittest.TestCase):
    """A bundle made a lesson."""

    def test_a_bundle(self) -> None:
        """The bench hears its sounds; the vehicle has no name; a hub or a choice that it has not is refused."""
        run_it = test_command_line.CommandLine().run_it
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "case.zip"
            path.write_bytes(bundle("outer_race", "A2R"))
            code, out, _ = run_it("lesson", str(path), "--at", "A2R", "--done", "replace_unit", "--json")
            found = json.loads(out)
            self.assertEqual((code, found["truth"]["at"], found["answer"]["right"]), (0, "A2R", True))
            self.assertNotIn("Bookmobile", out)
            for at, done in (("A9L", "replace_unit"), ("A2R", "repack"), ("A2R", "x")):
                self.assertEqual(run_it("lesson", str(path), "--at", at, "--done", done)[0], 2)
