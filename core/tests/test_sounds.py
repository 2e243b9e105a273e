"""What is said of a recording once it is heard: shares worked out by hand, at and around every limit."""

import math
import unittest
from dataclasses import replace
from itertools import pairwise
from statistics import NormalDist

from hematite.evidence import Statement, heard_statements
from hematite.evidence.witnesses import outcomes, overall
from hematite.families import Family
from hematite.families.words import family_words
from hematite.listening import Corner, Heard, Situation
from hematite.listening.heard import Tone
from hematite.listening.road import RoadTest
from hematite.vehicles import Axle, Hub, Vehicle

CAR = Vehicle(tuple(
    Axle((Hub(f"A{n}L", "left", "hub_unit"), Hub(f"A{n}R", "right", "hub_unit")), driven=n == 1) for n in (1, 2)
))  # fmt: skip
ALL = frozenset(hub.id for hub in CAR.hubs())


def family(kind: str, strength: float, *, score: float = 12.0, **more: object) -> Family:
    """Return a family of so many nats, and so many decibels high."""
    return Family(kind, 3.0, 3.0, score, strength, (), **more)


def heard(*families: Family, place: str = "A1L", name: str = "r", situation: str = "stand_driven", **more: object):
    """Return a recording heard."""
    made = Situation(name, place, situation=situation)
    return Heard(made, 8.0, (), -30.0, (-30.0,) * 4, families=families, **more)


def said(*all_heard: Heard | Corner, vehicle: Vehicle = CAR) -> dict[tuple[str, str], Statement]:
    """Return statements by witness and place."""
    corners = [one if isinstance(one, Corner) else Corner(one, None, overheard=False) for one in all_heard]
    return {(one.witness, one.place): one for one in heard_statements(corners, vehicle)}


class Shares(unittest.TestCase):
    """One figure in, shares out."""

    def same(self, found: Statement, **expected: float) -> None:
        """Check shares to four digits, those that are nothing left out."""
        self.assertEqual(set(found.shares), set(expected))
        for name, share in expected.items():
            self.assertAlmostEqual(found.shares[name], share, places=4, msg=name)
        self.assertAlmostEqual(sum(found.shares.values()), 1.0)

    def test_lines(self) -> None:
        """Bayes by hand: each answer by how often it is given at all, times its odds; ten thousand to one at most."""
        names, usual = outcomes("fault_lines"), overall("fault_lines")
        for families, odds in (
            ([], {}),
            ([family("outer_race", 3.0)], {"outer_race": 3.0}),
            # the surest is held against nothing, the others against it
            ([family("outer_race", 30.0)], {"outer_race": 30.0}),
            ([family("outer_race", 30.0), family("inner_race", 24.0)], {"outer_race": 30.0, "inner_race": 24.0}),
            ([family("cage", -0.5), family("inner_race", 2.0)], {"cage": -0.5, "inner_race": 2.0}),
            # Two rows that may both have the mark: the mean of their odds. A scrape takes nothing from a bearing.
            ([family("inner_race", 4.0), family("inner_race", 0.0)], {"inner_race": math.log((math.e**4 + 1) / 2)}),
            ([family("outer_race", 3.0), family("once_a_turn", 60.0)], {"outer_race": 3.0}),
        ):
            with self.subTest([(f.kind, f.strength) for f in families]):
                over = max(max(odds.values(), default=0.0) - 9.2, 0.0)
                nats = {name: odds.get(name, 0.0) - over for name in names} | {"nothing": 0.0}
                shares = [share * math.exp(nats[name]) for name, share in zip(names, usual, strict=True)]
                expected = {name: share / sum(shares) for name, share in zip(names, shares, strict=True)}
                found = said(heard(*families or [family("swell", 0.0)], situation="stand_spin"))["fault_lines", "A1L"]
                self.same(found, **expected)

    def test_how_loud_a_final_drive_sings(self) -> None:
        """A song that carries much of the sound speaks for the driveline, a whisper for nothing, none against it."""
        song = replace(family("gears", 12.0), power_db=heard().level_db - 2.0)
        loud, faint = (
            said(heard(one))["gear_song", ""].shares for one in (song, replace(song, power_db=song.power_db - 14.0))
        )
        self.assertGreater(loud["loud_gear_song"], 0.9)
        self.assertGreater(faint["gear_song"], 0.99)
        usual = overall("gear_song")
        none = said(heard(family("gears", 0.0)))["gear_song", ""].shares
        self.assertGreater(none["nothing"], usual[0])

    def test_recordings_add_up(self) -> None:
        """Three faint ones of one hub weigh as one clear one: hiss is another each time."""
        faint = [heard(family("outer_race", 1.5), name=str(n), situation="stand_spin") for n in range(3)]
        clear = [heard(family("outer_race", 4.5), situation="stand_spin")]
        found, one = (said(*all_heard)["fault_lines", "A1L"] for all_heard in (faint, clear))
        self.same(found, **one.shares)

    def answer(self, witness: str, depth_db: float, *, lead_db: float | None = 20.0, **made: object) -> str:
        """Return what a witness says most, beside what it usually says, of strokes so deep and so far ahead."""
        reach, situation = made.get("reach", 3.0), made.get("situation", "stand_spin")
        one = heard(family("once_a_turn", 12.0, power_db=-30.0 + depth_db, reach=reach), situation=situation)
        shares = said(Corner(one, None, overheard=False, stroke_lead_db=lead_db))[witness, "A1L"].shares
        usual = dict(zip(outcomes(witness), overall(witness), strict=True))
        return max(shares, key=lambda name: shares[name] / usual[name])

    def test_strokes_by_their_depth(self) -> None:
        """Two decibels over the whole sound part a touch from a scrape, five a scrape from hardly anything else.

        What reaches high in orders is short, and a knock; what another wheel has as deep is no wheel's own.
        """
        for depth, reach, lead, answer in (
            (-6.0, 3.0, 20.0, "own_touch"), (4.5, 3.0, 20.0, "scrape"), (13.0, 3.0, 20.0, "grind"),
            (-1.0, 9.0, 20.0, "knock"), (13.0, 9.0, 9.0, "knock"), (-9.0, 9.0, 20.0, "own_touch"),
            (-6.0, 3.0, 0.0, "touch"), (13.0, 9.0, 0.0, "alike"),
        ):  # fmt: skip
            self.assertEqual(self.answer("strokes", depth, lead_db=lead, reach=reach), answer, (depth, reach, lead))

    def test_a_wheel_heard_alone_may_only_whisper(self) -> None:
        """Where no other wheel was heard the same strokes convict less."""
        shares = {}
        for lead in (None, 20.0):
            one = heard(family("once_a_turn", 12.0, power_db=-17.0, reach=3.0), situation="stand_spin")
            shares[lead] = said(Corner(one, None, overheard=False, stroke_lead_db=lead))["strokes", "A1L"].shares
        self.assertGreater(shares[None]["alike"], 0.1)
        self.assertLess(shares[20.0].get("alike", 0.0), 1e-3)

    def test_tyres_are_heard_on_the_road_only(self) -> None:
        """In the air a wheel's strokes are brake's or bearing's; on the road they beat, and hum and tread are asked."""
        for depth, answer in ((-6.0, "beat"), (0.0, "loud_beat"), (9.0, "rub")):
            self.assertEqual(self.answer("beat", depth, situation="road"), answer)
        everything = [family(kind, 9.0) for kind in ("once_a_turn", "whole_orders", "tread")]
        road, stands = (
            {w for w, _ in said(heard(*everything, situation=where))} & {"strokes", "beat", "hum", "tread_song"}
            for where in ("road", "stand_spin")
        )
        self.assertEqual((road, stands), ({"beat", "hum", "tread_song"}, {"strokes"}))

    def test_what_is_heard_near_silences_the_cabin_of_its_own_kind_only(self) -> None:
        """Four wheels spun in the air say nothing of tyres: the cabin's hum still counts, its fault lines do not."""
        spun = [heard(family("inner_race", 9.0), place=p, name=p, situation="stand_spin") for p in sorted(ALL)]
        drive = heard(family("whole_orders", 9.0), place="cabin", name="drive", situation="road")
        found = said(*spun, drive)
        self.assertIn(("hum", ""), found)
        self.assertNotIn(("fault_lines", ""), found)

    def test_what_else_turns_may_stand_by_luck(self) -> None:
        """Luck falls off in four nats where hiss does in one; a song that leads all corners is none. By hand."""
        with_luck = lambda odds, luck, halves=0.0: odds - math.log(1 + luck * math.exp(0.75 * odds + halves))  # noqa: E731
        song = heard(family("many", 8.0, luck=0.75), situation="road")
        for one, odds in (
            (song, with_luck(8.0, 0.75)),
            (Corner(song, None, overheard=False, leads=frozenset({"many"})), 8.0),
            (heard(family("many", 8.0), situation="stand_spin"), 8.0),
            (heard(family("inner_race", 8.0, luck=0.75), situation="road"), with_luck(8.0, 0.75)),
            (heard(family("outer_race", 20.0, luck=2.25, blind=True), situation="road"), with_luck(20.0, 2.25)),
            (heard(family("outer_race", 8.0, luck=0.75, halves=6.0), situation="road"), with_luck(8.0, 0.75, 6.0)),
            (heard(family("outer_race", 8.0, luck=0.75, halves=-2.0), situation="road"), with_luck(8.0, 0.75)),
        ):
            shares = said(one)["fault_lines", "A1L"].shares
            usual = dict(zip(outcomes("fault_lines"), overall("fault_lines"), strict=True))
            (kind,) = {f.kind for f in (one.heard if isinstance(one, Corner) else one).families}
            told = math.log(shares[kind] / usual[kind] / (shares["nothing"] / usual["nothing"]))
            self.assertAlmostEqual(told, odds, places=6)

    def test_strong_enough_is_no_luck(self) -> None:
        """What stands twice as high is told more surely, however high; a wheel alone needs no such care."""
        alone, among = family("outer_race", 12.0), family("outer_race", 12.0, luck=0.75)
        self.assertEqual((alone.odds, alone.standing), (12.0, "clear"))
        self.assertEqual((among.standing, replace(among, strength=24.0).standing), ("faint", "clear"))
        slower = replace(among, strength=24.0, halves=9.0)
        self.assertEqual((slower.standing, slower.may_be_luck), ("faint", True))
        self.assertIn("unless engine, gears", family_words(slower))
        self.assertNotIn("unless", family_words(alone) + family_words(family("outer_race", 3.0, luck=0.75)))

    def test_what_a_neighbour_carries_convicts_nobody(self) -> None:
        """But a wheel spun by hand that turns no other has all its lines to itself."""
        for situation, vehicle, place, kept in (
            ("road", CAR, "A1L", False), ("stand_spin", CAR, "A1L", False), ("stand_spin", CAR, "A2L", True),
        ):  # fmt: skip
            one = heard(family("outer_race", 9.0), situation=situation, place=place)
            echo = Corner(one, None, overheard=False, echoes=frozenset({"outer_race"}))
            found = said(echo, vehicle=vehicle)["fault_lines", place]
            self.assertEqual(found.outcome, "outer_race" if kept else "nothing")

    def test_loudness(self) -> None:
        """Twice, four and sixteen times the power, a decibel of doubt; four where nobody knows how fast it spun."""
        below = lambda db: 0.5 * (1 + math.erf(db / 2**0.5))  # noqa: E731
        for relative, doubt, more in (
            (0.0, 1.0, {}), (5.0, 1.0, {}), (11.0, 1.0, {}), (5.0, 4.0, {"situation": "stand_spin"}),
            (5.0, 1.0, {"situation": "stand_spin", "turns_per_s": 5.0}),
        ):  # fmt: skip
            edges = [below((edge - relative) / doubt) for edge in (3.0, 6.0, 12.0)]
            shares = [edges[0], edges[1] - edges[0], edges[2] - edges[1], 1 - edges[2]]
            found = said(Corner(heard(**more), relative, overheard=False))["level", "A1L"]
            self.same(found, **dict(zip(("quiet", "raised", "loud", "very_loud"), shares, strict=True)))
        over = said(Corner(heard(), 5.0, overheard=True))["level", "A1L"]
        self.same(over, quiet=below(-2.0), overheard=1 - below(-2.0))
        louder = Corner(heard(name="louder"), 8.0, overheard=False)
        self.assertEqual(said(Corner(heard(), 2.0, overheard=False), louder)["level", "A1L"].source, "louder")

    def test_road_tests(self) -> None:
        """Bayes by hand: how likely each answer makes the difference, its doubt and a reason unforeseen with it."""
        for kind, db, doubt, witness, usual in (
            ("load", 3.0, 1.0, "load_test", {"even": (0.0, 1.5), "left": (-4.0, 2.5), "right": (4.0, 2.5)}),
            ("load", 0.5, 9.0, "load_test", {"even": (0.0, 1.5), "left": (-4.0, 2.5), "right": (4.0, 2.5)}),
            ("coast", -4.9, 1.0, "coast_test", {"stays": (0.0, 3.0), "falls": (-9.0, 4.0)}),
            ("brake", -9.0, 1.0, "brake_test", {"same": (-2.0, 4.0), "changes": (6.0, 4.0)}),
            ("surface", 3.0, 1.2, "surface_test", {"same": (0.0, 1.5), "changes": (6.0, 4.0)}),
        ):
            with self.subTest(kind, db=db):
                likely = {
                    name: NormalDist(at, math.hypot(own, doubt)).pdf(db) + 0.003 for name, (at, own) in usual.items()
                }
                shares = {
                    n: likely[n] * usually for n, usually in zip(outcomes(witness), overall(witness), strict=True)
                }
                found = said(heard(place="cabin", road=(RoadTest(kind, db, doubt, "", ""),)))[witness, ""]
                self.same(found, **{name: share / sum(shares.values()) for name, share in shares.items()})
        doubtful, sure = (RoadTest("load", db, 1.0, "", "") for db in (3.0, -6.0))
        both = said(heard(place="cabin", road=(doubtful,)), heard(place="cabin", road=(sure,), name="surest"))
        self.assertEqual(both["load_test", ""].source, "surest")

    def test_a_road_test_has_no_cliff(self) -> None:
        """A quarter of a decibel more never changes much; what is measured badly says nothing either way."""
        lines = family("outer_race", 9.0)
        swells = lambda db, doubt: said(heard(lines, road=(RoadTest("lines_in_bends", db, doubt, "", ""),)))  # noqa: E731
        here = [swells(db / 4, 1.0)["lines_in_bends", "A1L"].shares["here"] for db in range(33)]
        self.assertTrue(all(0 <= more - less < 0.1 for less, more in pairwise(here)))
        self.assertGreater(here[-1], 0.85)
        self.assertAlmostEqual(swells(40.0, 1.0)["lines_in_bends", "A1L"].shares["here"], here[-1], delta=0.01)
        nothing = swells(1.0, 30.0)["lines_in_bends", "A1L"].shares
        usual = dict(zip(outcomes("lines_in_bends"), overall("lines_in_bends"), strict=True))
        for name, share in nothing.items():
            self.assertAlmostEqual(share, usual[name], delta=0.05)

    def test_clicks(self) -> None:
        """None below two deviations or three decibels, sure from four deviations on."""
        for kind, db, expected in (
            ("clicks_left", 3.0, {"left": 0.5, "none": 0.5}),
            ("clicks_right", 9.0, {"right": 0.97, "none": 0.03}),
            ("clicks_left", 2.9, {"none": 1.0}),
            ("clicks_left", -9.0, {"none": 1.0}),
        ):
            with self.subTest(kind, db=db):
                test = RoadTest(kind, db, 1.0, "", "")
                self.same(said(heard(place="cabin", road=(test,)))["turn_clicks", ""], **expected)


class InBends(unittest.TestCase):
    """What swells when a side carries the load."""

    def of(self, *all_heard: Heard) -> dict[tuple[str, str], str]:
        """Return what is said of bends, by witness and place."""
        kinds = ("lines_in_bends", "hum_in_bends", "load_test")
        return {key: one.outcome for key, one in said(*all_heard).items() if key[0] in kinds}

    def test_lines_are_of_the_hubs_that_they_fit_and_hum_is_of_any(self) -> None:
        """Louder in right-hand bends, which load the left side."""
        lines, hum = (
            RoadTest("lines_in_bends", 6.0, 1.0, "", "", ("A1L", "A1R")),
            RoadTest("hum_in_bends", -6.0, 1.0, "", ""),
        )
        stands = family("outer_race", 9.0, hubs=("A1L", "A1R")), family("whole_orders", 9.0)
        one = heard(*stands, place="cabin", road=(lines, hum))
        right = {("hum_in_bends", hub): "here" if hub.endswith("R") else "away" for hub in ALL}
        front = {("lines_in_bends", "A1L"): "here", ("lines_in_bends", "A1R"): "away"}
        self.assertEqual(self.of(one), front | right)

    def test_what_may_be_luck_says_little(self) -> None:
        """What something else does in bends is nothing to a bearing; but nothing else swells by so much."""

        def here(odds: float, db: float) -> float:
            lines = family("outer_race", odds, hubs=("A1L",))
            other = family("inner_race", 9.0, hubs=("A2L",))  # followed as well, but not in this test
            test = RoadTest("lines_in_bends", db, 1.0, "", "", ("A1L",))
            found = said(heard(lines, other, place="cabin", road=(test,)))
            return found["lines_in_bends", "A1L"].shares["here"]

        usual = (overall("lines_in_bends") / overall("lines_in_bends").sum())[0]
        self.assertAlmostEqual(here(-20.0, 3.0), usual, places=4)
        self.assertGreater(here(20.0, 3.0) - 0.1, here(0.0, 3.0))
        self.assertGreater(here(0.0, 3.0), usual)
        self.assertAlmostEqual(here(0.0, 12.0), here(20.0, 12.0), delta=0.05)

    def test_a_pickup_at_a_hub_hears_its_own_tyre(self) -> None:
        """So it tells nothing of the side; its own bearing's lines do."""
        tests = [RoadTest(kind, 6.0, 1.0, "", "") for kind in ("load", "hum_in_bends", "lines_in_bends")]
        tests[-1] = replace(tests[-1], hubs=("A2R",))
        at_hub = heard(family("outer_race", 9.0, hubs=("A2R",)), place="A2R", road=tuple(tests))
        self.assertEqual(self.of(at_hub), {("lines_in_bends", "A2R"): "away"})

    def test_clicks_are_loudest_at_their_own_hub(self) -> None:
        """Of hubs recorded in bends the one whose knocks rise most; of one alone, or where none clicks, nothing."""
        clicks = lambda place, db: heard(name=place, place=place, road=(RoadTest("clicks_left", db, 1.0, "", ""),))  # noqa: E731
        found = said(clicks("A1L", 12.0), clicks("A1R", 8.0))
        self.assertAlmostEqual(found["clicks_loudest", "A1L"].shares["here"], 0.977, places=3)
        self.assertAlmostEqual(found["clicks_loudest", "A1R"].shares["here"], 0.023, places=3)
        self.assertNotIn(("clicks_loudest", "A1L"), said(clicks("A1L", 12.0)))
        self.assertNotIn(("clicks_loudest", "A1L"), said(clicks("A1L", 1.0), clicks("A1R", 0.0)))

    def test_lines_turn_with_the_wheels_of_their_side(self) -> None:
        """Odds by Bayes, of every hub that the lines fit; what has no side of its own, and a beat, says nothing."""
        lines = family("outer_race", 9.0, hubs=("A1L", "A1R", "A2R"), leftward=-2.0)
        lower, lowest = (family("many", n, hubs=(hub,), leftward=4.0) for n, hub in ((8.0, "A1L"), (2.0, "A2L")))
        hum, beat = family("whole_orders", 9.0, leftward=1.0), family("once_a_turn", 20.0, leftward=3.0)
        found = said(heard(lowest, lower, lines, hum, beat, place="cabin", situation="road"))
        here = {key: one.shares["here"] for key, one in found.items() if key[0] in ("lines_turn", "hum_turns")}
        right, left = 1 / (1 + math.exp(-2.0)), 1 / (1 + math.exp(-1.0))
        expected = {("lines_turn", "A1L"): 1 - right, ("lines_turn", "A1R"): right, ("lines_turn", "A2R"): right}
        expected |= {("hum_turns", hub): left if hub.endswith("L") else 1 - left for hub in ALL}
        self.assertEqual(set(here), set(expected))
        for key, share in expected.items():
            self.assertAlmostEqual(here[key], share, msg=key)
        self.assertNotIn(("lines_turn", "A1L"), said(heard(replace(lines, leftward=0.0), place="cabin")))

    def test_the_whole_noise_speaks_where_its_lines_do_not(self) -> None:
        """One test is not two witnesses; where bends make no difference to the lines, other noise may still swell."""
        load, even = RoadTest("load", 6.0, 1.0, "", ""), RoadTest("hum_in_bends", 0.5, 1.0, "", "")
        swells, hum = replace(even, db=6.0), family("whole_orders", 9.0)
        self.assertEqual(self.of(heard(hum, place="cabin", road=(load, even)))["load_test", ""], "right")
        self.assertNotIn(("load_test", ""), self.of(heard(hum, place="cabin", road=(load, swells))))


class Places(unittest.TestCase):
    """Whose a recording is."""

    def test_from_the_cabin_it_is_of_every_hub_that_the_lines_fit(self) -> None:
        """And what a pickup heard at the hub itself the cabin only hears again."""
        lines = family("outer_race", 9.0, hubs=("A1L", "A1R"))
        cabin = heard(lines, family("inner_race", 2.0, hubs=("A2L",)), place="cabin")
        self.assertEqual(said(cabin)["fault_lines", ""].hubs, {"A1L", "A1R"})
        self.assertEqual(said(heard(family("outer_race", 1.0), place="cabin"))["fault_lines", ""].hubs, ALL)
        self.assertIn(("fault_lines", ""), said(cabin, heard(lines)))
        self.assertNotIn(("fault_lines", ""), said(cabin, heard(lines), heard(lines, place="A1R")))
        self.assertEqual(said(heard(place="cabin")), {})

    def test_of_several_at_one_hub_the_one_that_stands_out_speaks(self) -> None:
        """Not the last, nor one that is not fit to use."""
        found = said(heard(family("outer_race", 9.0), name="clear"), heard(family("outer_race", 3.0), name="faint"))
        self.assertEqual(found["fault_lines", "A1L"].source, "clear")

    def test_an_engine_sings_on_the_road(self) -> None:
        """Heard or not, said once; on stands nobody asks."""
        tone = Tone("geared", 4.1, "")
        road = {"place": "cabin", "situation": "road", "turns_per_s": 8.0}
        self.assertEqual(dict(said(heard(**road))["tones", ""].shares), {"none": 1.0})
        self.assertEqual(dict(said(heard(**road), heard(tones=(tone,), **road))["tones", ""].shares), {"heard": 1.0})
        self.assertNotIn(("tones", ""), said(heard(tones=(tone,), turns_per_s=8.0)))
        self.assertNotIn(("tones", ""), said(heard(place="cabin", situation="road", tones=(tone,))))
