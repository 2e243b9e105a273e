"""Levels and bands: how loud, and where a wheel's knocks stand out of the hiss."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from hematite.language import later
from hematite.recordings.decoding import Samples

Floats = npt.NDArray[np.float64]

LOWEST_BAND_HZ = 500.0  # judgement: below it road, tyre and engine are louder than any ring mark
WINDOWS = (
    64,
    128,
    256,
    512,
)  # samples; from ~1 ms, the ring-down of a knock, to ~10 ms, below one ball's passage
PLAIN_BANDS_HZ = ((50.0, 200.0), (200.0, 1000.0), (1000.0, 4000.0), (4000.0, 12000.0))
PLAIN_BAND_NAMES = (
    later("rumble, 50 to 200 Hz"),
    later("hum, 200 to 1000 Hz"),
    later("growl, 1 to 4 kHz"),
    later("hiss, above 4 kHz"),
)
THIRD_OCTAVES_HZ = tuple(1000.0 * 10 ** (n / 10) for n in range(-13, 11))  # IEC 61260-1, base ten, 50 Hz to 10 kHz
LEAST_WINDOW = 16  # samples
MOST_SECONDS = 10  # of a long recording, spread evenly, are searched for the band
NARROWEST_HZ = 600.0  # a narrower band rings on from one ball to the next; judgement
BAND_RATIO = 1.8  # width of the fixed bands that are heard besides the knocking one; judgement
LOWEST_FIXED_HZ = 100.0  # a knuckle or an axle rings low, and there a mark may be heard where nothing above tells it


@dataclass(frozen=True)
class Band:
    """A slice of the spectrum in Hz; `kurtosis` is how knock-like it is (0 for steady hiss)."""

    low_hz: float
    high_hz: float
    kurtosis: float


def level_db(samples: Samples) -> float:
    """Return the RMS level in dB relative to full scale; not a sound pressure. Steady offset is left out."""
    return float(10 * np.log10(np.var(samples, dtype=np.float64) + 1e-30))


def _short_time_power(samples: Samples, window: int) -> Samples:
    """Return |STFT|² with half-overlapping Hann windows, shape (frames, window // 2 + 1)."""
    frames = np.lib.stride_tricks.sliding_window_view(samples, window)[:: window // 2]
    hann = np.hanning(window).astype(np.float32)
    return np.square(np.abs(np.fft.rfft(frames * hann, axis=1))).astype(np.float32)


def band_kurtosis(samples: Samples, *, rate: int, window: int) -> Floats:
    """Return the spectral kurtosis of each bin of a short-time spectrum, shape (window // 2 + 1,).

    E|X|⁴/E|X|²² − 2: zero for Gaussian hiss, −1 for a tone, high for knocks. Antoni, Mechanical Systems and
    Signal Processing 20 (2006) 282–307. Taken second by second and then the median, so that one stray knock
    cannot win. Memory grows with one second of sound only.
    """
    seconds = max(round(len(samples) / rate), 1)
    parts = [part for part in np.array_split(samples, seconds) if len(part) >= 8 * window] or [samples]
    parts = [parts[n] for n in np.unique(np.linspace(0, len(parts) - 1, MOST_SECONDS).round().astype(int))]
    return np.median([_kurtosis(_short_time_power(part, window)) for part in parts], axis=0)


def _kurtosis(power: Samples) -> Floats:
    squared_mean = np.square(power.mean(axis=0, dtype=np.float64)) + 1e-40
    return np.asarray(np.square(power).mean(axis=0, dtype=np.float64) / squared_mean - 2.0)


def knocking_band(samples: Samples, *, rate: int) -> Band:
    """Return the band in which the sound is most like a train of knocks, by spectral kurtosis.

    Searches four window lengths; a band is three bins of the winning window, or `NARROWEST_HZ`. With no knocks
    anywhere it is simply the least steady band, and its kurtosis says so.
    """
    best = Band(LOWEST_BAND_HZ, rate / 2 * 0.9, 0.0)
    for window in WINDOWS:
        if len(samples) < 8 * window:
            continue
        kurtosis = band_kurtosis(samples, rate=rate, window=window)
        smooth = np.convolve(kurtosis, np.ones(3) / 3, mode="same")
        half = max(1.5 * rate / window, NARROWEST_HZ / 2)
        centres = np.arange(len(smooth)) * rate / window
        allowed = (centres - half >= LOWEST_BAND_HZ) & (centres + half <= 0.47 * rate)
        if not allowed.any():
            continue
        bin_ = int(np.where(allowed, smooth, -np.inf).argmax())
        if smooth[bin_] > best.kurtosis:
            best = Band(float(centres[bin_] - half), float(centres[bin_] + half), float(smooth[bin_]))
    return best


def heard_bands(samples: Samples, *, rate: int) -> tuple[Band, ...]:
    """Return the bands to listen in: the knocking one first, then fixed ones that cover what lies above 100 Hz.

    A mark that rings where something else is louder is still heard in a band of its own.
    """
    knocking = knocking_band(samples, rate=rate)
    edges = [LOWEST_FIXED_HZ]
    while edges[-1] * BAND_RATIO <= 0.47 * rate:
        edges.append(edges[-1] * BAND_RATIO)
    return (knocking, *(Band(low, high, 0.0) for low, high in pairwise(edges)))


def plain_band_levels_db(samples: Samples, *, rate: int) -> tuple[float, ...]:
    """Return levels in dB of full scale in `PLAIN_BANDS_HZ`: rumble, hum, growl, hiss."""
    window = min(4096, len(samples))
    if window < LEAST_WINDOW:  # a few samples have no spectrum; how short they are is said by the quality report
        return (-300.0,) * len(PLAIN_BANDS_HZ)
    minute = max(60 * rate // window, 1) * window  # a minute at a time, to spare memory
    parts = [samples[n : n + minute] for n in range(0, len(samples) - window + 1, minute)]
    means = [_short_time_power(part, window).mean(axis=0, dtype=np.float64) for part in parts]
    power = np.average(means, axis=0, weights=[len(part) for part in parts]) / (window**2 * 0.1875)
    freqs = np.arange(len(power)) * rate / window
    return tuple(
        float(10 * np.log10(power[(freqs >= low) & (freqs < high)].sum() + 1e-30)) for low, high in PLAIN_BANDS_HZ
    )
