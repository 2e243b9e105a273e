"""The corners set fairly against each other, and the tables of the bench free of gaps and contradictions."""

import unittest
from dataclasses import replace

from bench.recorded import BEARING, LEVELS, OTHER
from hematite.evidence.sounds import LINES
from hematite.evidence.witnesses import witnesses
from hematite.families import Family, in_nats
from hematite.listening import Heard, Situation, compare, heard_from_json, heard_to_json
from hematite.listening.heard import Drag, Tone
from hematite.listening.road import RoadTest
from hematite.recordings import Finding
from hematite.simulator.sources import ROAD_CONDITIONS
from hematite.spectra import THIRD_OCTAVES_HZ
from hematite.speed.stated import KINDS
from hematite.tables import table


def corner(place: str, level_db: float, *, turns: float | None = 8.0, order: float = 0.0, power: float = -40.0,
           **made: str) -> Heard:  # fmt: skip
    """Return a recording heard at a place, with one family at an order when that is not zero."""
    family = Family("outer_race", order, order, 12.0, 9.0, (("1×", order, 12.0),), power_db=power)
    return Heard(
        situation=Situation(place, place, **({"gain_group": "g"} | made)),
        duration_s=8.0,
        quality=(),
        level_db=level_db,
        band_levels_db=(level_db,) * 4,
        third_octaves_db=(level_db - 10,) * len(THIRD_OCTAVES_HZ),
        turns_per_s=turns,
        families=(family,) if order else (),
    )


class Fairness(unittest.TestCase):
    """What may be compared, and what is not (common practice, no source)."""

    def relative(self, *heard: Heard) -> list[float | None]:
        """Return levels over the quietest, in order."""
        return [None if c.relative_db is None else round(c.relative_db, 1) for c in compare(heard)]

    def test_alike(self) -> None:
        """Same pickup, gain, situation and about the same speed: over the quietest, third by third as well."""
        heard = (corner("A1L", -30), corner("A1R", -36), corner("A2L", -35, turns=8.9))
        self.assertEqual(self.relative(*heard), [6.0, 0.0, 1.0])
        self.assertEqual({round(db, 1) for db in compare(heard)[0].thirds_db}, {6.0})

    def test_not_alike(self) -> None:
        """Another gain, pickup or situation, or a wheel that turned half as fast again: no relative level."""
        for other in (
            corner("A1R", -36, gain_group="h"),
            corner("A1R", -36, gain_group=""),
            corner("A1R", -36, sensor="air"),
            corner("A1R", -36, situation="road"),
            corner("A1R", -36, turns=12.0),
        ):
            with self.subTest(other.situation):
                self.assertEqual(self.relative(corner("A1L", -30), other), [None, None])

    def test_what_was_cut_off_has_no_loudness(self) -> None:
        """A pickup driven too hard keeps everything at its own ceiling; the others compare as before."""
        clipped = replace(corner("A1L", -30), quality=(Finding("clipped", "warn", 0.01, "", ""),))
        self.assertEqual(self.relative(clipped, corner("A1R", -36), corner("A2L", -35)), [None, 0.0, 1.0])

    def test_unknown_speed_is_taken_on_trust(self) -> None:
        """Two wheels spun by hand, whose speeds were not found, may be compared."""
        self.assertEqual(self.relative(corner("A1L", -30, turns=None), corner("A1R", -36, turns=None)), [6.0, 0.0])

    def test_leaks(self) -> None:
        """The same lines with more power next door are an echo; so are they at double or half the order; others not."""
        loud = corner("A1L", -30, order=5.2, power=-30)
        for order, echoed in ((5.2, True), (5.28, True), (10.4, True), (2.6, True), (7.8, False), (4.7, False)):
            with self.subTest(order):
                faint = compare([loud, corner("A1R", -36, order=order, power=-45)])[1]
                self.assertEqual(bool(faint.echoes), echoed)
        near = compare([loud, corner("A1R", -36, order=5.2, power=-32)])[1]
        self.assertFalse(near.echoes)  # two dB less is as loud: two bad hubs

    def test_echoes_confirm_their_source(self) -> None:
        """Lines that stand fainter at three other corners are four looks at one noise; an echo gains nothing."""
        source = corner("A1L", -30, order=5.2, power=-30)
        echoes = [corner(place, -36, order=5.2, power=-45) for place in ("A1R", "A2L", "A2R")]
        found = compare([source, *echoes])
        self.assertAlmostEqual(found[0].heard.families[0].strength, 9.0 * 2)
        self.assertEqual([c.heard.families[0].strength for c in found[1:]], [9.0] * 3)
        faint = replace(source, families=(replace(source.families[0], strength=1.5),))
        heard = compare([faint, *echoes])
        self.assertTrue(all(c.echoes for c in heard[1:]))
        self.assertGreater(heard[0].heard.families[0].strength, 9.0)

    def test_a_wheel_spun_by_hand_turns_its_mate_at_most(self) -> None:
        """Through the differential; nothing leaks in from another axle, nor where its own lines are nearly as loud."""
        loud = corner("A1L", -30, order=5.2, power=-30, situation="stand_spin")
        for place, power, echoed in (("A1R", -45, True), ("A1R", -35, False), ("A2R", -45, False)):
            with self.subTest(place, power=power):
                other = compare([loud, corner(place, -36, order=5.2, power=power, situation="stand_spin")])[1]
                self.assertEqual(bool(other.echoes), echoed)
                self.assertFalse(other.overheard)

    def test_levels_that_do_not_compare(self) -> None:
        """Then lines are heard where they stand half as much better; a wheel spun by hand is asked alone."""
        for strength, situation, echoed in ((6.1, "road", False), (5.9, "road", True), (2.0, "stand_spin", False)):
            loud = corner("A1L", -30, order=5.2, gain_group="", situation=situation)
            other = corner("A1R", -30, order=5.2, gain_group="", situation=situation)
            other = replace(other, families=(replace(other.families[0], strength=strength),))
            with self.subTest(strength):
                self.assertEqual(bool(compare([loud, other])[1].echoes), echoed)

    def test_who_leads(self) -> None:
        """Four times the power of any other corner; beside a bearing that nobody knows nobody does."""
        loud = corner("A1L", -30, order=5.2, power=-30)
        for power, leads in ((-36.1, True), (-35.9, False)):
            self.assertEqual(bool(compare([loud, corner("A1R", -36, order=5.2, power=power)])[0].leads), leads)
        blind = corner("A1R", -36, order=6.9, power=-60)
        self.assertTrue(compare([loud, blind])[0].leads)
        blind = replace(blind, families=(replace(blind.families[0], blind=True),))
        self.assertFalse(compare([loud, blind])[0].leads)

    def test_an_engines_tone_leads_nowhere(self) -> None:
        """A song that another recording names as a tone geared to the wheel is the engine's, however loud here."""

        def singing(place: str, power: float) -> Heard:
            one = corner(place, -30, order=4.5, power=power)
            return replace(one, families=(replace(one.families[0], kind="many"),))

        loud, quiet = singing("A1L", -20), singing("A1R", -40)
        for at, leads in ((4.45, False), (9.0, False), (5.2, True)):
            mate = replace(quiet, tones=(Tone("geared", at, "an engine"),))
            self.assertEqual("many" in compare([loud, mate])[0].leads, leads, at)

    def test_who_leads_where_gains_differ(self) -> None:
        """Then by the depth in each one's own sound: a recording kept 20 dB louder shifts nothing."""
        loud = corner("A1L", -30, order=5.2, power=-30, gain_group="")
        for power, leads in ((-16.1, True), (-15.9, False)):
            other = corner("A1R", -10, order=5.2, power=power, gain_group="")
            self.assertEqual(bool(compare([loud, other])[0].leads), leads)

    def test_by_how_much_strokes_lead(self) -> None:
        """Strokes lead in depth, and at one gain in power too; nobody leads alone, on the road, or from the cabin."""

        def stroking(place: str, level_db: float, power: float, **made: str) -> Heard:
            one = corner(place, level_db, order=1.0, power=power, **({"situation": "stand_spin"} | made))
            return replace(one, families=(replace(one.families[0], kind="once_a_turn"),))

        own = stroking("A1L", -30, -25)
        for mates, lead in (
            ([stroking("A1R", -36, -40), stroking("A2R", -30, -35)], 9.0),
            ([stroking("A1R", -40, -30)], -5.0),  # as deep or deeper there
            ([stroking("A1R", -24, -30)], 5.0),  # much deeper here, but only a little louder
            ([stroking("A1R", -24, -30, gain_group="")], 11.0),
            ([stroking("A1R", -30, -40, situation="road"), stroking("cabin", -30, -40)], None),
        ):
            self.assertEqual(compare([own, *mates])[0].stroke_lead_db, lead)
        on_the_road = [stroking(place, -30, power, situation="road") for place, power in (("A1L", -25), ("A1R", -45))]
        self.assertIsNone(compare(on_the_road)[0].stroke_lead_db)

    def test_kept_whole(self) -> None:
        """Drag, road tests and thirds survive being kept as JSON."""
        tests = (RoadTest("load", 4.0, 0.5, "growl", "4 dB louder in right-hand bends."),)
        whole = replace(corner("A1L", -30, order=5.2), drag=Drag(5.0, 4.2, 80.0), road=tests, speed_words="found")
        self.assertEqual(heard_from_json(heard_to_json(whole)), whole)

    def test_kept_by_an_earlier_version(self) -> None:
        """Strengths were robust deviations once: six were clear, 1 in 1320; what is no more known is left out."""
        kept = heard_to_json(corner("A1L", -30, order=5.2)) | {"settled_by": "wheel", "rhythm_hz": 28.0}
        del kept["strengths"]
        kept["families"] = [kept["families"][0] | {"strength": 6.0, "hump_db": None}]
        self.assertAlmostEqual(heard_from_json(kept).families[0].strength, in_nats(6.0))


class Tables(unittest.TestCase):
    """Captures, kinds, witnesses and trials name only what exists."""

    def test_captures(self) -> None:
        """Each has words, a caution, a place, known kinds of speed, and marks whose keys clash with none."""
        rows = dict(table("listening/captures.toml"))
        states, surfaces = rows.pop("states"), rows.pop("surfaces")
        self.assertEqual(set(states), {"straight", "left", "right", "coast", "brake"})  # as docs/formats.md has them
        self.assertEqual(set(surfaces), {"smooth", "rough"})
        keys = [mark["key"] for mark in (*states.values(), *surfaces.values())]
        self.assertEqual(len(set(keys)), len(keys))
        self.assertFalse(any(key.isdigit() for key in keys))
        for key, row in rows.items():
            if "situation" not in row:
                continue
            with self.subTest(key):
                self.assertIn(row["place"], ("hub", "cabin"))
                self.assertLessEqual(set(row["speed"]), set(KINDS))
                self.assertLessEqual(set(row["marks"]), set(states))
                self.assertTrue(row["say"] and row["caution"] and row["seconds"] >= 5)
                self.assertEqual(bool(row["marks"]), row["situation"] == "road")

    def test_kinds_are_what_the_witness_can_say(self) -> None:
        """Every family that is named in words makes answers that its witness has."""
        said = {kind: (key, answers) for key, kinds in LINES.items() for kind, answers in kinds.items()}
        said["gears"] = ("gear_song", tuple(witnesses()["gear_song"]["outcomes"][1:]))
        self.assertEqual(set(table("families/kinds.toml")), set(said))
        for key, answers in said.values():
            self.assertLessEqual(set(answers), set(witnesses()[key]["outcomes"][1:]))

    def test_mirrored_outcomes_are_even_for_the_innocent(self) -> None:
        """A sound car is as likely to seem louder one way as the other."""
        for key, row in witnesses().items():
            for name in row.get("mirrored", ()):
                at = [row["chances"]["base"][row["outcomes"].index(name)] for name in row["mirrored"]]
                with self.subTest(key, name=name):
                    self.assertEqual(len(set(at)), 1)

    def test_trials_hide_what_the_simulator_can_play(self) -> None:
        """And the hard level is harder in every respect."""
        self.assertLessEqual(set(BEARING) | set(OTHER) - {"engine"}, set(ROAD_CONDITIONS))
        for name, (low, high) in LEVELS["medium"].items():
            harder = LEVELS["hard"][name]
            with self.subTest(name):
                if name == "severity":
                    self.assertLess(harder[1], high)
                else:
                    self.assertGreaterEqual(harder[0], low)
                    self.assertGreaterEqual(harder[1], high)
