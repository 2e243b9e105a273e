"""Decoding and quality."""

import contextlib
import io
import tempfile
import unittest
from pathlib import Path

import numpy as np
import soundfile
from hematite.errors import BadRecording
from hematite.recordings import Recording, assess_quality, decode, encode_flac, encode_wav, measure, usable
from hematite.recordings.decoding import PIECE
from hypothesis import given, settings
from hypothesis import strategies as st

RATE = 48_000
DICE = np.random.default_rng(5)


def hiss(seconds: float = 6.0, level: float = 0.05) -> np.ndarray:
    """Return steady hiss."""
    return (level * DICE.standard_normal(int(seconds * RATE))).astype(np.float32)


def found(samples: np.ndarray, rate: int = RATE) -> set[str]:
    """Return the ids of what the quality report finds."""
    return {finding.id for finding in assess_quality(Recording(samples.astype(np.float32), rate))}


class Decoding(unittest.TestCase):
    """Any usual rate, depth and channel count to mono floats."""

    def test_measured_without_being_held(self) -> None:
        """A file's rate and length are those of what is decoded, and what decoding refuses measuring refuses alike."""
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "a"
            for kind in ("WAV", "FLAC", "OGG"):
                soundfile.write(file, hiss(2.5), RATE, format=kind)
                whole = decode(file)
                self.assertEqual(measure(file)[0], whole.rate)
                self.assertAlmostEqual(measure(file)[1], whole.duration, places=3)
            file.write_text("time_s,a\n" + "\n".join(f"{n / 5000},{n % 7}" for n in range(6000)))
            self.assertAlmostEqual(measure(file)[1], decode(file).duration)
            broken = io.BytesIO()
            soundfile.write(broken, np.array([0.1, np.nan] * 900, np.float32), RATE, format="WAV", subtype="FLOAT")
            for data in (b"", b"no sound", encode_wav(Recording(hiss(), RATE))[:30], broken.getvalue()):
                file.write_bytes(data)
                with self.assertRaises(BadRecording) as measured:
                    measure(file)
                with self.assertRaises(BadRecording) as decoded:
                    decode(file if data else data)
                self.assertEqual(str(measured.exception), str(decoded.exception))

    def test_formats(self) -> None:
        """Every usual format gives the same sound back, to its own resolution."""
        steps = {"PCM_16": 2**-15, "PCM_24": 2**-23, "PCM_U8": 2**-6, "PCM_32": 2**-23, "FLOAT": 1e-7}
        tone = (0.5 * np.sin(np.arange(9000) / 7)).astype(np.float32)
        for container, subtypes in (("WAV", steps), ("FLAC", ("PCM_16", "PCM_24"))):
            for subtype in subtypes:
                for rate, channels in ((8000, 1), (44_100, 2), (96_000, 4)):
                    with self.subTest(container=container, subtype=subtype, rate=rate):
                        buffer = io.BytesIO()
                        data = np.repeat(tone[:, None], channels, axis=1)
                        soundfile.write(buffer, data, rate, format=container, subtype=subtype)
                        back = decode(buffer.getvalue())
                        self.assertEqual((back.rate, back.channels), (rate, channels))
                        np.testing.assert_allclose(back.samples, tone, atol=2 * steps[subtype])

    def test_channels_that_cancel(self) -> None:
        """A pickup wired in opposite phase on two channels is not averaged away."""
        tone = 0.5 * np.sin(np.arange(PIECE + 9000) / 7)  # more than is read at once
        buffer = io.BytesIO()
        soundfile.write(buffer, np.stack([0.9 * tone, -tone], axis=1), RATE, format="WAV", subtype="FLOAT")
        np.testing.assert_allclose(decode(buffer.getvalue()).samples, -tone, atol=1e-6)

    def test_round_trip(self) -> None:
        """FLAC and WAV give the samples back to 24 and 16 bits."""
        sound = Recording(hiss(1), RATE)
        np.testing.assert_allclose(decode(encode_flac(sound)).samples, sound.samples, atol=2**-22)
        np.testing.assert_allclose(decode(encode_wav(sound)).samples, sound.samples, atol=2**-14)

    def test_refusals(self) -> None:
        """Empty, foreign, headless, soundless, too slow, too long, not finite: each in words."""
        silent, slow, endless, broken, loud = (io.BytesIO() for _ in range(5))
        soundfile.write(silent, np.zeros(0), RATE, format="WAV")
        soundfile.write(slow, np.zeros(5000), 1000, format="WAV")
        soundfile.write(endless, np.zeros(4000 * 16 * 60, dtype=np.int16), 4000, format="WAV")
        soundfile.write(broken, np.full(9000, np.nan), RATE, format="WAV", subtype="FLOAT")
        soundfile.write(loud, np.full(9000, 1e30), RATE, format="WAV", subtype="FLOAT")
        whole = encode_wav(Recording(hiss(1), RATE))
        cases = {
            "empty": (b"", "is empty"),
            "text": (b"hello" * 100, "no sound file"),
            "header only": (whole[:20], "no sound"),
            "no samples": (silent.getvalue(), "no sound at all"),
            "slow": (slow.getvalue(), "too slow"),
            "endless": (endless.getvalue(), "minutes long"),
            "broken": (broken.getvalue(), "values that are no sound"),
            "beyond any unit": (loud.getvalue(), "values that are no sound"),
        }
        for name, (data, words) in cases.items():
            with self.subTest(name), self.assertRaisesRegex(BadRecording, words):
                decode(data)

    @settings(max_examples=60, deadline=None)
    @given(st.binary(max_size=400), st.integers(0, 60))
    def test_damaged_files(self, junk: bytes, cut: int) -> None:
        """Damaged bytes are decoded or refused; nothing else happens."""
        whole = encode_flac(Recording(hiss(0.2), RATE))
        for data in (junk, whole[: cut * 40] + junk, junk + whole):
            with contextlib.suppress(BadRecording):
                self.assertTrue(np.isfinite(decode(data).samples).all())


class Quality(unittest.TestCase):
    """A good recording has no findings; each fault is found by its own name."""

    def test_good(self) -> None:
        """Steady hiss, a tone, and a wheel that slows down are good recordings."""
        self.assertEqual(found(hiss()), set())
        self.assertEqual(found(hiss() + 0.3 * np.sin(np.arange(6 * RATE) / 9)), set())
        times = np.arange(8 * RATE) / RATE
        slowing = np.sin(2 * np.pi * (900 * times - 50 * times**2)) * np.linspace(0.5, 0.05, len(times))
        self.assertEqual(found(slowing + hiss(8, 0.002)), set())

    def test_faults(self) -> None:
        """Each fault by its name."""
        gap = hiss()
        gap[RATE : RATE + 4800] = gap[RATE]
        stray = hiss()
        stray[[RATE, 3 * RATE]] = 0.9
        swing = hiss(10) * 10 ** (
            np.interp(np.arange(10 * RATE), np.linspace(0, 10 * RATE, 21), [0, -14] * 10 + [0]) / 20
        )
        wind = np.cumsum(DICE.standard_normal(6 * RATE))
        wind = 0.4 * (wind - wind.mean()) / np.abs(wind).max()
        cases = {
            "too_short": hiss(1),
            "short": hiss(3),
            "silent": hiss(6, 1e-5),
            "clipped": np.clip(hiss(6, 0.8), -1, 1),
            "overdriven": np.clip(hiss(6, 3.0), -1, 1),
            "offset": hiss() + 0.2,
            "mains_hum": hiss() + 0.08 * np.sin(2 * np.pi * 50 * np.arange(6 * RATE) / RATE),
            "stray_knocks": stray,
            "dropouts": gap,
            "level_moves": swing,
            "windy": wind,
        }
        for name, samples in cases.items():
            with self.subTest(name):
                self.assertIn(name, found(samples))

    def test_on_the_road_everything_moves(self) -> None:
        """Speed and surface move the level of everything: on the road that is no hand and no gain."""
        levels = np.interp(np.arange(10 * RATE), np.linspace(0, 10 * RATE, 21), [0, -14] * 10 + [0])
        sound = Recording((hiss(10) * 10 ** (levels / 20)).astype(np.float32), RATE)
        self.assertEqual({one.id for one in assess_quality(sound)}, {"level_moves"})
        self.assertEqual(assess_quality(sound, road=True), ())

    def test_what_a_codec_or_a_telephone_keeps(self) -> None:
        """The codecs of libsndfile leave nothing above an edge, a telephone nothing above 4 kHz; both are said."""
        for container, subtype in (("OGG", "VORBIS"), ("MP3", "MPEG_LAYER_III")):
            with self.subTest(subtype):
                coded = io.BytesIO()
                soundfile.write(coded, hiss(), RATE, format=container, subtype=subtype)
                (cut,) = assess_quality(decode(coded.getvalue()))
                self.assertEqual(cut.id, "cut_off")
                self.assertTrue(15.0 < cut.value < 22.0)
        self.assertEqual(found(hiss(), 8000), {"narrow"})
        self.assertEqual(found(hiss(), 16_000), set())

    def test_flat_topped_below_full_scale(self) -> None:
        """A pickup that clips before the converter is caught as well."""
        self.assertIn("clipped", found(np.clip(hiss(6, 0.8), -0.6, 0.6)))

    def test_stop_or_warn(self) -> None:
        """Silence forbids judging; a short recording only asks for care."""
        self.assertFalse(usable(assess_quality(Recording(np.zeros(RATE * 6, np.float32), RATE))))
        self.assertTrue(usable(assess_quality(Recording(hiss(3), RATE))))
        self.assertTrue(usable(assess_quality(Recording(np.clip(hiss(6, 0.9), -1, 1), RATE))))
        self.assertFalse(usable(assess_quality(Recording(np.clip(hiss(6, 3.0), -1, 1), RATE))))
