"""Entries of the log become statements: answers, figures, words of the driver, and everything that cannot be."""

import unittest

from hematite.errors import BadQuantity, HematiteError, UnknownName
from hematite.evidence import Observation, statements, weigh, words_of
from hematite.evidence.observations import ANSWERED, AT_HUB, KINDS, ONE_PERSON
from hematite.evidence.tables import ALL_DRIVEN_SHARE, PASSES, witnesses
from hematite.vehicles import Axle, Hub, Vehicle
from hypothesis import given
from hypothesis import strategies as st


def car(*, all_driven: bool = False) -> Vehicle:
    """Return a car with four hubs."""
    axles = [
        Axle((Hub(f"A{n}L", "left", "hub_unit"), Hub(f"A{n}R", "right", "hub_unit")), driven=n == 1 or all_driven)
        for n in (1, 2)
    ]
    return Vehicle(tuple(axles))


TRIKE = Vehicle((Axle((Hub("A1L", "left", "cup_cone"), Hub("A1R", "right", "cup_cone"))),
                 Axle((Hub("A2C", "centre", "cup_cone"),))))  # fmt: skip


def shares(kind: str, hub: str = "A1L", vehicle: Vehicle | None = None, **value: object) -> dict[str, float]:
    """Return what one entry says of a hub."""
    (said,) = statements(Observation(kind, hub if kind in AT_HUB else "", value), vehicle or car())
    return dict(said.shares(hub))


FIELDS = st.sampled_from(["answer", "readings_mm", "temp_c", "mate_c", "seconds", "words", "text", "hands", "how"])
ANYTHING = st.one_of(
    st.none(), st.booleans(), st.integers(), st.floats(), st.text(max_size=8),
    st.lists(st.integers(), max_size=3), st.dictionaries(st.text(max_size=3), st.integers(), max_size=2),
)  # fmt: skip


class Figures(unittest.TestCase):
    """Figures are read as the trade reads them; where the limits lie is judgement."""

    def test_heat_is_held_against_the_mate_else_the_air(self) -> None:
        """Two degrees over the mate are nothing, fifteen warm, forty hot; the mate counts before the air."""
        for rise, outcome in ((2, "cool"), (15, "warm"), (40, "hot")):
            self.assertEqual(shares("heat", temp_c=20 + rise, mate_c=20), {outcome: 1.0})
            self.assertEqual(shares("heat", temp_c=20 + rise, ambient_c=20), {outcome: 1.0})
        self.assertEqual(shares("heat", temp_c=50, mate_c=49, ambient_c=10), {"cool": 1.0})

    def test_running_down(self) -> None:
        """Half the mate's time is short, nine tenths are alike."""
        self.assertEqual(shares("coast_down", seconds=5, mate_seconds=10), {"short": 1.0})
        self.assertEqual(shares("coast_down", seconds=9, mate_seconds=10), {"alike": 1.0})

    def test_lever(self) -> None:
        """12 mm at the tyre are some 3 mm at the hub (common practice, no source): much. Radii count where given."""
        self.assertEqual(shares("lever", movement_mm=12), {"much": 1.0})
        self.assertEqual(shares("lever", movement_mm=0.5), {"none": 1.0})
        self.assertEqual(shares("lever", movement_mm=8, tyre_radius_mm=320, hub_radius_mm=32), {"some": 1.0})

    def test_dial(self) -> None:
        """Readings share out by their own doubt; felt without figures an answer does."""
        read = shares("end_play", readings_mm=[0.05, 0.06, 0.05])
        self.assertAlmostEqual(sum(read.values()), 1.0)
        self.assertEqual(shares("end_play", answer="over"), {"over": 1.0})

    def test_what_cannot_be(self) -> None:
        """Text for a number, half of a pair, a list that is none, negative times, swapped radii: refused in words."""
        for kind, value in (
            ("heat", {"temp_c": "warm", "mate_c": 20}), ("heat", {"temp_c": 40}), ("coast_down", {"seconds": 5}),
            ("coast_down", {"seconds": -5, "mate_seconds": 9}), ("lever", {"movement_mm": -1}),
            ("lever", {"movement_mm": 4, "tyre_radius_mm": 30, "hub_radius_mm": 300}),
            ("end_play", {"readings_mm": 0.2}), ("end_play", {"readings_mm": "0.2"}), ("end_play", {}),
            ("complaint", {"words": 7}),
        ):  # fmt: skip
            with self.subTest(kind, **value), self.assertRaises(BadQuantity):
                shares(kind, **value)


class Answers(unittest.TestCase):
    """Words."""

    def test_every_answer_of_every_test_can_be_weighed(self) -> None:
        """Alone or with a helper, each gives shares that add up, and words, and nothing refuses to weigh it."""
        for kind in ANSWERED:
            row = witnesses()[kind]
            for answer in row.get("asked") or row["outcomes"]:
                for more in ({}, {"how": "one_person"}):
                    entry = Observation(kind, "A1L" if kind in AT_HUB else "", {"answer": answer} | more)
                    with self.subTest(kind, answer=answer, **more):
                        (said,) = statements(entry, car())
                        self.assertAlmostEqual(sum(said.shares("A1L").values()), 1.0)
                        self.assertTrue(words_of(entry, car()))
                        self.assertGreaterEqual(weigh([said], car()).nothing, 0.0)

    def test_one_who_rocks_alone_is_doubted(self) -> None:
        """Only what he says moved; that nothing did he feels as well as anybody."""
        self.assertEqual(
            shares("rock_12_6", answer="hub", how="one_person"), {"hub": ONE_PERSON, "nothing": 1 - ONE_PERSON}
        )
        self.assertEqual(shares("rock_12_6", answer="nothing", how="one_person"), {"nothing": 1.0})
        self.assertEqual(shares("spin", answer="rumbles", how="one_person"), {"rumbles": 1.0})

    def test_passes_say_nothing(self) -> None:
        """Could not tell and not done are answers with words and without weight."""
        for answer, words in PASSES.items():
            for kind in (*ANSWERED, "fault_lines"):
                entry = Observation(kind, "A1L" if kind in AT_HUB else "", {"answer": answer})
                self.assertEqual((statements(entry, car()), words_of(entry, car())), ([], words))

    def test_hands_of_the_case_format(self) -> None:
        """`rock` by where the hands were; without that at 12 and 6; elsewhere is refused."""
        for hands, witness in (("12_6", "rock_12_6"), ("3_9", "rock_3_9"), (None, "rock_12_6")):
            (said,) = statements(Observation("rock", "A1L", {"hands": hands, "answer": "nothing"}), car())
            self.assertEqual(said.witness, witness)
        with self.assertRaises(UnknownName):
            shares("rock", hands="6_9", answer="nothing")

    @given(st.sampled_from(KINDS), st.dictionaries(FIELDS, ANYTHING, max_size=4))
    def test_anything_is_read_or_refused_in_words(self, kind: str, value: dict) -> None:
        """Whatever stands in an entry, it is read or refused by an error of ours, never by a traceback."""
        entry = Observation(kind, "A1L", value)
        try:
            said = statements(entry, car())
        except HematiteError as refused:
            self.assertTrue(str(refused))
            return
        weigh(said, car())
        words_of(entry, car())


class OnTheRoad(unittest.TestCase):
    """An ear on the road speaks of every hub."""

    def test_bends_point_across(self) -> None:
        """Louder in right-hand bends is here on the left and away on the right; a centre wheel hears no side."""
        left, right = (shares("load_test", hub, answer="right") for hub in ("A1L", "A1R"))
        self.assertEqual((left["here"], right["away"]), (0.85, 0.85))
        self.assertEqual(shares("load_test", "A2C", TRIKE, answer="right"), {"even": 1.0})
        self.assertEqual(shares("load_test", answer="even"), {"even": 1.0})

    def test_clicks_point_to_the_inside(self) -> None:
        """Clicks in left-hand turns are the left joint's."""
        self.assertIn("here", shares("turn_clicks", "A1L", answer="left"))
        self.assertIn("away", shares("turn_clicks", "A1R", answer="left"))

    def test_four_driven_wheels_mislead(self) -> None:
        """The bends weigh half where every axle drives; clicks do not."""
        two, four = (
            shares("load_test", vehicle=car(all_driven=every), answer="right")["here"] for every in (False, True)
        )
        self.assertAlmostEqual(four, two * ALL_DRIVEN_SHARE)
        self.assertEqual(
            *(shares("turn_clicks", vehicle=car(all_driven=every), answer="left") for every in (False, True))
        )
