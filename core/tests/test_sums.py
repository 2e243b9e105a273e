"""The setting bench as it is asked: every sum's line, what it lacks, its refusals, its commands."""

import contextlib
import io
import itertools
import json
import math
import unittest
from typing import Any

from hematite.__main__ import main
from hematite.errors import HematiteError
from hematite.fastenings import Fastening, kinds
from hematite.jobs import HubJob, plan
from hematite.policy import defaults
from hematite.setting import drags_first, sequence
from hematite.setting.sequence import SCHOOLS
from hematite.sums import read, sums, work_out
from hematite.sums.answer import LEVELS
from hematite.sums.filled import filled, sums_of
from hematite.tables import table
from hematite.vehicles import Axle, Hub, Vehicle

WINDOW = {"low_mm": 0.025, "high_mm": 0.125}
# One whole question for every sum, and what its line must say; by hand, or as its own module's tests hold it.
ASKED: dict[str, tuple[dict[str, Any], str]] = {
    "nut": ({"thread": "M24×1.5", "angle_deg": 30, **WINDOW}, r"0\.11 to 0\.14 mm end play: perhaps"),
    "slots": (
        {"thread": "M24×1.5", "lock": "castle", "slots": 6, "next_deg": 10, **WINDOW},
        r"Lock it 10° back: 0\.03 to 0\.05 mm, surely",
    ),
    "setting": (
        {"open_mm": [0.08] * 3, "locked_mm": [0.07, 0.08, 0.075], **WINDOW},
        r"0\.0[78] mm locked: in the window",
    ),
    "shims": (
        {"places_mm": [3, 3.01, 2.99], "end_play_mm": 0.05, "both": True, "stock": [1.0, {"mm": 0.1, "count": 1}]},
        r"3\.10 mm: 1\.00 \+ 1\.00 \+ 1\.00 \+ 0\.10 mm",
    ),
    "press": ({"ring": "outer", "bore_mm": 40, "outside_mm": 74, "width_mm": 36}, r"2 t press presses it on; a 15 t"),
    "heat": (
        {"part": "housing_aluminium", "bore_mm": 40, "outside_mm": 80, "width_mm": 18, "interference_mm": 0.03},
        r"Warm it to 53 °C",
    ),
    "torque": ({"torque_nm": 100, "length_mm": 400, "extension_mm": 100, "angle_deg": 0}, r"Set 80\.0 N·m"),
    "wheel_nuts": ({"nuts": 5, "torque_nm": 110}, r"110 N·m all round, in a star"),
    "grease": ({"inner_mm": [35, 72, 18], "outer_mm": [25, 52, 16], "cavity_cm3": 120}, r"\d+ to \d+ g of grease"),
    "life": ({"load_kg": 450, "outward_mm": 30, "span_mm": 60, "radius_mm": 310}, r"0\.\d+ times the life"),
}
ABSURD = (-1e9, 1e12, math.nan, math.inf, "much", [], {"a": 1}, True, None, "")


class Lines(unittest.TestCase):
    """What is answered."""

    def test_every_sum_has_its_line(self) -> None:
        """One line to be read at arm's length, its working behind it, its source beside it."""
        self.assertEqual(set(ASKED), set(sums()))
        for key, (given, line) in ASKED.items():
            answer = work_out(key, given)
            self.assertRegex(answer.line, line, key)
            self.assertLessEqual(len(answer.line), 100, key)
            self.assertTrue(answer.working and answer.level in LEVELS and not answer.missing, key)
            self.assertRegex(sums()[key].source, "memory|practice|mechanics|published|lcm|lever|GUM", key)

    def test_what_it_lacks_is_named_and_never_made_up(self) -> None:
        """Any field left out: a name of what is wanted, or an answer all the same; never a traceback."""
        for key, (given, _) in ASKED.items():
            known = {field.key for field in sums()[key].fields}
            self.assertLessEqual(set(work_out(key, {}).missing), known)
            for left in given:
                answer = work_out(key, {name: value for name, value in given.items() if name != left})
                self.assertTrue(answer.line or answer.missing, (key, left))
                self.assertLessEqual(set(answer.missing), known)

    def test_absurd_figures_are_refused_in_words(self) -> None:
        """Negative, huge, text, a list for a number: refused in words, or left out where nothing is given."""
        for key, (given, _) in ASKED.items():
            for field, odd in itertools.product(sums()[key].fields, ABSURD):
                try:
                    work_out(key, given | {field.key: odd})
                except HematiteError as refusal:
                    self.assertNotRegex(str(refusal), r"Traceback|float|int\(|NoneType|dict", (key, field.key, odd))

    def test_a_gauge_that_reads_330(self) -> None:
        """Asked, and answered by the field that it names."""
        asked = work_out("nut", {"thread": "M24×1.5", "angle_deg": 330, **WINDOW})
        self.assertEqual((asked.level, asked.missing), ("ask", ("turned",)))
        given = {"thread": "M24×1.5", "angle_deg": 330, "turned": "back", **WINDOW}
        self.assertEqual(work_out("nut", given).line, work_out("nut", ASKED["nut"][0]).line)

    def test_the_dial_teaches(self) -> None:
        """What the hub was seen to lose narrows the next range, and the dial says which way to go on."""
        first = {"thread": "M24×1.5", "angle_deg": 60, "preload_nm": 24, **WINDOW}
        learnt = work_out("nut", first | {"seen_mm": 0.21})
        self.assertRegex(learnt.line, r"0\.21 mm by the dial: tighten by 32°, to 28°")
        before = work_out("nut", first).picture
        after = work_out("nut", first, known={"learnt": learnt.keep}).picture
        self.assertLess(after["most_mm"] - after["least_mm"], before["most_mm"] - before["least_mm"])
        self.assertTrue(after["least_mm"] <= 0.21 <= after["most_mm"])
        odd = work_out("nut", first | {"seen_mm": 0.4})
        self.assertIn("dial counts", " ".join(odd.says))
        self.assertEqual(odd.keep, {})

    def test_every_school_ends_locked(self) -> None:
        """Seated first, locked last but one, read locked at the end; a worn set is a witness that the tables know."""
        for school, lock in itertools.product(SCHOOLS, ("castle", "retainer", "plate", "tab", "pinch", "cone")):
            moves = [move.id for move in sequence(school, lock)]
            self.assertEqual((moves[0], moves[-2:]), ("seat", ["lock", "locked"]), (school, lock))
            self.assertEqual("slot" in moves, lock not in ("pinch", "cone"))
            self.assertLessEqual({move.shows for move in sequence(school, lock)} - {""}, set(sums()))
            self.assertLessEqual({move.torque for move in sequence(school, lock)} - {""}, set(kinds()))
        kind, answer = drags_first()
        self.assertIn(answer, table("evidence/hands.toml")[kind]["outcomes"])
        self.assertRaises(HematiteError, sequence, "guess", "castle")

    def test_what_locking_moved(self) -> None:
        """Beyond the nut's own turn to its place: 15° of pitch 1.5 are 0.0625 mm of the 0.08 that the dial grew by."""
        given = {"open_mm": [0.02] * 3, "locked_mm": [0.1] * 3, **WINDOW}
        plain = dict(work_out("setting", given).working)
        turned = given | {"thread": "M24×1.5", "open_deg": 20, "locked_deg": 35}
        self.assertEqual(plain["Locking moved it by"], "+0.080 mm")
        self.assertEqual(dict(work_out("setting", turned).working)["Locking moved it by"], "+0.018 mm")

    def test_a_clamped_nut_is_tightened_on(self) -> None:
        """On a driven hub never back."""
        given = {"thread": "M24×1.5", "lock": "castle", "slots": 6, "clamped": True, "next_deg": 20}
        self.assertEqual(work_out("slots", given).line, "Tighten on by 40° to the next slot")


class Fields(unittest.TestCase):
    """What is asked."""

    def test_the_table(self) -> None:
        """Every field of a kind that can be read, its limits the right way round, its choices in words."""
        for one in sums().values():
            self.assertEqual(len({field.key for field in one.fields}), len(one.fields))
            for field in one.fields:
                self.assertTrue(field.label[0].isupper(), field)
                self.assertEqual(bool(field.options), field.kind in ("choice", "choices"), field)
                if field.kind in ("number", "numbers", "stock"):
                    self.assertLess(field.least, field.most, field)

    def test_read(self) -> None:
        """Nothing given is not there; an unknown field, and another's choice, are refused."""
        self.assertEqual(read("torque", {"torque_nm": "", "angle_deg": 0}), {"angle_deg": 0})
        for key, given in (("torque", {"colour": 1}), ("slots", {"lock": "glue"}), ("luck", {}), ("nut", "x")):
            self.assertRaises(HematiteError, read, key, given)


class Filled(unittest.TestCase):
    """What the vehicle knows is not typed again, and nothing else is made up."""

    def setUp(self) -> None:
        """A front axle of tapers with its book, a driven rear axle of which nobody wrote anything."""
        book = {"nut_set": Fastening("nut_set", thread="M24×1.5", slots=6, holes=2, least_nm=24)}
        named = {"inboard": "32207", "outboard": "30205"}
        self.hub = Hub("A1L", "left", "taper_castle", fastenings=book, designations=named)
        rear = tuple(Hub(f"A2{s[0].upper()}", s, "pressed_double_row") for s in ("left", "right"))
        front = (self.hub, Hub("A1R", "right", "taper_castle"))
        self.vehicle = Vehicle((Axle(front, steered=True), Axle(rear, driven=True)), tyre="205/55 R16")

    def test_from_the_vehicle(self) -> None:
        """Thread, slots, window, light torque, bearings, radius; each sum answers from that alone, or asks."""
        ways = defaults()
        slots = filled("slots", self.hub, self.vehicle, ways)
        self.assertEqual((slots["thread"], slots["slots"], slots["ends"], slots["lock"]), ("M24×1.5", 6, 2, "castle"))
        self.assertEqual((slots["low_mm"], slots["high_mm"], slots["preload_nm"]), (0.025, 0.125, 24))
        self.assertEqual(filled("grease", self.hub, self.vehicle, ways)["inner_mm"], [35, 72, 24.25])
        self.assertAlmostEqual(filled("life", self.hub, self.vehicle, ways)["radius_mm"], 307, delta=2)
        tight = filled("nut", self.hub, self.vehicle, ways | {"slack": "tight"})
        turns = [work_out("nut", given).picture["angle_deg"] for given in (tight, tight | {"where": "loose"})]
        self.assertLess(*turns)
        for key in sums():
            answer = work_out(key, filled(key, self.hub, self.vehicle, ways))
            self.assertTrue(answer.line or answer.missing, key)

    def test_unknown_stays_unknown(self) -> None:
        """A hub of which nobody wrote anything has no thread, no sizes and no torque."""
        bare = self.vehicle.hub("A2L")
        for key, absent in (
            ("nut", "thread"),
            ("press", "bore_mm"),
            ("torque", "torque_nm"),
            ("wheel_nuts", "nuts"),
        ):
            self.assertNotIn(absent, filled(key, bare or self.hub, self.vehicle, {}))

    def test_each_sum_at_its_steps(self) -> None:
        """Setting at the nut, slots at the pin, press where it is pressed, the star at the wheel; every key known."""
        found = {}
        for hub in ("A1L", "A2L"):
            for step in plan(self.vehicle, [HubJob(hub, "replace_bearing", ways=defaults())]).steps:
                found[step.id] = sums_of(step)
        self.assertEqual(found["A1L.nut.set-dial"][:2], ("nut", "slots"))
        self.assertEqual(found["A1L.pin.on"], ("slots",))
        self.assertEqual(found["A2L.sealed_bearing.on"][:2], ("press", "heat"))
        self.assertEqual(found["A1L.wheel_nuts.on"][0], "wheel_nuts")
        self.assertLessEqual({key for keys in found.values() for key in keys}, set(sums()))


class Commands(unittest.TestCase):
    """The same sums on the command line."""

    def run_it(self, *words: str) -> tuple[int, str]:
        """Return the exit code and what was printed."""
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main(words)
        return code, out.getvalue() or err.getvalue()

    def test_every_sum(self) -> None:
        """Each prints the line that the core answers, and JSON."""
        for key, (given, line) in ASKED.items():
            words = [key.replace("_", "-")]
            for name, value in given.items():
                for one in value if isinstance(value, list) else [value]:
                    text = f"{one['mm']}×{one['count']}" if isinstance(one, dict) else str(one)
                    words += [f"--{name.replace('_', '-')}"] + ([] if value is True else [text])
            code, said = self.run_it(*words)
            self.assertEqual(code, 0, said)
            self.assertRegex(said, line)
            self.assertIn("Source:", said)
            self.assertRegex(json.loads(self.run_it(*words, "--json")[1])["line"], line)

    def test_refusals_and_what_is_wanted(self) -> None:
        """Two for what is refused; what is wanted is named as it is typed."""
        self.assertEqual(self.run_it("nut", "--thread", "M24", "--angle-deg", "wide")[0], 2)
        self.assertEqual(self.run_it("shims", "--stock", "0.5xmany")[0], 2)
        self.assertIn("--thread", self.run_it("nut")[1])
