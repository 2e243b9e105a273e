"""Envelopes on the wheel's own axis: the rise and fall of bands of sound, per wheel turn."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt
import scipy.fft
from scipy import ndimage, signal, special

from hematite.recordings.decoding import Samples
from hematite.recordings.quality import MAINS_HZ
from hematite.spectra import THIRD_OCTAVES_HZ, Band

if TYPE_CHECKING:  # what follows a speed looks at envelopes itself
    from hematite.speed.stated import WheelTurns

Floats = npt.NDArray[np.float64]

HIGHEST_ORDER = 60.0  # four harmonics of the inner race of the largest common row
POINTS_PER_TURN = 256
TURNS_PER_BLOCK = 50.0  # a ball's slip wanders by a quarter percent: longer blocks see no finer
FLOOR_ORDERS = 1.5  # half-width of the running median that is taken as the floor
FLOOR_SHARE, LEAST_FLOOR_BINS = 0.4, 5  # of an order, where that is less; judgement
OVERSAMPLED = 4.0  # points per period of the fastest order, so that a straight line between them does
LOUDEST_SHARE = 99.7  # percentile at which an envelope is cut: a stray knock is rarer, a ball's passage is not
LONG_TRANSFORM, PLANS_KEPT = 2**22, 16  # points: one and a half minutes at 48 kHz
HUM_HZ = (20.0, 1500.0)
HUM_DB, HUM_WIDTH_HZ, HUM_AROUND_HZ, HUM_SKIRT_HZ = 12.0, 0.25, 12.0, 0.6  # what is a tone that holds its pitch
MAINS_OFF_HZ = 0.5
LEVELLED_TURNS = 3.0  # an envelope is held against its own mean over so many turns
LEVELLED_LEAST_S = 1.0
OVERLAPPED = 0.85  # looks that one block more is worth when blocks with Hann windows overlap by half


def forget_plans(points: int) -> None:
    """Make scipy drop the plan of a long transform, as large as its data.

    Its library, pocketfft, keeps the plans of the last sixteen lengths of each type: short ones take their place.
    """
    if points > LONG_TRANSFORM:
        for short in range(2, 2 + PLANS_KEPT):
            scipy.fft.rfft(np.zeros(short, dtype=np.float32))
            scipy.fft.fft(np.zeros(short, dtype=np.complex64))


@dataclass(frozen=True)
class Sound:
    """A whole recording's spectrum, made once: `bins` of a real FFT over `padded` points; `length` samples are real."""

    bins: npt.NDArray[np.complex64]
    padded: int
    length: int
    rate: float

    @classmethod
    def of(cls, samples: Samples, *, rate: float) -> "Sound":
        """Transform samples, shape (n,), taken at `rate` a second."""
        padded = scipy.fft.next_fast_len(len(samples), real=True)
        bins = scipy.fft.rfft(samples, padded)
        forget_plans(padded)
        return cls(bins, padded, len(samples), rate)

    def up_to(self, top_hz: float) -> "Sound":
        """Return the sound's spectrum up to a frequency, nothing of it copied."""
        return replace(self, bins=self.bins[: int(top_hz * self.padded / self.rate) + 1])

    def without_hum(self, *, of_mains: bool = False) -> "Sound":
        """Return the sound of a wheel that slows without what holds its pitch: mains, motors and what they shake.

        Nothing of a slowing wheel stays in a line so narrow; gone is what stands `HUM_DB` over its surroundings.
        `of_mains`: only at multiples of the mains' frequencies, as a driven wheel may hold its pitch.
        """
        hertz = self.rate / self.padded
        top = min(int(HUM_HZ[1] / hertz), len(self.bins))
        power = ndimage.uniform_filter1d(np.square(np.abs(self.bins[:top])), max(round(HUM_WIDTH_HZ / hertz), 1))
        around = ndimage.uniform_filter1d(np.log(power + 1e-30), max(round(HUM_AROUND_HZ / hertz), 9))
        stands = 10 / np.log(10) * (np.log(power + 1e-30) - around) > HUM_DB
        stands[: int(HUM_HZ[0] / hertz)] = False
        if of_mains:
            hz = np.arange(top) * hertz
            off = [np.abs(hz / mains - np.round(hz / mains)) * mains for mains in MAINS_HZ]
            stands &= np.min(off, axis=0) < MAINS_OFF_HZ
        wide = ndimage.maximum_filter1d(stands, 2 * max(round(HUM_SKIRT_HZ / hertz), 1) + 1)
        bins = self.bins.copy()
        bins[:top][wide] = 0
        return replace(self, bins=bins)

    def envelope(self, band: Band) -> tuple[Samples, float]:
        """Return the envelope of a band, and its own, lower, sampling rate.

        The band is cut out of the spectrum, moved to zero and turned back at its own width: the modulus of that is
        the Hilbert envelope of the band-passed sound (checked against scipy.signal.hilbert), at a fraction of the work.
        """
        low = max(int(band.low_hz * self.padded / self.rate), 1)
        high = min(int(band.high_hz * self.padded / self.rate) + 1, len(self.bins))
        width = scipy.fft.next_fast_len(2 * (high - low))
        moved = np.zeros(width, dtype=np.complex64)
        moved[: high - low] = self.bins[low:high]
        envelope = np.abs(scipy.fft.ifft(moved, overwrite_x=True))
        forget_plans(width)
        envelope *= np.float32(2 * width / self.padded)
        kept = round(self.length * width / self.padded)
        return np.asarray(envelope[:kept], dtype=np.float32), self.rate * width / self.padded

    def third_octaves_db(self) -> tuple[float, ...]:
        """Return levels in dB of full scale in third octaves at `THIRD_OCTAVES_HZ`; −300 above half the sampling rate.

        Edges: IEC 61260-1:2014, centre · 10^(±1/20); summed from the one spectrum (Parseval), not by filters.
        """
        edges = np.array([[centre * 10**-0.05, centre * 10**0.05] for centre in THIRD_OCTAVES_HZ])
        places = np.minimum(np.ceil(edges * self.padded / self.rate), len(self.bins)).astype(np.int64)
        scale = 2 / (float(self.padded) * self.length)
        sums = [float(np.square(np.abs(self.bins[low:high])).sum(dtype=np.float64)) for low, high in places]
        return tuple(float(10 * np.log10(total * scale + 1e-30)) for total in sums)

    def below(self, top_hz: float) -> tuple[Samples, float]:
        """Return the sound below `top_hz` at a lower sampling rate, and that rate."""
        wanted = int(OVERSAMPLED * top_hz * self.padded / self.rate)
        kept_n = min(scipy.fft.next_fast_len(max(wanted, 16), real=True), self.padded)
        bins = self.bins[: kept_n // 2 + 1].copy()
        bins[int(top_hz * self.padded / self.rate) + 1 :] = 0
        low = scipy.fft.irfft(bins, kept_n) * np.float32(kept_n / self.padded)
        forget_plans(kept_n)
        return np.asarray(low[: round(self.length * kept_n / self.padded)], dtype=np.float32), (
            self.rate * kept_n / self.padded
        )


@dataclass(frozen=True)
class Swell:
    """A band's envelope, slimmed: `loud` as it was, `values` levelled to a mean of 1, both shape (n,) at `rate`.

    `mean` is the mean of `loud`, in full scale.
    """

    band: Band
    values: Samples
    loud: Samples
    rate: float
    mean: float


def swells(sound: Sound, bands: Sequence[Band], *, fastest_turns_per_s: float) -> list[Swell]:
    """Return the levelled envelope of each band, slowed to what `HIGHEST_ORDER` needs at the fastest wheel speed."""
    return [_swell(sound, band, fastest_turns_per_s) for band in bands]


def _swell(sound: Sound, band: Band, fastest: float) -> Swell:
    envelope, rate = sound.envelope(band)
    highest = np.percentile(envelope[:: max(len(envelope) // 50_000, 1)], LOUDEST_SHARE)
    np.minimum(envelope, highest, out=envelope)
    top_hz = HIGHEST_ORDER * fastest * 1.1
    if OVERSAMPLED * top_hz < rate:
        envelope, rate = Sound.of(envelope, rate=rate).below(top_hz)
    mean = float(envelope.mean(dtype=np.float64)) + 1e-20
    turns_s = LEVELLED_TURNS / max(fastest, 0.1)
    local = ndimage.uniform_filter1d(envelope, max(int(max(LEVELLED_LEAST_S, turns_s) * rate), 3), mode="nearest")
    levelled = np.asarray(envelope / np.maximum(local, 0.02 * mean), dtype=np.float32)
    return Swell(band, levelled, envelope, rate, mean)


@dataclass(frozen=True)
class OrderSpectrum:
    """Power of an envelope by order (events per wheel turn), over its own floor.

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

    @property
    def looks(self) -> float:
        """Return how many independent looks each point averages."""
        return max(OVERLAPPED * self.blocks, 1.0) if self.blocks > 1 else 1.0

    def as_hiss(self, mask: npt.NDArray[np.bool_], chance: np.random.Generator) -> "OrderSpectrum":
        """Return the same spectrum with hiss where the mask, shape (n,), is."""
        ratio = self.ratio.copy()
        hiss = chance.gamma(self.looks, size=int(mask.sum()))
        ratio[mask] = hiss / special.gammaincinv(self.looks, 0.5)  # the floor is a median
        return replace(self, ratio=ratio)

    def db(self) -> Floats:
        """Return the height over the floor in dB, shape (n,)."""
        return np.asarray(10 * np.log10(np.maximum(self.ratio, 1e-3)))


def per_turn(values: Samples, *, rate: float, turns: "WheelTurns") -> Floats:
    """Resample a signal, sampled finely enough for it, to `POINTS_PER_TURN` equal steps of wheel angle."""
    times = np.arange(len(values)) / rate
    inside = (times >= turns.times_s[0]) & (times <= turns.times_s[-1])
    angle = turns.at(times[inside])
    if len(angle) < 2:
        return np.zeros(0)
    steps = np.arange(angle[0], angle[-1], 1 / POINTS_PER_TURN)
    return np.asarray(np.interp(steps, angle, values[inside]))


def order_spectrum(angle_signal: Floats, *, highest: float = HIGHEST_ORDER) -> OrderSpectrum | None:
    """Return the averaged order spectrum of a signal sampled per turn, or None below four whole turns."""
    turns = len(angle_signal) / POINTS_PER_TURN
    if turns < 4:
        return None
    block = int(min(TURNS_PER_BLOCK, turns) * POINTS_PER_TURN)
    swing = (angle_signal - angle_signal.mean()).astype(np.float32)  # as fine as a spectrum needs, in half the time
    orders, power = signal.welch(swing, POINTS_PER_TURN, window="hann", nperseg=block, noverlap=block // 2)
    keep = orders <= highest
    orders, power = orders[keep].astype(np.float64), power[keep].astype(np.float64)
    return OrderSpectrum(
        orders, power / (_floor(orders, power) + 1e-30), power, blocks=max((2 * len(angle_signal)) // block - 1, 1)
    )


def _floor(orders: Floats, power: Floats) -> Floats:
    """Return the running median, narrower near order zero.

    A hand, gusts and a wandering level make a floor that falls steeply there.
    """
    reach = int(FLOOR_ORDERS / orders[1])
    floor = np.asarray(ndimage.median_filter(power, size=2 * reach + 1, mode="nearest"))
    for at in range(min(int(FLOOR_ORDERS / FLOOR_SHARE / orders[1]), len(power))):
        half = max(int(FLOOR_SHARE * at), LEAST_FLOOR_BINS)
        floor[at] = np.median(power[max(at - half, 0) : at + half + 1])
    return floor
