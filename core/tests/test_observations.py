"""Entries of the log become statements: answers, figures, words of the driver, and everything that cannot be."""

import unittest

from hematite.beliefs import weigh
from hematite.errors import BadQuantity, HematiteError, UnknownName
from hematite.evidence import Observation, statements, words_of
from hematite.evidence.complaint import read_text
from hematite.evidence.observations import ANSWERED, AT_HUB, KINDS, ONE_PERSON
from hematite.evidence.witnesses import PASSES, outcomes
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
    return dict(said.shares)


FIELDS = st.sampled_from(["answer", "readings_mm", "temp_c", "mate_c", "seconds", "words", "text", "hands", "how"])
ANYTHING = st.one_of(
    st.none(), st.booleans(), st.integers(), st.floats(), st.text(max_size=8),
    st.lists(st.integers(), max_size=3), st.dictionaries(st.text(max_size=3), st.integers(), max_size=2),
)  # fmt: skip


class Figures(unittest.TestCase):
    """Figures are read as the trade reads them; where the limits lie is judgement."""

    def heat(self, vehicle: Vehicle, **value: float) -> list[tuple[str, str]]:
        """Return witness and outcome of a thermometer's figures."""
        return [(s.witness, s.outcome) for s in statements(Observation("heat", "A1L", value), vehicle)]

    def test_mate_and_air_are_two_scales(self) -> None:
        """Over its mate two degrees are nothing, fifteen warm, forty hot. A braked hub 30 K over the air is as it
        should be, an unbraked trailer's is hot; where both are given both speak."""
        trailer = Vehicle((Axle((Hub("A1L", "left", "taper_castle"), Hub("A1R", "right", "taper_castle"))),))
        for rise, outcome in ((2, "cool"), (15, "warm"), (40, "hot")):
            self.assertEqual(self.heat(car(), temp_c=20 + rise, mate_c=20), [("heat_over_mate", outcome)])
        for vehicle, outcome in ((car(), "cool"), (trailer, "hot")):
            self.assertEqual(self.heat(vehicle, temp_c=50, ambient_c=20), [("heat_over_air", outcome)])
        both = self.heat(trailer, temp_c=50, mate_c=49, ambient_c=10)
        self.assertEqual(both, [("heat_over_mate", "cool"), ("heat_over_air", "hot")])

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
            ("heat", {"temp_c": "warm", "mate_c": 20}), ("coast_down", {"seconds": 5}),
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
            for answer in outcomes(kind):
                for more in ({}, {"how": "one_person"}):
                    entry = Observation(kind, "A1L" if kind in AT_HUB else "", {"answer": answer} | more)
                    with self.subTest(kind, answer=answer, **more):
                        (said,) = statements(entry, car())
                        self.assertAlmostEqual(sum(said.shares.values()), 1.0)
                        self.assertTrue(words_of(entry, car()))
                        self.assertGreaterEqual(weigh([said], car()).nothing, 0.0)

    def test_one_who_rocks_alone_is_doubted(self) -> None:
        """Only what he says moved; that nothing did he feels as well as anybody."""
        trusts = {
            (kind, answer): statements(Observation(kind, "A1L", {"answer": answer, "how": "one_person"}), car())[
                0
            ].trust
            for kind, answer in (("rock_12_6", "hub"), ("rock_12_6", "nothing"), ("spin", "rumbles"))
        }
        self.assertEqual(list(trusts.values()), [ONE_PERSON, 1.0, 1.0])

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
    """An ear on the road speaks of the one noise, and points to a side."""

    def sides(self, kind: str, answer: str, *, all_driven: bool = False) -> float:
        """Return by how much likelier the left side's faults of a kind are than the right's after an answer."""
        group = "drive_joint" if kind == "turn_clicks" else "bearing"
        said = statements(Observation(kind, "", {"answer": answer}), car(all_driven=all_driven))
        hubs = weigh(said, car(all_driven=all_driven)).hubs
        return hubs["A1L"].of_group(group) / hubs["A1R"].of_group(group)

    def test_bends_point_across_and_clicks_to_no_side(self) -> None:
        """Louder in right-hand bends is the left; even is neither. Which joint clicks in which turn schools differ."""
        self.assertGreater(self.sides("load_test", "right"), 1.5)
        self.assertLess(self.sides("load_test", "left"), 1 / 1.5)
        self.assertAlmostEqual(self.sides("load_test", "even"), 1.0)
        self.assertAlmostEqual(self.sides("turn_clicks", "left"), 1.0, delta=0.2)

    def test_four_driven_wheels_mislead(self) -> None:
        """The bends tell less where every axle drives."""
        self.assertLess(self.sides("load_test", "right", all_driven=True), 0.8 * self.sides("load_test", "right"))

    def test_a_centre_wheel_has_no_side(self) -> None:
        """Bends say as much for a trike's rear wheel either way."""
        after = [
            weigh(statements(Observation("load_test", "", {"answer": a}), TRIKE), TRIKE) for a in ("left", "right")
        ]
        self.assertAlmostEqual(*(one.hubs["A2C"].bearing for one in after))


class DriversWords(unittest.TestCase):
    """Words are matched as words, with what is denied, and where and when it is heard: common practice, no source."""

    def test_text(self) -> None:
        """What is named, the side, the end, the bends."""
        cases = [
            ("It thumps", (["clunk"], "", "", "")),
            ("shock absorber replaced last week, photo attached", ([], "", "", "")),
            ("no vibration, no hum", ([], "", "", "")),
            ("growling from behind", (["growl"], "", "rear", "")),
            ("humming at the front right", (["growl"], "right", "front", "")),
            ("a drone, changes in bends, unsure which", (["growl"], "", "", "some")),
            ("it howls in right-hand bends", (["growl"], "", "", "right")),
            ("routine check, nothing heard", (["nothing"], "", "", "")),
            ("no noise, just looking", (["nothing"], "", "", "")),
            ("ABS lamp on, clicks when turning left", (["click", "lamp"], "", "", "left")),
            ("Customer will call back right after lunch", ([], "", "", "")),
            ("it isn't a rumble. It squeals", (["grind"], "", "", "")),
        ]
        for text, (kinds, side, end, bends) in cases:
            with self.subTest(text):
                read = read_text(text)
                self.assertEqual(
                    (sorted(read["kinds"]), read["side"], read["end"], read["bends"]), (sorted(kinds), side, end, bends)
                )

    def test_where_it_is_heard_weighs(self) -> None:
        """From behind raises the rear, the front right its own corner most."""
        behind = weigh(statements(Observation("complaint", "", {"text": "hums from behind"}), car()), car()).hubs
        self.assertGreater(behind["A2L"].bearing, 1.5 * behind["A1L"].bearing)
        corner = weigh(statements(Observation("complaint", "", {"text": "hum, front right"}), car()), car()).hubs
        self.assertEqual(max(corner, key=lambda hub: corner[hub].bearing), "A1R")
