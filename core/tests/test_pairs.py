"""Pairs for the ear: one difference, alike in loudness, and nothing else to tell them by."""

import unittest

import numpy as np
import pyloudnorm
from hematite.errors import HematiteError
from hematite.training.pairs import (
    HEADPHONES,
    LOUDNESS_LUFS,
    by_chance,
    named,
    pairs,
    sound_of,
    through_headphones,
    trial,
)


class Pairs(unittest.TestCase):
    """Every pair that there is."""

    def test_one_difference_alike_in_loudness(self) -> None:
        """A, B and X have one loudness but for what would be cut off, one length, and X is no copy of either."""
        for key in pairs():
            sounds = {which: sound_of(key, which, number=2, seed=4) for which in ("a", "b", "x")}
            self.assertEqual({len(samples) for samples, _ in sounds.values()}, {len(sounds["a"][0])})
            for samples, rate in sounds.values():
                peak = float(np.abs(samples).max())
                self.assertLessEqual(peak, 0.96)
                loudness = pyloudnorm.Meter(rate).integrated_loudness(samples.astype(float))
                if peak < 0.94:  # else it was held back, so that nothing is cut off
                    self.assertAlmostEqual(loudness, LOUDNESS_LUFS, delta=0.1, msg=key)
            for which in ("a", "b"):
                self.assertFalse(np.array_equal(sounds[which][0], sounds["x"][0]))
            self.assertEqual({named(key, "a", seed=4), named(key, "b", seed=4)}, {pairs()[key].one, pairs()[key].other})

    def test_a_tone_is_as_loud_as_the_standard_says(self) -> None:
        """ITU-R BS.1770: a 997 Hz sine of 0 dBFS in one channel is −3.01 LUFS [published]."""
        times = np.arange(48_000 * 4) / 48_000
        tone = np.sin(2 * np.pi * 997 * times)
        self.assertAlmostEqual(pyloudnorm.Meter(48_000).integrated_loudness(tone), -3.01, delta=0.05)

    def test_sides_and_x_are_drawn(self) -> None:
        """Over many seeds X is either as often, and so are the sides: neither place nor habit tells."""
        right = [trial("rings", seed=seed).right for seed in range(400)]
        first = [named("rings", "a", seed=seed) for seed in range(400)]
        for found, one in ((right, "a"), (first, "outer_race")):
            self.assertGreater(by_chance(found.count(one), 400), 0.01)
            self.assertGreater(by_chance(400 - found.count(one), 400), 0.01)

    def test_headphones(self) -> None:
        """Of three tones one is 6 dB quieter in both ears, and one of the others vanishes in the air between them."""
        for seed in range(6):
            known = trial(HEADPHONES, seed=seed)
            tones = {which: sound_of(HEADPHONES, which, number=1, seed=seed)[0] for which in known.sounds}
            ears = {which: float(np.sqrt(np.mean(tone[:, 0] ** 2))) for which, tone in tones.items()}
            self.assertEqual(min(ears, key=lambda which: ears[which]), known.right)
            air = {which: float(np.abs(tone.sum(axis=1)).max()) for which, tone in tones.items()}
            self.assertNotEqual(min(air, key=lambda which: air[which]), known.right)
        self.assertEqual(through_headphones([True] * 5), None)
        self.assertEqual(through_headphones([False, *[True] * 5]), True)
        self.assertEqual(through_headphones([*[True] * 4, False, False]), False)

    def test_chance(self) -> None:
        """Nine of twelve by guessing: 299 of 4096 (Pascal's triangle)."""
        self.assertAlmostEqual(by_chance(9, 12), 299 / 4096)
        self.assertEqual(by_chance(0, 0), 1.0)

    def test_what_is_not_there_is_refused(self) -> None:
        """An unknown pair, sound or level."""
        for key, which, number in (("x", "a", 1), ("rings", "c", 1), ("rings", "a", 9)):
            with self.assertRaises(HematiteError):
                sound_of(key, which, number=number, seed=1)
