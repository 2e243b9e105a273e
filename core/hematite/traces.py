"""Traces of one sound: its swell over all frequencies, and its low sound itself, each made even in time and pitch.

The spectrum is whitened first: a loud resonance, hum or motor must not speak for all of it.
"""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import scipy.fft
from scipy import ndimage

from hematite.envelopes import Sound, forget_plans

Floats = npt.NDArray[np.float64]

LOWEST_HZ, HIGHEST_HZ, HIGHEST_SHARE = 300.0, 8000.0, 0.46  # where a swell is looked for, and of the sampling rate
WHITENED_HZ = 40.0  # narrower than any knock's resonance, wider than lines of a turning wheel; judgement
SWELL_HZ = 1800.0  # samples a second of a swell
LEVELLED_S = 0.8  # a level that changes more slowly is the wheel's speed or a hand's, not a ball's
HIGHEST_SWELL = 10.0  # times its level: a stray knock must not speak for a whole recording; judgement
TONES_HZ = (8.0, 1400.0)
HIGHEST_TONE = 5.0


@dataclass(frozen=True)
class Trace:
    """Values about zero, shape (n,), at `rate` a second."""

    values: Floats
    rate: float


def traces_of(sound: Sound) -> tuple[Trace, Trace]:
    """Return the squared envelope of all a sound's frequencies, and the low sound itself."""
    hertz, top = sound.rate / sound.padded, min(HIGHEST_HZ, HIGHEST_SHARE * sound.rate)
    sound = sound.up_to(top)
    power = np.square(np.abs(sound.bins)).astype(np.float64)
    level = ndimage.uniform_filter1d(power, max(int(WHITENED_HZ / hertz), 3), mode="nearest")
    swell = _swell(_whitened(sound, level), LOWEST_HZ, top)
    return swell, _tones(_whitened(sound, _by_octave(power, hertz)))


def _whitened(sound: Sound, level: Floats) -> Sound:
    floor = 1e-18 * float(level.max()) + 1e-40
    bins = (sound.bins / np.sqrt(level + floor)).astype(np.complex64)
    return Sound(bins, sound.padded, sound.length, sound.rate)


def _by_octave(power: Floats, hertz: float) -> Floats:
    """Return the mean power of the octave around each bin: a line of a slowing wheel is wide, and no level."""
    octaves = np.log2(np.maximum(np.arange(len(power)) * hertz, TONES_HZ[0]))
    centres = np.linspace(octaves[0], octaves[-1], 64)
    total = np.concatenate([[0.0], np.cumsum(power)])
    low, high = (np.clip((2 ** (centres + half) / hertz).astype(np.int64), 0, len(power)) for half in (-0.5, 0.5))
    found: Floats = np.interp(octaves, centres, (total[high] - total[low]) / np.maximum(high - low, 1))
    return found


def _swell(white: Sound, low_hz: float, high_hz: float) -> Trace:
    low, high = (min(int(hz * white.padded / white.rate), len(white.bins)) for hz in (low_hz, high_hz))
    width = scipy.fft.next_fast_len(2 * (high - low))
    moved = np.zeros(width, dtype=np.complex64)
    moved[: high - low] = white.bins[low:high]
    envelope = np.abs(scipy.fft.ifft(moved, overwrite_x=True))
    forget_plans(width)
    del moved  # as large as the recording
    squared = np.square(envelope[: int(white.length * width / white.padded)])
    rate = white.rate * width / white.padded
    every = max(int(rate / SWELL_HZ), 1)
    squared = squared[: len(squared) // every * every].reshape(-1, every).mean(axis=1, dtype=np.float64)
    rate /= every
    level = ndimage.uniform_filter1d(squared, max(int(LEVELLED_S * rate), 3), mode="nearest")
    level += 1e-9 * float(squared.mean()) + 1e-30
    return Trace(np.minimum(squared / level, HIGHEST_SWELL) - 1, rate)


def _tones(white: Sound) -> Trace:
    low, high = (int(hz * white.padded / white.rate) for hz in TONES_HZ)
    high = min(high, len(white.bins) - 1)
    cut = Sound(np.where(np.arange(len(white.bins)) < low, 0, white.bins), white.padded, white.length, white.rate)
    values, rate = cut.below(high * white.rate / white.padded)
    level = np.sqrt(ndimage.uniform_filter1d(np.square(values.astype(np.float64)), max(int(LEVELLED_S * rate), 3)))
    level += 1e-9 * float(level.max()) + 1e-30
    return Trace(np.clip(values / level, -HIGHEST_TONE, HIGHEST_TONE), rate)
