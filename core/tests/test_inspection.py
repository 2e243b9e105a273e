"""An opened hub, part by part: common practice, no source; damage classes ISO 15243:2017, from memory."""

import unittest

from hematite.assembly import assembly
from hematite.assembly.facts import built
from hematite.errors import HematiteError, UnknownName
from hematite.evidence import Observation, statements_of, words_of
from hematite.hubs import designs
from hematite.inspection import FACTS, finds, finds_of, inspections, parts_of
from hematite.vehicles import Hub
from hematite.verdict import as_json, assess

from tests.test_decisions import CLEAN, part
from tests.test_verdict import van

ISO_CLASSES = ("fatigue", "wear", "corrosion", "electrical erosion", "plastic deformation", "fracture")


class Tables(unittest.TestCase):
    """Parts and finds."""

    def test_every_design_has_parts_and_every_part_has_finds(self) -> None:
        """One find at least says that nothing is wrong, and others say what is."""
        for design in designs():
            parts = parts_of(design)
            self.assertTrue(any(one.rolls for one in parts), design)
            for one in parts:
                possible = finds_of(one)
                self.assertTrue(any(find.fine for find in possible), one)
                self.assertTrue(any(not find.fine for find in possible), one)

    def test_all_six_damage_classes_are_there(self) -> None:
        """ISO 15243 knows six; each is the class of at least one find, named by its clause."""
        named = {find.damage for find in finds().values() if find.damage}
        for name in ISO_CLASSES:
            self.assertTrue(any(name in damage and "ISO 15243" in damage for damage in named), name)
        by_key = {key: find.damage for key, find in finds().items()}
        examples = {"pits": "fatigue", "hollows": "corrosion", "washboard": "electrical", "dents": "plastic"}
        for key, name in (examples | {"cracked": "crack"}).items():
            self.assertIn(name, by_key[key])

    def test_parts_come_off_in_an_order_that_works(self) -> None:
        """Cap, pin, nut, outer bearing; the seal before the inner bearing that it holds in; a flange first."""
        keys = [one.key for one in parts_of("taper_castle")]
        order = ["cap", "pin", "nut", "outer_bearing", "seal", "inner_bearing", "spindle"]
        self.assertEqual([key for key in keys if key in order], order)
        said = {"drive": "flange"}
        facts = built("taper_locknut", kind="powered", driven=True, steered=True, said=said, ways={})
        flanged = [key for key, placed in assembly("taper_locknut", facts).items() if placed.part.kind]
        self.assertEqual(flanged[0], "drive_flange")


class Looked(unittest.TestCase):
    """What half an inspection and a whole one say."""

    hub = Hub("A1L", "left", "taper_castle")

    def look(self, *observations: Observation):
        """Return the inspection of the hub."""
        return inspections([(one.hub, one.value, "") for one in observations], [self.hub])["A1L"]

    def test_half_an_inspection_never_calls_a_hub_clean(self) -> None:
        """Only when every part that rolls was looked at; a find counts at once."""
        self.assertEqual(self.look(part("outer_bearing", "clean")).opened, {})
        self.assertEqual(self.look(part("outer_bearing", "clean"), part("outer_cup", "pits")).opened, {"marked": 1.0})
        self.assertEqual(self.look(*CLEAN).opened, {"clean": 1.0})

    def test_the_latest_look_counts(self) -> None:
        """Washed and looked at again: the hollow was dirt."""
        self.assertEqual(self.look(part("outer_cup", "dents"), part("outer_cup", "smooth")).facts, frozenset())

    def test_several_finds_share(self) -> None:
        """Water and metal: both are said."""
        self.assertEqual(self.look(part("outer_bearing", "milky", "glitter")).opened, {"metal": 0.5, "milky": 0.5})

    def test_refusals(self) -> None:
        """Each names what is wrong."""
        cases = [
            ({"part": "speed_ring", "finds": ["ring_good"]}, UnknownName, "part of a hub"),
            ({"part": "outer_cup", "finds": ["milky"]}, UnknownName, "find at this part"),
            ({"part": "outer_cup", "finds": []}, HematiteError, "say what was found"),
            ({"part": "outer_cup", "finds": ["smooth", "pits"]}, HematiteError, "at once"),
            ({"part": "outer_cup", "finds": "pits"}, HematiteError, "must be a list"),
        ]
        for value, kind, words in cases:
            with self.subTest(value), self.assertRaisesRegex(kind, words):
                statements_of([Observation("part", "A1L", value)], van("taper_castle"))

    def test_parts_stand_before_one_word_for_the_hub(self) -> None:
        """Called clean at a glance, then a pit was seen: the pit counts."""
        said = [Observation("opened", "A1L", {"answer": "clean"}), part("outer_cup", "pits")]
        (statement,) = [s for s in statements_of(said, van("taper_castle")) if s.witness == "opened"]
        self.assertEqual(statement.outcome, "marked")

    def test_one_word_counts_while_no_part_says_more(self) -> None:
        """Called marked at a glance, and only the cap looked at closely: still marked, still replaced."""
        said = [Observation("opened", "A1L", {"answer": "marked"}), part("cap", "cap_good")]
        hub = as_json(assess(van("taper_castle"), [], said))["hubs"]["A1L"]
        self.assertEqual((hub["choice"], hub["rule"]), ("replace_bearing", "marked"))

    def test_words(self) -> None:
        """As the log has it, with the note."""
        one = Observation("part", "A1L", {"part": "outer_cup", "finds": ["pits"], "note": "at six o'clock"})
        self.assertEqual(words_of(one, van("taper_castle")), "Outer cup: pits or flakes (at six o'clock)")

    def test_a_gritty_bearing_in_the_hand_is_rough(self) -> None:
        """It speaks as the loose bearing turned in the hand, and the rules know it as rough."""
        said = [part("outer_bearing", "turns_gritty")]
        self.assertEqual([s.witness for s in statements_of(said, van("taper_castle"))], ["hand_turned"])
        shown = as_json(assess(van("taper_castle"), [], said))["hubs"]["A1L"]["inspection"]
        self.assertEqual([one["part"] for one in shown["looked"]], ["outer_bearing"])
        self.assertIn("rough", FACTS)
