"""Case bundles, the command line, the simulator, and proof: the whole core from file to decision."""

import io
import json
import subprocess
import sys
import tempfile
import unittest
import zipfile
from contextlib import redirect_stdout
from pathlib import Path

import numpy as np
from hematite.__main__ import main
from hematite.bearings import Row
from hematite.bundles import assess_case, read_bundle, read_case, read_parcel, vehicle_to_json, write_bundle
from hematite.errors import BadBundle, BadRecording, HematiteError
from hematite.evidence import Observation
from hematite.listening import Situation, listen
from hematite.proof import prove_sound
from hematite.recordings import encode_flac, encode_wav
from hematite.simulator import CONDITIONS, simulate, simulate_corners
from hematite.vehicles import Axle, Hub, Vehicle

ROW = Row.from_mm(elements=13, element_diameter_mm=12.7, pitch_diameter_mm=62.0, contact_angle_deg=36.0, name="one")
HUBS = [Hub(f"A{n}{s[0].upper()}", s, "hub_unit", (ROW,), "inner") for n in (1, 2) for s in ("left", "right")]
VAN = Vehicle((Axle(tuple(HUBS[:2]), True, True), Axle(tuple(HUBS[2:]))), "Bookmobile", "215/65 R16")
CORE = Path(__file__).resolve().parents[1]


def bundle(condition: str = "inner_race", culprit: str = "A2R", encode=encode_flac) -> bytes:
    """Return a bundle of four corners of which one hides a condition."""
    hidden = {hub.id: (hub, condition if hub.id == culprit else "sound") for hub in HUBS}
    sounds = simulate_corners(hidden, turns_per_s=8.0, duration_s=7.0, seed=11)
    speed = {"kind": "road", "kmh": 8.0 * 3.6 * (VAN.circumference or 0) * 1.01}
    situations = [Situation(f"r-{name}", name, gain_group="stand", speed=speed) for name in sounds]
    suffix = "flac" if encode is encode_flac else "wav"
    files = {f"r-{name}": (f"{name}.{suffix}", encode(sound)) for name, sound in sounds.items()}
    observation = Observation("end_play", culprit, {"readings_mm": [0.02, 0.01, 0.02]})
    return write_bundle(VAN, situations, files, [observation])


class Bundles(unittest.TestCase):
    """Written, read back, judged."""

    @classmethod
    def setUpClass(cls) -> None:
        """Make one bundle for all."""
        cls.folder = tempfile.TemporaryDirectory()
        cls.zip = Path(cls.folder.name) / "case.zip"
        cls.zip.write_bytes(bundle())

    @classmethod
    def tearDownClass(cls) -> None:
        """Clear up."""
        cls.folder.cleanup()

    def test_round_trip(self) -> None:
        """What is written is read back: vehicle, situations, observations and sound; as a zip and as a folder."""
        unpacked = Path(self.folder.name) / "unpacked"
        zipfile.ZipFile(self.zip).extractall(unpacked)
        for path in (self.zip, unpacked):
            case = read_bundle(path)
            self.assertEqual([hub.id for hub in case.vehicle.hubs()], [hub.id for hub in HUBS])
            self.assertAlmostEqual(case.vehicle.circumference, VAN.circumference)
            self.assertEqual(case.observations[0].value["readings_mm"], [0.02, 0.01, 0.02])
            row = next(case.vehicle.hubs()).rows[0]
            self.assertAlmostEqual(row.contact_angle, ROW.contact_angle, places=6)
            self.assertEqual(case.sounds["r-A1L"]().rate, 48_000)

    def test_judged(self) -> None:
        """The right corner and mechanism, the others left alone."""
        assessment, _ = assess_case(read_bundle(self.zip))
        self.assertEqual(
            [(c.hub, c.cause, c.mechanism) for c in assessment.culprits], [("A2R", "bearing", "inner_race")]
        )

    def test_command_line(self) -> None:
        """`assess` prints the keys that the format promises; `orders` the published example; refusals exit with 2."""
        run = [sys.executable, "-m", "hematite"]
        printed = subprocess.run([*run, "assess", str(self.zip), "--json"], capture_output=True, cwd=CORE, check=True)
        result = json.loads(printed.stdout)
        self.assertLessEqual({"culprits", "hubs", "elsewhere", "decision", "next_test"}, set(result))
        culprit = result["culprits"][0]
        self.assertEqual((culprit["hub"], culprit["side"], culprit["mechanism"]), ("A2R", "right", "inner_race"))
        words = "orders --elements 9 --element-diameter 7.94 --pitch-diameter 39.04 --angle 0 --rotating inner --json"
        orders = json.loads(subprocess.run([*run, *words.split()], capture_output=True, cwd=CORE, check=True).stdout)
        self.assertAlmostEqual(orders["bpfo"], 3.5848, places=3)
        refused = subprocess.run([*run, "assess", "nowhere.zip"], capture_output=True, cwd=CORE, check=False)
        self.assertEqual(refused.returncode, 2)
        self.assertIn(b"no bundle", refused.stderr)
        self.assertNotIn(b"Traceback", refused.stderr)

    def test_fields_may_be_added_and_geometry_left_out(self) -> None:
        """Unknown fields and later kinds of observation are no fault; of partial bearings the count is kept."""
        hub = {
            "id": "A1L",
            "side": "left",
            "design": "hub_unit",
            "bearings": [{"row": "one", "elements": 13}],
            "colour": "red",
        }
        data = {
            "format": "hematite-case", "version": 1, "mood": "good",
            "vehicle": {"axles": [{"hubs": [hub]}]},
            "observations": [{"kind": "smell", "hub": "A1L"}, {"kind": "spin", "hub": "A1L", "answer": "free"}],
        }  # fmt: skip
        case = read_case(data, lambda name: b"")
        self.assertEqual(len(case.observations), 1)
        self.assertEqual(len(case.left_out), 1)
        self.assertIn("smell", case.left_out[0])
        self.assertEqual([(hub.rows, hub.counts) for hub in case.vehicle.hubs()], [((), (13,))])
        self.assertEqual(assess_case(case)[0].culprits, ())

    def test_refusals(self) -> None:
        """Every broken bundle is refused in words that name the place."""
        good = json.loads(zipfile.ZipFile(self.zip).read("case.json"))

        def changed(path: str, value: object) -> dict:
            data = json.loads(json.dumps(good))
            *way, last = path.split(".")
            target = data
            for part in way:
                target = target[int(part) if part.isdigit() else part]
            target[last] = value
            return data

        cases = [
            ([], "another kind of file"),
            (changed("format", "other"), "another kind of file"),
            (changed("version", 2), "version 2"),
            (changed("vehicle.axles", []), "axles"),
            (changed("vehicle.axles.0.hubs.0.side", "up"), "side"),
            (changed("vehicle.axles.0.hubs.0.design", "cube"), "hub design"),
            (changed("vehicle.axles.0.hubs.0.id", "A1R"), "share one id"),
            (changed("recordings.0.id", "r-A1R"), "share one id"),
            (changed("recordings.0.speed", {"kind": "guess"}), "speed"),
        ]
        for data, words in cases:
            with self.subTest(words), self.assertRaisesRegex(HematiteError, words):
                read_case(data, lambda name: b"")
        escaping = read_case(changed("recordings.0.file", "../../etc/passwd"), lambda name: b"")
        with self.assertRaises(BadRecording):
            escaping.sounds["r-A1L"]()

    def test_zip_that_points_outside_or_is_damaged(self) -> None:
        """A bundle never reads beyond itself."""
        folder = Path(self.folder.name) / "escaping"
        zipfile.ZipFile(self.zip).extractall(folder)
        data = json.loads((folder / "case.json").read_text())
        data["recordings"][0]["file"] = "../unpacked/case.json"
        (folder / "case.json").write_text(json.dumps(data))
        with self.assertRaisesRegex(BadBundle, "outside itself"):
            read_bundle(folder).sounds["r-A1L"]()
        (folder / "case.json").write_text("{half")
        with self.assertRaisesRegex(BadBundle, "damaged"):
            read_bundle(folder)

    def test_spoken_words(self) -> None:
        """Without --json the command line speaks to a person."""
        stdout, sys.stdout = sys.stdout, io.StringIO()
        try:
            self.assertEqual(main(["assess", str(self.zip)]), 0)
            self.assertIn("A2R: bearing", sys.stdout.getvalue())
        finally:
            sys.stdout = stdout


class Simulator(unittest.TestCase):
    """The stand-in for the pickup."""

    def test_seeded(self) -> None:
        """The same seed gives the same sound, another seed another; nothing leaves full scale."""
        for condition in CONDITIONS:
            one, again, other = (
                simulate(HUBS[0], condition=condition, turns_per_s=8, duration_s=2, seed=seed).samples
                for seed in (1, 1, 2)
            )
            np.testing.assert_array_equal(one, again)
            self.assertFalse(np.array_equal(one, other))
            self.assertLessEqual(np.abs(one).max(), 1.0)

    def test_knocks_grow_with_speed(self) -> None:
        """Twice the speed, four times the knock (forces go with the square of speed): up to 12 dB louder."""
        slow, fast = (
            np.std(simulate(HUBS[0], condition="outer_race", turns_per_s=t, duration_s=4, seed=1).samples)
            for t in (5, 10)
        )
        self.assertTrue(6 < 20 * np.log10(fast / slow) < 18)

    def test_coast_comes_to_rest(self) -> None:
        """A coasting wheel ends quiet."""
        sound = simulate(HUBS[0], condition="outer_race", turns_per_s=8, duration_s=6, seed=1, coast=True).samples
        self.assertLess(np.std(sound[-24_000:]), 0.2 * np.std(sound[:24_000]))

    def test_refusals(self) -> None:
        """Unknown conditions and impossible speeds."""
        for changes in ({"condition": "haunted"}, {"turns_per_s": 0}, {"duration_s": -1}):
            options = {"condition": "sound", "turns_per_s": 8, "duration_s": 2, "seed": 1} | changes
            with self.subTest(changes), self.assertRaises(HematiteError):
                simulate(HUBS[0], **options)


class Proof(unittest.TestCase):
    """Before against after."""

    def heard(self, condition: str, seed: int, seconds: float = 7.0, gain_group: str = "stand"):
        """Hear a condition at one hub."""
        sound = simulate(HUBS[0], condition=condition, turns_per_s=8.0, duration_s=seconds, seed=seed)
        made = Situation(f"r{seed}", "A1L", gain_group=gain_group, speed={"kind": "wheel", "turns_per_s": 8.0})
        return listen(sound, made, vehicle=VAN)

    def test_repaired(self) -> None:
        """The lines that stood are gone, and it is quieter."""
        proof = prove_sound(self.heard("outer_race", 1), self.heard("sound", 2))
        self.assertEqual(proof.outcome, "better")
        self.assertLess(proof.level_change_db, -2)
        self.assertTrue(any(line.kind == "outer_race" and line.went for line in proof.lines))

    def test_not_repaired(self) -> None:
        """The same noise afterwards proves nothing."""
        self.assertEqual(prove_sound(self.heard("outer_race", 1), self.heard("outer_race", 2)).outcome, "same")

    def test_cannot_tell(self) -> None:
        """Different gains and no lines, or a useless recording: said so."""
        self.assertEqual(
            prove_sound(self.heard("sound", 1), self.heard("sound", 2, gain_group="other")).outcome, "cannot_tell"
        )
        self.assertEqual(
            prove_sound(self.heard("sound", 1), self.heard("sound", 2, seconds=1.0)).outcome, "cannot_tell"
        )


class WavBundle(unittest.TestCase):
    """The other sound format."""

    def test_wav(self) -> None:
        """A bundle with WAV files is judged alike."""
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "case.zip"
            path.write_bytes(bundle("outer_race", "A1L", encode_wav))
            self.assertEqual([c.hub for c in assess_case(read_bundle(path))[0].culprits], ["A1L"])


class VehicleBundles(unittest.TestCase):
    """A vehicle with its cases in one bundle."""

    def setUp(self) -> None:
        """Write one with two cases of the same sounds."""
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        cases = ["cases/first", "cases/second"]
        for case in cases:
            zipfile.ZipFile(io.BytesIO(bundle())).extractall(self.folder / case)
        self.data = {"format": "hematite-vehicle", "version": 1, "vehicle": vehicle_to_json(VAN), "cases": cases}
        self.data["kept"] = {"readings": [{"id": "1"}]}

    def write(self, **changed: object) -> Path:
        """Write what it says of itself, with something changed."""
        (self.folder / "vehicle.json").write_text(json.dumps(self.data | changed))
        return self.folder

    def test_every_case_with_its_sounds(self) -> None:
        """As a folder and as a zip; and the bundle of one case is a parcel of one."""
        packed = self.folder / "packed.zip"
        self.write()
        with zipfile.ZipFile(packed, "w") as archive:
            for path in (*self.folder.glob("*.json"), *self.folder.glob("cases/**/*")):
                archive.write(path, path.relative_to(self.folder))
        for path in (self.folder, packed):
            parcel = read_parcel(path)
            self.assertEqual(list(parcel.cases), self.data["cases"])
            self.assertEqual(parcel.cases["cases/second"].sounds["r-A2R"]().rate, 48_000)
            found = parcel.contents()
            self.assertEqual((found["kept"], found["cases"][0]["recordings"]), ({"readings": 1}, 4))
        (one,) = read_parcel(self.folder / "cases" / "first").cases
        self.assertEqual(one, "")
        with redirect_stdout(io.StringIO()) as said:
            self.assertEqual(main(["bundle", str(packed)]), 0)
        self.assertIn("4 recordings, 1 observations", said.getvalue())

    def test_refused_in_words(self) -> None:
        """Another version or format, a folder outside, one case twice, another vehicle's case, no list, nothing."""
        for changed, words in (
            ({"version": 2}, "version 2"),
            ({"format": "hematite-case"}, "another kind of file"),
            ({"cases": ["../elsewhere"]}, "no folder of a case"),
            ({"cases": [7]}, "no folder of a case"),
            ({"cases": ["cases/first", "cases/first"]}, "one case twice"),
            ({"cases": ["cases/third"]}, "lacks cases/third/case.json"),
            ({"cases": "all"}, "The cases"),
            ({"kept": ["x"]}, "must be named fields"),
            ({"cases": [], "vehicle": None}, "vehicle"),
            ({"cases": [], "vehicle": {"axles": [{}]}}, "hubs"),
        ):
            with self.subTest(changed=changed), self.assertRaisesRegex(HematiteError, words):
                read_parcel(self.write(**changed))
        other = json.loads((self.folder / "cases/second/case.json").read_text())
        other["vehicle"]["axles"].pop()
        other["recordings"] = other["observations"] = []
        (self.folder / "cases/second/case.json").write_text(json.dumps(other))
        with self.assertRaisesRegex(BadBundle, "another vehicle"):
            read_parcel(self.write())

    def test_one_that_unpacks_to_too_much(self) -> None:
        """By its count of members, before any is read."""
        path = self.folder / "many.zip"
        with zipfile.ZipFile(path, "w") as archive:
            archive.writestr("case.json", "{}")
            for n in range(20_001):
                archive.writestr(f"audio/{n}", b"")
        with self.assertRaisesRegex(BadBundle, "more than any vehicle"):
            read_parcel(path)
