"""The bench against general-purpose reference libraries on the same signals: scipy, an order-tracking library."""

import unittest

import numpy as np
import rota
from hematite.envelopes import POINTS_PER_TURN, Sound, per_turn
from hematite.spectra import THIRD_OCTAVES_HZ, Band
from hematite.speed import WheelTurns
from scipy import signal

RATE = 8000


class OrderTracking(unittest.TestCase):
    """Resampling per turn against rota (rota-order 0.3, computed order tracking; test dependency)."""

    def setUp(self) -> None:
        """Make a run-up from 5 to 9 turns a second with two swells of known size and a tone that does not follow."""
        self.times = np.arange(RATE * 12) / RATE
        rates = 5 + 4 * self.times / 12
        self.turns = np.cumsum(rates) / RATE - rates[0] / RATE
        self.values = (
            np.cos(2 * np.pi * 3.58 * self.turns) + 0.25 * np.cos(2 * np.pi * 17.2 * self.turns)
            + 0.5 * np.sin(2 * np.pi * 50 * self.times)
        )  # fmt: skip
        self.rpm = rates * 60

    def spectrum(self, samples: np.ndarray, per_turn_points: int) -> tuple[np.ndarray, np.ndarray]:
        """Return orders and amplitudes of a signal sampled per turn."""
        window = signal.windows.flattop(len(samples))
        amplitude = 2 * np.abs(np.fft.rfft(samples * window)) / window.sum()
        return np.arange(len(amplitude)) * per_turn_points / len(samples), amplitude

    def test_same_lines_at_the_same_height(self) -> None:
        """Both give the two orders their true amplitudes within 3 %, and agree with each other within 3 %."""
        course = WheelTurns(self.times, self.turns, 0.0)
        ours = self.spectrum(per_turn(self.values.astype(np.float32), rate=RATE, turns=course), POINTS_PER_TURN)
        theirs_samples = rota.angle.angular_resample(self.values, RATE, self.rpm, samples_per_rev=POINTS_PER_TURN)
        theirs = self.spectrum(np.asarray(theirs_samples.x), POINTS_PER_TURN)
        for order, true in ((3.58, 1.0), (17.2, 0.25)):
            heights = [spectrum[np.abs(orders - order) < 0.15].max() for orders, spectrum in (ours, theirs)]
            with self.subTest(order):
                self.assertAlmostEqual(heights[0] / true, 1.0, delta=0.03)
                self.assertAlmostEqual(heights[0] / heights[1], 1.0, delta=0.03)


class Envelopes(unittest.TestCase):
    """The band's envelope and the third octaves against scipy."""

    def test_envelope(self) -> None:
        """The same rise and fall as scipy.signal.envelope gives of a band-passed sound: correlation above 0.99."""
        dice = np.random.default_rng(3)
        times = np.arange(RATE * 4) / RATE
        knocks = np.zeros(len(times))
        knocks[:: RATE // 37] = 1.0
        ringing = signal.lfilter([1], [1, -1.6, 0.9], knocks) + 0.05 * dice.standard_normal(len(times))
        envelope, rate = Sound.of(ringing.astype(np.float32), rate=RATE).envelope(Band(600.0, 1200.0, 0.0))
        theirs = signal.envelope(ringing, bp_in=((600 * 4), (1200 * 4)), residual=None)
        at = np.arange(len(envelope)) / rate
        inner = slice(50, -50)
        same = np.corrcoef(envelope[inner], np.interp(at, times, np.atleast_2d(theirs)[0])[inner])[0, 1]
        self.assertGreater(same, 0.99)

    def test_third_octaves(self) -> None:
        """A tone stands in its own third, hiss rises 1 dB a third: as Welch's spectrum of scipy sums it."""
        dice = np.random.default_rng(6)
        rate = 44_100
        hiss = 0.1 * dice.standard_normal(rate * 8)
        freqs, density = signal.welch(hiss, rate, nperseg=rate)
        levels = Sound.of(hiss.astype(np.float32), rate=rate).third_octaves_db()
        for centre, level in zip(THIRD_OCTAVES_HZ, levels, strict=True):
            inside = (freqs >= centre * 10**-0.05) & (freqs < centre * 10**0.05)
            if centre >= 200:
                self.assertAlmostEqual(level, float(10 * np.log10(density[inside].sum())), delta=0.4)
        tone = 0.5 * np.sin(2 * np.pi * 1000 * np.arange(rate * 2) / rate)
        levels = Sound.of(tone.astype(np.float32), rate=rate).third_octaves_db()
        self.assertAlmostEqual(levels[THIRD_OCTAVES_HZ.index(1000.0)], -9.03, delta=0.02)  # 0.5/√2 of full scale
