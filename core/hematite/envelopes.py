"""Envelopes on the wheel's own axis: the rise and fall of a band of sound, per wheel turn."""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import scipy.fft
from scipy import ndimage, signal

from hematite.recordings.decoding import Samples
from hematite.spectra import Band
from hematite.speed import WheelTurns

Floats = npt.NDArray[np.float64]

HIGHEST_ORDER = 60.0  # four harmonics of the inner race of the largest common row
POINTS_PER_TURN = 256
TURNS_PER_BLOCK = 40.0  # resolution 1/40 order: finer than the smear of 1–2 % slip above order 2
FLOOR_ORDERS = 1.5  # half-width of the running median that is taken as the floor


@dataclass(frozen=True)
class OrderSpectrum:
    """Power of the envelope by order (events per wheel turn), over its own floor.

    `orders`, `ratio` and `power` have shape (n,); `ratio` is power over the running median, 1 where nothing stands
    out; `power` is absolute (full scale²), so that corners compare. `blocks` is how many pieces were averaged.
    """

    orders: Floats
    ratio: Floats
    power: Floats
    blocks: int

    @property
    def step(self) -> float:
        """Return the distance between neighbouring orders."""
        return float(self.orders[1] - self.orders[0])

    def rescaled(self, wheel: float) -> "OrderSpectrum":
        """Return the same spectrum when the wheel turned `wheel` times as fast as was stated."""
        return OrderSpectrum(self.orders / wheel, self.ratio, self.power, self.blocks)

    def db(self) -> Floats:
        """Return the height over the floor in dB, shape (n,)."""
        return np.asarray(10 * np.log10(np.maximum(self.ratio, 1e-3)))


def band_envelope(samples: Samples, *, rate: int, band: Band) -> tuple[Samples, float]:
    """Return the envelope of a band, and its own, lower, sampling rate.

    The band is cut out of the spectrum, moved to zero and turned back at its own width: the modulus of that is the
    Hilbert envelope of the band-passed sound (checked against scipy.signal.hilbert), at a fraction of the work.
    """
    n = scipy.fft.next_fast_len(len(samples), real=True)
    spectrum = scipy.fft.rfft(samples, n)
    low = max(int(band.low_hz * n / rate), 1)
    high = min(int(band.high_hz * n / rate) + 1, len(spectrum))
    width = scipy.fft.next_fast_len(2 * (high - low))
    moved = np.zeros(width, dtype=np.complex64)
    moved[: high - low] = spectrum[low:high]
    envelope = np.abs(scipy.fft.ifft(moved)) * np.float32(2 * width / n)
    kept = round(len(samples) * width / n)
    return np.asarray(envelope[:kept], dtype=np.float32), rate * width / n


def low_band(samples: Samples, *, rate: int, top_hz: float) -> tuple[Samples, float]:
    """Return the sound below `top_hz` at a lower sampling rate, and that rate."""
    n = scipy.fft.next_fast_len(len(samples), real=True)
    kept_n = min(scipy.fft.next_fast_len(int(2.5 * top_hz * n / rate), real=True), n)
    spectrum = scipy.fft.rfft(samples, n)[: kept_n // 2 + 1]
    low = scipy.fft.irfft(spectrum, kept_n) * np.float32(kept_n / n)
    return np.asarray(low[: round(len(samples) * kept_n / n)], dtype=np.float32), rate * kept_n / n


def per_turn(values: Samples, *, rate: float, turns: WheelTurns) -> Floats:
    """Resample a signal to `POINTS_PER_TURN` equal steps of wheel angle.

    What is faster than the highest order is taken out first, so that nothing folds back.
    """
    times = np.arange(len(values)) / rate
    inside = (times >= turns.times_s[0]) & (times <= turns.times_s[-1])
    cutoff = POINTS_PER_TURN / 2 * turns.mean_rate
    if cutoff < 0.45 * rate:
        smooth = signal.sosfiltfilt(signal.butter(4, cutoff, fs=rate, output="sos"), values)
        values = np.asarray(smooth, dtype=np.float32)
    angle = turns.at(times[inside])
    steps = np.arange(angle[0], angle[-1], 1 / POINTS_PER_TURN)
    return np.asarray(np.interp(steps, angle, values[inside]))


def order_spectrum(angle_signal: Floats) -> OrderSpectrum | None:
    """Return the averaged order spectrum of a signal sampled per turn, or None below four whole turns."""
    turns = len(angle_signal) / POINTS_PER_TURN
    if turns < 4:
        return None
    block = int(min(TURNS_PER_BLOCK, turns / 2) * POINTS_PER_TURN)
    orders, power = signal.welch(
        angle_signal - angle_signal.mean(), POINTS_PER_TURN, window="hann", nperseg=block, noverlap=block // 2
    )
    keep = orders <= HIGHEST_ORDER
    orders, power = orders[keep], power[keep]
    width = 2 * int(FLOOR_ORDERS / orders[1]) + 1
    floor = ndimage.median_filter(power, size=width, mode="nearest")
    return OrderSpectrum(orders, power / (floor + 1e-30), power, blocks=max(2 * len(angle_signal) // block - 1, 1))
