"""Before and after: what is proven by ear and by hand, as it must be; common practice, no source."""

import unittest
from dataclasses import replace

from hematite.evidence import Observation
from hematite.evidence.observations import as_it_stands, before_any_job
from hematite.families import Family
from hematite.listening import Heard, Situation
from hematite.proof import check_words, checks, choose_before, closing, prove_sound
from hematite.recordings import Finding

from tests.test_network import CAR, TANDEM, say


class Phases(unittest.TestCase):
    """Before and after a job."""

    def test_after_never_unmakes_before(self) -> None:
        """The diagnosis rests on what was before; the vehicle as it stands on what is after at the mended hub."""
        old, new = say("rock_12_6", "hub", "A1L"), replace(say("rock_12_6", "nothing", "A1L"), job="j1")
        mate = say("spin", "rumbles", "A1R")
        self.assertEqual(before_any_job([old, new, mate]), [old, mate])
        self.assertEqual(as_it_stands([old, new, mate], {"A1L": "j1"}), [new, mate])

    def test_what_convicted_comes_first(self) -> None:
        """Of several the heaviest; a thermometer's word is the hand's. Nothing weighed leaves the table's order."""
        hub = next(TANDEM.hubs())
        found = [say("spin", "rumbles", "A1L"), say("heat", "warm", "A1L")]
        keys = lambda *weighed: [c.key for c in checks(hub, TANDEM, found, [], weighed=weighed)]  # noqa: E731
        self.assertEqual(keys("heat_over_mate", "spin")[:2], ["warm", "spins"])
        self.assertEqual(keys("fault_lines", "spin")[0], "spins")
        self.assertEqual(keys(), keys("fault_lines"))
        marked = [c.key for c in checks(hub, TANDEM, found, [], weighed=["spin", "heat"]) if c.convicting]
        self.assertEqual(marked, ["spins"])

    def test_closing_words(self) -> None:
        """What was proven, what speaks against it, what was not done."""
        hub = next(TANDEM.hubs())
        before = [say("spin", "rumbles", "A1L")]
        after = [
            Observation("check", "A1L", {"check": k, "answer": a}) for k, a in (("spins", "good"), ("leak", "bad"))
        ]
        made = checks(hub, TANDEM, before, after)
        self.assertEqual(next(c.before for c in made if c.key == "spins"), ("rumbles",))
        self.assertFalse({"brake", "lamp", "axle_nut"} & {c.key for c in made}, "a trailer has none of these")
        said = closing(made, sound="", open_steps=["Lock the nut"])
        self.assertEqual((said.proven, said.against), (("Spins free and even",), ("No leak",)))
        self.assertIn("Lock the nut", said.open)
        self.assertIn("Heard again", said.open)
        self.assertFalse(said.complete)
        self.assertTrue(said.words.startswith("Proven: spins free and even. Against it: no leak. Not done: play, "))
        for sound, where in (("better", "proven"), ("same", "against"), ("alone", "open"), ("cannot_tell", "open")):
            self.assertIn("Heard again", getattr(closing(made, sound=sound), where))
        wheel_nuts, spins = (next(one for one in made if one.key == key) for key in ("wheel_nuts", "spins"))
        good = [replace(one, answer="good") for one in (wheel_nuts, spins)]
        self.assertEqual([closing([one], sound="").mended for one in good], [False, True])  # nuts prove no bearing
        self.assertFalse(closing(good, sound="same").mended)
        self.assertTrue(closing([], sound="better").complete)
        self.assertFalse(closing([], sound="same").complete)
        self.assertEqual(closing([], sound="better").words, "Proven: heard again.")
        answer = {"check": "leak", "answer": "bad", "note": "at the lip"}
        self.assertEqual(check_words(answer), "After the job: no leak: grease or oil comes out (at the lip)")
        self.assertEqual(check_words({"check": "leak", "answer": "not_done"}), "After the job: no leak: not done")

    def test_checks_go_by_design_and_vehicle(self) -> None:
        """An axle nut where an axle drives; a button where there is one; of the complaint what the driver said."""
        keys = lambda hub, of: {c.key for c in checks(hub, of, [], [])}  # noqa: E731
        front, rear = next(CAR.hubs()), list(CAR.hubs())[2]
        self.assertIn("axle_nut", keys(front, CAR))
        self.assertNotIn("axle_nut", keys(rear, CAR))
        self.assertIn("brake", keys(rear, CAR))
        self.assertIn("button", keys(next(TANDEM.hubs()), TANDEM))
        before = [say("complaint", "growl"), say("spin", "rumbles", "A1R")]
        made = {c.key: c for c in checks(front, CAR, before, [])}
        self.assertEqual(made["first_drive"].before, ("growl, hum, howl, whine or roar",))
        self.assertEqual(made["spins"].before, ())
        self.assertEqual([c.key for c in made.values() if c.later], ["first_drive", "warm", "nuts_again"])


def heard(*families: tuple[str, float], turns: float | None = 8.0, level: float = -30.0, **made: object) -> Heard:
    """Return a recording heard, with families by kind and strength."""
    rows = tuple(Family(kind, 3.0, 3.0, 9.0, strength, (("1×", 3.0, 9.0),)) for kind, strength in families)
    situation = Situation("r", **({"place": "A1L", "gain_group": "g"} | made))
    return Heard(situation, 8.0, (), level, (level,) * 4, turns_per_s=turns, families=rows)


class ProofProves(unittest.TestCase):
    """Like with like; what is new, or louder, is never better."""

    def outcome(self, before: Heard | None, after: Heard) -> str:
        """Return the outcome."""
        return prove_sound(before, after).outcome

    def test_table(self) -> None:
        """Before, after, the word."""
        convicted = heard(("outer_race", 9.0))
        cases = [
            (convicted, heard(("outer_race", 1.0)), "better"),
            (convicted, heard(), "better"),
            (convicted, heard(("outer_race", 1.0), ("inner_race", 9.0)), "same"),
            (convicted, heard(("outer_race", 1.0), level=-22.5), "same"),
            (heard(("loose", 0.0), level=-20.0), heard(level=-28.0, turns=5.0), "cannot_compare"),
            (convicted, heard(("outer_race", 1.0), turns=5.0), "cannot_compare"),
            (convicted, heard(("outer_race", 1.0), situation="road"), "cannot_compare"),
            (convicted, heard(("outer_race", 1.0), place="A1R"), "cannot_compare"),
            (heard(("outer_race", 9.0), ("whole_orders", 8.0)), heard(("whole_orders", 8.0)), "better"),
            (convicted, heard(turns=None), "cannot_compare"),
            (None, heard(), "alone"),
            (None, heard(("outer_race", 9.0)), "same"),
            (heard(gain_group=""), heard(gain_group=""), "cannot_tell"),
            # a final drive sings before and after, or only after: no job at a hub changes that
            (heard(("outer_race", 9.0), ("gears", 9.0)), heard(("gears", 9.0)), "better"),
            (convicted, heard(("gears", 9.0)), "better"),
            (None, heard(("gears", 9.0)), "alone"),
            # a worn ring sings on, though how fast it turned is not known
            (heard(turns=None), heard(("many", 9.0), turns=None), "same"),
        ]
        for before, after, outcome in cases:
            with self.subTest(outcome, before=before and before.families, after=after.families):
                self.assertEqual(self.outcome(before, after), outcome)

    def test_limits(self) -> None:
        """Half or twice the power counts from three decibels on; speeds compare within fifteen per cent, either way."""
        quiet = heard()
        for db, outcome in ((-3.0, "better"), (-2.9, "cannot_tell"), (2.9, "cannot_tell"), (3.0, "same")):
            self.assertEqual(self.outcome(quiet, heard(level=-30.0 + db)), outcome, db)
        convicted = heard(("outer_race", 9.0))
        for turns, outcome in ((9.1, "better"), (9.3, "cannot_compare"), (7.0, "better"), (6.9, "cannot_compare")):
            self.assertEqual(self.outcome(convicted, heard(turns=turns)), outcome, turns)
        for strength, words in ((3.0, "faint line"), (9.0, "A fault line stands now")):
            self.assertIn(words, prove_sound(quiet, heard(("cage", strength))).words)
        self.assertEqual(self.outcome(quiet, heard(("outer_race", 2.2))), "cannot_tell")
        self.assertIn("8 dB quieter", prove_sound(quiet, heard(level=-38.0)).words)

    def test_what_keeps_two_from_being_compared_is_said(self) -> None:
        """Place, way, pickup, speed: each by its name."""
        for after, words in (
            (heard(place="A1R"), "A1R after"), (heard(situation="stand_spin"), "spun by hand after"),
            (heard(sensor="air"), "through the air after"), (heard(turns=5.0), "8.0 against 5.0 turns"),
        ):  # fmt: skip
            self.assertIn(words, prove_sound(heard(), after).words)

    def test_the_latest_before_that_is_alike_is_held_against(self) -> None:
        """Not the latest of all, which was made otherwise; nor one that is not fit to use."""
        driven, spun = heard(("outer_race", 9.0)), heard(situation="stand_spin")
        unfit = replace(heard(), quality=(Finding("short", "stop", 1.0, "", ""),))
        self.assertIs(choose_before([driven, spun, unfit], heard()), driven)
        self.assertIs(choose_before([driven, spun, unfit], heard(situation="stand_spin")), spun)
        self.assertIs(choose_before([driven, spun], heard(situation="road")), spun)
        self.assertIs(choose_before([driven, spun], None), spun)
        self.assertIs(choose_before([unfit], heard()), unfit)
        self.assertIsNone(choose_before([], heard()))

    def test_what_was_cut_off_proves_nothing(self) -> None:
        """A faint line is lost in a recording that was too loud for its pickup; one from before still convicts."""
        loud = (Finding("clipped", "warn", 0.02, "", ""),)
        convicted = heard(("outer_race", 9.0))
        self.assertEqual(self.outcome(convicted, replace(heard(), quality=loud)), "cannot_tell")
        self.assertEqual(self.outcome(replace(convicted, quality=loud), heard()), "better")
        self.assertIsNone(prove_sound(replace(convicted, quality=loud), heard()).level_change_db)

    def test_a_level_without_a_common_gain_is_none(self) -> None:
        """And alone, without a speed, a recording proves little."""
        self.assertIsNone(prove_sound(heard(gain_group="a"), heard(gain_group="b")).level_change_db)
        self.assertEqual(prove_sound(heard(), heard(level=-31.5)).level_change_db, -1.5)
        self.assertEqual(self.outcome(None, heard(turns=None)), "cannot_tell")

    def test_the_convicting_line_stands_first_even_when_gone(self) -> None:
        """And is marked as such."""
        lines = prove_sound(heard(("outer_race", 9.0), ("tread", 8.0)), heard(("tread", 8.5))).lines
        self.assertEqual(
            [(one.kind, one.convicting, one.went) for one in lines],
            [("outer_race", True, True), ("tread", False, False)],
        )

    def test_a_run_down_without_speed_is_compared_by_whether_a_ring_s_lines_stand(self) -> None:
        """What repeated repeats no more."""
        before = heard(("outer_race", 9.0), turns=None, situation="stand_spin")
        after = heard(turns=None, situation="stand_spin")
        self.assertEqual(self.outcome(before, after), "better")
        self.assertEqual(self.outcome(before, before), "same")
        self.assertEqual(self.outcome(before, replace(after, level_db=-27.0)), "cannot_compare")
        self.assertEqual(self.outcome(before, replace(after, level_db=-27.1)), "better")
        self.assertEqual(self.outcome(after, after), "cannot_compare")
