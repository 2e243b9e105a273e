"""Doors: each kind of input is taken, or refused in words, one bad part never taking the rest along."""

import io
import json
import unittest
import zipfile
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from hematite import doors
from hematite.bearings import Row
from hematite.bundles import assess_case, read_bundle, read_case, vehicle_from_json
from hematite.errors import BadBundle, BadGeometry, BadRecording, BadSpeed, HematiteError
from hematite.listening import Situation, listen
from hematite.policy import read_policy
from hematite.recordings import Recording
from hematite.recordings.logs import read_csv
from hematite.setting import shim_pack
from hematite.speed import wheel_turns
from hematite.tyres import read_code

from tests.test_network import CAR


class Doors(unittest.TestCase):
    """Every bad input is refused in words, or left out and named; nothing is killed, nothing is a traceback."""

    axles = [
        {
            "hubs": [
                {"id": "A1L", "side": "left", "design": "hub_unit"},
                {"id": "A1R", "side": "right", "design": "hub_unit"},
            ]
        }
    ]

    def bundle(self, **more: object) -> dict:
        """Return a case of one axle."""
        return {"format": "hematite-case", "version": 1, "vehicle": {"axles": self.axles}} | more

    def test_speeds(self) -> None:
        """A million turns a second, a wheel of a micrometre, marks beside the recording."""
        for speed in (
            {"kind": "wheel", "turns_per_s": 1e6},
            {"kind": "wheel", "turns_per_s": 1e300},
            {"kind": "wheel", "turns_per_s": float("nan")},
            {"kind": "road", "kmh": 1e5},
            {"kind": "marks", "times_s": [20, 21, 22, 23]},
            {"kind": "profile", "points": [[50, 60], [60, 60]]},
            {"kind": "profile", "points": [[0]]},
            {"kind": "counted", "turns": 10**401},
        ):
            with self.subTest(str(speed)[:60]), self.assertRaises(HematiteError):
                wheel_turns(speed, duration_s=10.0, circumference_m=2.0)
        with self.assertRaises(HematiteError):
            wheel_turns({"kind": "road", "kmh": 80}, duration_s=10.0, circumference_m=1e-6)

    def test_vehicles(self) -> None:
        """Axles without end, odd names, limits the wrong way round, figures that are none."""
        hub = self.axles[0]["hubs"][0]
        for data in (
            {"axles": self.axles * 40},
            *({"axles": [{"hubs": [hub | {"id": name}]}]} for name in ("../../a", "cabin", 'A"L\r\nX', "", "A" * 9)),
            {"axles": [{"hubs": [hub | {"play_min_mm": 0.3, "play_max_mm": 0.1}]}]},
            {"axles": self.axles, "age_years": 10**401},
            {"axles": self.axles, "distance_km": float("inf")},
            {"axles": self.axles, "rolling_circumference_m": 1e-6},
            {"axles": self.axles, "duty": ["water"] * 3000},
            {"axles": self.axles, "duty": ["moon"]},
        ):
            with self.subTest(str(data)[-80:]), self.assertRaises(HematiteError):
                vehicle_from_json(data)

    def test_one_bad_recording_or_observation_stops_no_case(self) -> None:
        """Each is left out and named: a place that is none, marks that overlap, a sound that is none."""
        made = [
            {"id": "r1", "file": "audio/1.wav", "place": "A1l"},
            {
                "id": "r2",
                "file": "audio/2.wav",
                "place": "A1L",
                "segments": [{"start_s": 5, "end_s": 2, "state": "left"}],
            },
            {"id": "r3", "file": "audio/3.wav", "place": "A1L"},
        ]
        seen = [{"kind": "end_play", "hub": "A1L", "readings_mm": [0.1, 0.1, 0.1], "resolution_mm": 25},
                {"kind": "spin", "hub": "A1L", "answer": "rumbles"}]  # fmt: skip
        case = read_case(self.bundle(recordings=made, observations=seen), lambda name: b"no sound")
        found, left_out = assess_case(case)
        self.assertEqual(len(left_out), 4)
        for words, name in zip(left_out, ("r1", "r2", "end_play", "r3"), strict=True):
            self.assertIn(name, words)
        self.assertGreater(found.at("A1L").belief.bearing, found.at("A1R").belief.bearing)

    def test_an_unreadable_tyre_hinders_no_other_speed(self) -> None:
        """With wheel turns given the tyre's size is not asked for."""
        of = vehicle_from_json({"axles": self.axles, "tyre": "as on the sidewall"})
        sound = Recording(0.1 * np.random.default_rng(1).standard_normal(40_000).astype(np.float32), 8000)
        listen(sound, Situation("r", "A1L", speed={"kind": "wheel", "turns_per_s": 8.0}), vehicle=of)
        with self.assertRaises(HematiteError):
            listen(sound, Situation("r", "A1L", speed={"kind": "road", "kmh": 80.0}), vehicle=of)

    def test_json(self) -> None:
        """NaN, nesting without end, no JSON at all."""
        for text in ('{"a": NaN}', "[" * 200_000, "{", "\udcff"):
            with self.subTest(text[:20]), self.assertRaises(BadBundle):
                doors.read_json(text, "case.json")

    def test_damaged_archives(self) -> None:
        """A bit turned in the stream, a directory cut off."""
        buffer = io.BytesIO()
        with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as bundle:
            bundle.writestr("case.json", json.dumps(self.bundle(note="x" * 4000)))
        whole = buffer.getvalue()
        with TemporaryDirectory() as folder:
            for n, data in enumerate(
                (whole[:60] + bytes(40) + whole[100:], whole[:-30], whole[:30] + b"\xff" * 8 + whole[38:])
            ):
                path = Path(folder) / f"{n}.zip"
                path.write_bytes(data)
                with self.subTest(n), self.assertRaises(BadBundle):
                    read_bundle(path)

    def test_policies(self) -> None:
        """Lists where names belong."""
        for data in (
            {"schools": ["unit"]},
            {"limits": []} | {"limits": ["x"]},
            {"prices": [1]},
            {"limits": {"hub_unit": [1]}},
            {"schools": {"sides": ["one"]}},
        ):
            with self.subTest(data), self.assertRaises(HematiteError):
                read_policy(data)

    def test_short_and_slow_sounds(self) -> None:
        """One sample, and the slowest rates that are allowed: heard or refused, never a traceback."""
        for samples, rate in ((1, 48_000), (7, 8000), (12_000, 4000), (16_380, 4095), (23_000, 4600)):
            sound = 0.1 * np.random.default_rng(2).standard_normal(samples).astype(np.float32)
            made = Situation("r", "A1L", speed={"kind": "wheel", "turns_per_s": 6.0})
            listen(Recording(sound, rate), made, vehicle=CAR)

    def test_bearings_that_cannot_be(self) -> None:
        """Ten balls touch at d/D = sin 18°; an eleventh does not fit."""
        Row.from_mm(elements=10, element_diameter_mm=100 * np.sin(np.pi / 10), pitch_diameter_mm=100)
        with self.assertRaises(BadGeometry):
            Row.from_mm(elements=10, element_diameter_mm=100 * np.sin(np.pi / 10) + 0.01, pitch_diameter_mm=100)


class Tyres(unittest.TestCase):
    """Old cross-ply, light-truck, trailer and cycle sizes; diameters from memory of standards manuals, within 3 %."""

    def test_diameters(self) -> None:
        """In millimetres."""
        for code, mm in (
            ("6.00-16", 728),
            ("4.80-8", 420),
            ("5.00-10", 518),
            ("7.50R16", 805),
            ("26x1.75", 648),
            ("700x38C", 698),
        ):
            with self.subTest(code):
                self.assertAlmostEqual(read_code(code).diameter * 1000, mm, delta=0.03 * mm)

    def test_a_slip_of_the_finger_is_refused(self) -> None:
        """205/55 R160 is no R16."""
        for code in ("205/55R160", "26x1.75x3", "700x380C", ""):
            with self.subTest(code), self.assertRaises(HematiteError):
                read_code(code)


class Logs(unittest.TestCase):
    """Accelerometer tables as loggers write them."""

    def table(self, header: str, *columns: np.ndarray, units: str = "", ends: str = "\n") -> bytes:
        """Return a CSV of a time column and others."""
        rows = [header, units] if units else [header]
        rows += [",".join(f"{value:.6g}" for value in row) for row in np.column_stack(columns)]
        return ends.join(row for row in rows if row).encode()

    def setUp(self) -> None:
        """Make two seconds of vibration in m/s²."""
        self.time = np.arange(2000) / 1000
        self.shake = np.random.default_rng(4).standard_normal(2000)

    def power(self, data: bytes) -> float:
        """Return the spread of what was read, in m/s²."""
        samples, rate = read_csv(data)
        self.assertEqual((samples.shape[1], rate), (1, 1000))
        return float(samples.std() * 200.0)

    def test_other_columns_are_no_acceleration(self) -> None:
        """A running number, a temperature: read as if they were not there."""
        plain = self.power(self.table("time,a", self.time, self.shake))
        index = self.table("index,time,a", np.arange(2000), self.time, self.shake)
        warm = self.table("time,a,temperature", self.time, self.shake, 20 + self.time)
        bare = self.table("", self.time, np.arange(2000), self.shake)
        for data in (index, warm, bare):
            self.assertAlmostEqual(self.power(data), plain, delta=0.01)

    def test_units_by_header_or_by_a_row_below(self) -> None:
        """(G), g in a row of units, mg."""
        for header, units, factor in (("time,a (G)", "", 1), ("time,a", "s,g", 1), ("time,a_mg", "", 1000)):
            data = self.table(header, self.time, self.shake * factor / 9.80665, units=units)
            self.assertAlmostEqual(self.power(data), float(self.shake.std()), delta=0.02, msg=header)

    def test_three_axes_in_g_without_a_unit(self) -> None:
        """Only the upright one rests at 1 g; all three are in g."""
        axes = [self.shake / 9.80665 + rest for rest in (0.0, 0.02, 1.0)]
        samples, _ = read_csv(self.table("time,x,y,z", self.time, *axes))
        self.assertTrue(np.allclose(samples.std(axis=0) * 200, self.shake.std(), atol=0.02))

    def test_odd_files(self) -> None:
        """Old line ends, stamps in nanoseconds, a field without end; columns that leave it open are asked about."""
        self.power(self.table("time,a", self.time, self.shake, ends="\r"))
        self.power(self.table("time,a", np.round(self.time * 1e9), self.shake).replace(b"e+", b"e+"))
        with self.assertRaises(BadRecording):
            read_csv(b"time,a\n" + b"1," + b'"' + b"x" * 200_000 + b"\n" * 200)
        with self.assertRaisesRegex(BadRecording, "header"):
            read_csv(self.table("", self.time, self.shake, np.sin(self.time) * 30 + 0.5 * self.time))


class Shims(unittest.TestCase):
    """A pack from thirteen thicknesses."""

    def test_thin_ones_are_not_forgotten(self) -> None:
        """3.05 mm from a stock with 0.05 and 0.10 among many thick ones."""
        stock = [2.0, 1.9, 1.8, 1.7, 1.6, 1.5, 1.4, 1.3, 1.2, 1.1, 1.0, 0.10, 0.05]
        self.assertEqual(shim_pack(total_mm=3.05, stock_mm=stock)[0].shims_mm, (2.0, 1.0, 0.05))


class Refusals(unittest.TestCase):
    """Their words."""

    def test_speed_words(self) -> None:
        """They say what to do next."""
        with self.assertRaisesRegex(BadSpeed, "outside the recording"):
            wheel_turns({"kind": "marks", "times_s": [50, 51, 52]}, duration_s=8.0, circumference_m=None)
