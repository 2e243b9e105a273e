"""What is worth saying, and in which words: the same everywhere."""

import re
import unittest
from itertools import combinations

from hematite.assembly import library
from hematite.evidence.witnesses import witnesses
from hematite.hubs import designs
from hematite.inspection import finds, finds_of, parts_of, read_part, shuts_out
from hematite.listening.situation import SENSORS, SITUATIONS
from hematite.speed import KINDS
from hematite.tables import table
from hematite.units import quantities
from hematite.vehicles import Hub
from hematite.wording import hardly_moves, percent, wording, worth_naming


class WorthSaying(unittest.TestCase):
    """Thresholds of what is told, each at its edge."""

    def test_a_fifth_of_a_bit_is_less_than_a_seventh_of_the_odds(self) -> None:
        """Either way; 2^0.2 is 1.149."""
        for bits, hardly in ((0.19, True), (-0.19, True), (0.2, False), (-0.2, False), (0.0, True)):
            self.assertEqual(hardly_moves(bits), hardly, bits)

    def test_shares_worth_naming_come_greatest_first(self) -> None:
        """From two in a hundred."""
        self.assertEqual(list(worth_naming({"a": 0.02, "b": 0.019, "c": 0.5})), ["c", "a"])

    def test_no_probability_is_told_as_certain(self) -> None:
        """Nor as impossible."""
        for share, words in (
            (1.0, "over 99 %"),
            (0.991, "99 %"),
            (0.5, "50 %"),
            (0.004, "under 1 %"),
            (0.0, "under 1 %"),
        ):
            self.assertEqual(percent(share), words)


class Tables(unittest.TestCase):
    """What the tables name exists, and says what screens ask of it."""

    def test_every_design_has_its_words(self) -> None:
        """How it is set, and whether it is repacked."""
        for key, design in designs().items():
            self.assertIn(design.adjusts, wording()["adjusts"], key)
            self.assertIn(str(design.repacks).lower(), wording()["repacks"], key)

    def test_every_way_of_recording_is_made_of_what_has_words(self) -> None:
        """Its pickup, its kinds of speed; and one of a driven wheel says what an unknown speed costs."""
        rows = {key: row for key, row in table("listening/captures.toml").items() if "situation" in row}
        self.assertEqual(set(SITUATIONS), {"stand_driven", "stand_spin", "road"})
        for key, row in rows.items():
            self.assertIn(row["sensor"], SENSORS, key)
            self.assertLessEqual(set(row["speed"]), set(KINDS), key)
        speeds = table("listening/captures.toml")["speeds"]
        self.assertEqual(set(speeds), set(KINDS))
        self.assertTrue(speeds["unknown"]["warns"])

    def test_what_is_entered_by_more_than_an_answer_says_how(self) -> None:
        """Only kinds of entry that screens have; only what is rocked by hand may be rocked alone."""
        entries = {row.get("entry", "answer") for row in witnesses().values()}
        self.assertEqual(entries, {"answer", "gauge", "words", "heat", "seconds", "lever", "record"})
        self.assertEqual(
            {key for key, row in witnesses().items() if row.get("rocked")}, {"rock_12_6", "rock_3_9", "in_out"}
        )

    def test_figures_in_texts_are_written_in_units_that_can_be_changed(self) -> None:
        """Each unit that a text of the trade names behind a figure is the first of a quantity, or its distance."""
        known = {unit["label"] for row in quantities().values() for unit in row["units"][:1]} | {"km"}
        texts = [
            str(words)
            for name in ("evidence/hands.toml", "proof/checks.toml", "hubs.toml")
            for row in table(name).values()
            for one in (row.values() if isinstance(row, dict) else [])
            for words in (one.values() if isinstance(one, dict) else [one])
        ]
        texts += [act.do for part in library().values() for act in (*part.off, *part.on, *part.work)]
        texts += [row[name] for row in table("upkeep/rechecks.toml")["row"] for name in ("label", "why")]
        named = {unit for text in texts for unit in re.findall(r"\d (mm|cm|km/h|km|m/s|mi|in|mph|Nm|N·m|°C|K)\b", text)}
        self.assertLessEqual(named, known)
        self.assertIn("km/h", named)


class Finds(unittest.TestCase):
    """What cannot be at a part at once."""

    def test_shutting_out_goes_both_ways(self) -> None:
        """And never by itself."""
        for one in finds().values():
            self.assertNotIn(one.key, shuts_out(one))
            for other in shuts_out(one):
                self.assertIn(one.key, shuts_out(finds()[other]), other)

    def test_what_the_eye_sees_goes_with_what_the_hand_feels(self) -> None:
        """Fine and damaged do not, to the eye or to the hand; a ring that turns in its seat is seen."""
        rolling = next(part for part in parts_of("taper_castle") if part.kind == "rolling")
        keys = {find.key for find in finds_of(rolling)}
        self.assertLessEqual({"clean", "turns_gritty", "turns_smooth"}, keys)
        hub = Hub("A1L", "left", "taper_castle")
        both = read_part({"part": rolling.key, "finds": ["clean", "turns_gritty"]}, hub)
        self.assertEqual([find.key for find in both.finds], ["clean", "turns_gritty"])
        self.assertIn("turns_gritty", shuts_out(finds()["turns_smooth"]))
        self.assertIn("seat_good", shuts_out(finds()["turns_in_seat"]))

    def test_a_refusal_names_both(self) -> None:
        """In the words that were tapped."""
        hub = Hub("A1L", "left", "taper_castle")
        for part in parts_of("taper_castle"):
            for one, other in combinations(finds_of(part), 2):
                if other.key in shuts_out(one):
                    with self.assertRaisesRegex(Exception, re.escape(f"“{one.label}” and “{other.label}”")):
                        read_part({"part": part.key, "finds": [one.key, other.key]}, hub)
