"""Accelerometer logs and universal files: read by whatever names and units they have, refused in words."""

import unittest

import numpy as np
from hematite.errors import BadQuantity, BadRecording
from hematite.listening import Situation, only_band
from hematite.listening.band import spectrum_in_band
from hematite.recordings import Recording, decode, encode_uff
from hematite.recordings.logs import FULL_SCALE_MS2, STANDARD_GRAVITY, read_csv, read_uff
from hematite.vehicles import Axle, Hub, Vehicle

RATE = 8000
TIMES = np.arange(RATE) / RATE
TONE = 12.0 * np.sin(2 * np.pi * 440 * TIMES)  # m/s²


def log(head: str, rows: np.ndarray, *, mark: str = ",", decimal: str = ".") -> bytes:
    """Return a text log."""
    lines = [mark.join(f"{value:.6f}".replace(".", decimal) for value in row) for row in rows]
    return "\n".join([*([head] if head else []), *lines]).encode()


class Csv(unittest.TestCase):
    """One tone, logged in many ways."""

    def test_units_and_columns(self) -> None:
        """m/s², g and mg by the header, g by a resting axis, milliseconds, decimal commas, no header: the same tone."""
        z = TONE / STANDARD_GRAVITY
        logs = {
            "m/s2": log("time (s),az (m/s^2)", np.stack([TIMES, TONE], 1)),
            "g": log("t,acc [g]", np.stack([TIMES, z], 1)),
            "mg": log("t,acc mg", np.stack([TIMES, 1000 * z], 1)),
            "resting": log("t,z", np.stack([TIMES, 1 + z], 1)),
            "ms": log("ms,ax m/s2", np.stack([1000 * TIMES, TONE], 1)),
            "commas": log("t;a m/s2", np.stack([TIMES, TONE], 1), mark=";", decimal=","),
            "tabs": log("t\ta m/s2", np.stack([TIMES, TONE], 1), mark="\t"),
            "bare": log("", np.stack([TIMES, TONE], 1)),
            "later": log("index,a m/s2,seconds", np.stack([np.zeros(RATE), TONE, TIMES], 1)),
        }
        for name, data in logs.items():
            with self.subTest(name):
                samples, rate = read_csv(data)
                self.assertEqual(rate, RATE)
                self.assertAlmostEqual(float(samples.max()) * FULL_SCALE_MS2, 12.0, delta=0.15)

    def test_three_axes_are_one_recording(self) -> None:
        """The axes are averaged, as channels are, and the name of the format does not matter."""
        found = decode(log("t,ax m/s2,ay m/s2,az m/s2", np.stack([TIMES, TONE, TONE, TONE], 1)))
        self.assertEqual((found.channels, found.rate), (3, RATE))
        self.assertAlmostEqual(float(found.samples.max()) * FULL_SCALE_MS2, 12.0, delta=0.1)

    def test_refusals(self) -> None:
        """Each with what is amiss and what to do."""
        gap = np.where(TIMES > 0.5, TIMES + 2, TIMES)
        slow = np.arange(400) / 100
        cases = {
            "hardly any rows": b"t,a\n0,1\n1,2\n",
            "one column": log("a", TONE[:, None]),
            "only rises": log("a,b", np.stack([TONE, -TONE], 1)),
            "gap": log("t,a m/s2", np.stack([gap, TONE], 1)),
            "too slow": log("t s,a m/s2", np.stack([slow, np.sin(slow)], 1)),
        }
        for words, data in cases.items():
            with self.subTest(words), self.assertRaisesRegex(BadRecording, words):
                read_csv(data) if words == "one column" else decode(data)

    def test_text_that_is_no_log(self) -> None:
        """A letter is no recording; nor is a page of a browser."""
        for data in (b"Dear mechanic, it growls.", b"<html><body>Not found</body></html>"):
            with self.assertRaises(BadRecording):
                decode(data)


class Uff(unittest.TestCase):
    """Universal files, dataset 58, through pyuff."""

    def test_round_trip(self) -> None:
        """What is written is read back, less its mean, at the same rate."""
        samples = (TONE / FULL_SCALE_MS2).astype(np.float32)
        back, rate = read_uff(encode_uff(samples, rate=RATE, name="A1L"))
        self.assertEqual(rate, RATE)
        np.testing.assert_allclose(back[:, 0], samples, atol=2e-5)

    def test_damaged(self) -> None:
        """Cut off in the middle of its head, or holding nothing evenly sampled: refused in words."""
        whole = encode_uff((TONE / FULL_SCALE_MS2).astype(np.float32), rate=RATE, name="A1L")
        for data in (whole[:300], b"    -1\n    15\n         1\n    -1\n"):
            with self.subTest(len(data)), self.assertRaisesRegex(BadRecording, "universal file"):
                read_uff(data)


class OneBand(unittest.TestCase):
    """A band heard alone and seen per turn."""

    def setUp(self) -> None:
        """Make two tones, one of them swelling five times a turn at eight turns a second."""
        times = np.arange(RATE * 6) / RATE
        swell = 1 + 0.8 * np.cos(2 * np.pi * 5 * 8 * times)
        dice = np.random.default_rng(1)
        both = 0.01 * np.sin(2 * np.pi * 300 * times) + 0.02 * swell * np.sin(2 * np.pi * 2000 * times)
        self.sound = Recording((both + 0.001 * dice.standard_normal(len(times))).astype(np.float32), RATE)
        self.vehicle = Vehicle((Axle((Hub("A1L", "left", "hub_unit"),)),))
        self.made = Situation("r", "A1L", speed={"kind": "wheel", "turns_per_s": 8.0})

    def test_alone(self) -> None:
        """Only the band is left, at the common loudness."""
        alone = only_band(self.sound, low_hz=1500, high_hz=2500).samples
        power = np.square(np.abs(np.fft.rfft(alone)))
        freqs = np.arange(len(power)) * RATE / len(alone)
        self.assertGreater(power[(freqs > 1490) & (freqs < 2510)].sum() / power.sum(), 0.999)
        self.assertAlmostEqual(float(np.sqrt(np.mean(alone**2))), 0.1, delta=0.005)

    def test_per_turn(self) -> None:
        """The swell stands at five a turn in its band; with no speed there is no plot."""
        plot = spectrum_in_band(self.sound, self.made, vehicle=self.vehicle, low_hz=1500, high_hz=2500)
        self.assertAlmostEqual(plot["orders"][int(np.argmax(plot["db"]))], 5.0, delta=0.1)
        blind = Situation("r", "A1L")
        none = spectrum_in_band(self.sound, blind, vehicle=self.vehicle, low_hz=1500, high_hz=2500)
        self.assertEqual(none, {"orders": [], "db": []})

    def test_bands_that_are_none(self) -> None:
        """Upside down, too narrow, beyond the recording: refused."""
        for low, high in ((2500, 1500), (1000, 1010), (5000, 9000), (1, 500)):
            with self.subTest(low=low, high=high), self.assertRaises(BadQuantity):
                only_band(self.sound, low_hz=low, high_hz=high)
