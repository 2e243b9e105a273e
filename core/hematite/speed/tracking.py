"""Following what repeats: where a stated speed was not kept to, read from everything that keeps step with the wheel.

Engine, gears, tread, whole orders and fault lines all rise and fall with the wheel: on a logarithmic axis of frequency
another speed is the same pattern in another place. Neither pattern nor course is known. Each is found from the other
in turn, by the algorithm of Baum and Welch for a hidden Markov model [published: Rabiner, Proceedings of the IEEE 77
(1989) 257-286]: what a frame holds at each place is hiss, or hiss and a line of some strength; between frames a wheel
changes its speed a little, seldom much. Only changes are read so: how many turns there were in all stays as stated.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import numpy.typing as npt
import scipy.fft
from scipy import integrate, linalg, ndimage, special, stats

from hematite.speed.stated import WheelTurns
from hematite.traces import Trace

Floats = npt.NDArray[np.float64]
Singles = npt.NDArray[np.float32]  # as fine as odds need, in half the time
Path = npt.NDArray[np.int64]

FRAME_S, HOP_S = 1.0, 0.5
OWN_SHARE = 0.75  # of a frame's odds that are its own: neighbours overlap by half
STEP = 0.0025  # of the logarithm of frequency
LOWEST_HZ, HIGHEST_HZ = 12.0, 1300.0
SURROUNDINGS = 141  # steps: half an octave, over which hiss is even
CEILING = 16.0  # times the hiss: a stray knock must not speak for a frame
HANN_HZ = 1.5 / FRAME_S  # neighbouring frequencies that count as one look
STRENGTHS = np.array([0.5, 1.0, 2.0, 4.0, 8.0], dtype=np.float32)  # of a line, in the hiss's power
NO_LINE = np.log(8.0)  # how much likelier a place holds none than one of a certain strength; judgement
# How speed changes from one frame to the next, in its logarithm: a foot's wandering, and seldom a gear or a brake.
WANDERS, JUMPS, JUMP_SHARE = 0.006, 0.03, 0.1  # judgement
REMEMBERED = 8.0  # frames: so long a speed stays as far from the stated one as it is; judgement
STARTS, START_FRAMES = (0.1, 0.3, 0.5, 0.7, 0.9), 3  # where a first pattern is taken from, and of how many either way
# Steps a pattern is smeared over, round by round: a course is nearly right before it is right.
BLURS = (9, 5, 3, 1, 1, 1)
BORNE_OUT = 8.0  # nats over the speed as stated: of 120 recordings of hiss none came over -3.7
LEAST_FRAMES, AT_ONCE = 12, 100


@dataclass(frozen=True)
class Frames:
    """Power over that of hiss, shape (frames, places), and how far each place is a look of its own, shape (places,).

    `reach`: by how many steps patterns are shifted over them.
    """

    power: Singles
    own: Singles
    reach: int

    @property
    def padded(self) -> int:
        """Return the length at which no shift comes in again at the other end."""
        return int(scipy.fft.next_fast_len(self.power.shape[1] + 2 * self.reach + 1, real=True))

    @cached_property
    def spectrum(self) -> Floats:
        """Return what stands above hiss, transformed along the places, to lay patterns at all shifts at once."""
        return np.asarray(scipy.fft.rfft(self.power - 1, self.padded, axis=1))

    @cached_property
    def blurred(self) -> dict[int, "Frames"]:
        """Return the same frames smeared over as many steps as the rounds ask for."""
        smeared = {blur: ndimage.uniform_filter1d(self.power, blur, axis=1) for blur in BLURS if blur > 1}
        return {1: self, **{blur: replace(self, power=power) for blur, power in smeared.items()}}


def follow(traces: Sequence[Trace], turns: WheelTurns, *, reach: float, doubt: float) -> WheelTurns:
    """Return the wheel's angle with the changes that the stated speed left out; as it came where the sound tells none.

    `reach` is the greatest change of speed, in its logarithm, that is looked for, `doubt` the usual one.
    """
    seconds = min((len(trace.values) / trace.rate for trace in traces), default=0.0)
    centres = np.arange(FRAME_S / 2, seconds - FRAME_S / 2, HOP_S)
    centres = centres[(centres >= turns.times_s[0]) & (centres <= turns.times_s[-1])]
    if len(centres) < LEAST_FRAMES or reach < STEP:
        return turns
    stated = np.log(np.maximum(turns.rate_at(centres), 0.05))
    base = np.rint((stated - np.median(stated)) / STEP).astype(np.int64)
    steps = np.arange(-int(reach / STEP), int(reach / STEP) + 1)
    all_frames = [_shifted(_frames(trace, centres, len(steps) // 2), base) for trace in traces]
    usual = -0.5 * np.square(steps * STEP / doubt) / REMEMBERED
    odds, chances = max((_found(all_frames, usual, start) for start in STARTS), key=lambda found: found[0])
    path = chances @ steps
    path -= np.median(path)
    if odds - _as_stated(all_frames) < BORNE_OUT:
        return turns
    times = np.linspace(turns.times_s[0], turns.times_s[-1], max(int(50 * (turns.times_s[-1] - turns.times_s[0])), 2))
    rate = turns.rate_at(times) * np.exp(np.interp(times, centres, path * STEP))
    angle = integrate.cumulative_trapezoid(rate, times, initial=0)
    return WheelTurns(times, turns.turns[0] + angle * turns.count / angle[-1], turns.spread)


def _frames(trace: Trace, centres: Floats, reach: int) -> Frames:
    size = int(FRAME_S * trace.rate)
    padded = 1 << int(np.ceil(np.log2(4 * size)))
    cuts = np.lib.stride_tricks.sliding_window_view(trace.values, size)
    first = np.clip((centres * trace.rate).astype(np.int64) - size // 2, 0, len(cuts) - 1)
    hertz = np.exp(np.arange(np.log(LOWEST_HZ), np.log(min(HIGHEST_HZ, 0.45 * trace.rate)), STEP))
    grid = hertz * padded / trace.rate
    half, window = np.maximum(grid * STEP / 2, 0.5), np.hanning(size)
    parts = []
    for some in np.array_split(first, len(first) // AT_ONCE + 1):  # a long run would need gigabytes at once
        power = np.square(np.abs(scipy.fft.rfft(cuts[some] * window, padded, axis=1)))
        total = np.concatenate([np.zeros((len(power), 1)), np.cumsum(power, axis=1)], axis=1)
        parts.append((_at(total, grid + half) - _at(total, grid - half)) / (2 * half))
    log_power = np.log(np.concatenate(parts) + 1e-12)
    hiss = ndimage.uniform_filter1d(log_power, SURROUNDINGS, axis=1, mode="nearest") + np.euler_gamma
    power = np.minimum(np.exp(log_power - hiss), CEILING).astype(np.float32)
    return Frames(power, np.minimum(hertz * STEP / HANN_HZ, 1.0).astype(np.float32), reach)


def _at(total: Floats, places: Floats) -> Floats:
    low = np.clip(places.astype(np.int64), 0, total.shape[1] - 2)
    share = places - low
    return np.asarray(total[:, low] * (1 - share) + total[:, low + 1] * share)


def _shifted(frames: Frames, path: Path) -> Frames:
    """Return each frame moved down by its shift; what comes in from beyond is hiss."""
    places = np.arange(frames.power.shape[1])[None, :] + path[:, None]
    inside = (places >= 0) & (places < frames.power.shape[1])
    moved = np.take_along_axis(frames.power, np.clip(places, 0, frames.power.shape[1] - 1), axis=1)
    return replace(frames, power=np.where(inside, moved, np.float32(1.0)))


def _found(all_frames: Sequence[Frames], usual: Floats, start: float) -> tuple[float, Floats]:
    """Return the odds of a moving pattern against hiss, and its courses' chances, from a first pattern at `start`."""
    count = len(all_frames[0].power)
    first = np.abs(np.arange(count) - int(start * count)) <= START_FRAMES
    unmoved = first[:, None] & (np.arange(len(usual)) == len(usual) // 2)
    odds, chances, looks = -np.inf, unmoved * (count / first.sum()), int(first.sum())
    for blur in BLURS:
        patterns = [_aligned(frames, chances) for frames in all_frames]
        gains = sum(_gains(f.blurred[blur], p, looks) for f, p in zip(all_frames, patterns, strict=True))
        (odds, chances), looks = _courses(gains + usual), count
    return odds, chances


def _as_stated(all_frames: Sequence[Frames]) -> float:
    """Return the odds of a pattern that keeps to the stated speed."""
    gains = (_gains(f, f.power.mean(axis=0), len(f.power))[:, f.reach] for f in all_frames)
    return float(sum(own.sum() for own in gains))


def _gains(frames: Frames, pattern: Singles, looks: int) -> Floats:
    """Return the odds of every frame at every shift of a pattern that is the mean of so many looks: (frames, shifts).

    Over hiss power is exponentially distributed; a line of strength a stretches it by 1 + a.
    """
    every = looks * OWN_SHARE * frames.own
    told = [every * (pattern * a / (1 + a) - np.log1p(a)) for a in STRENGTHS]
    likely = special.softmax([*told, np.full(len(pattern), NO_LINE)], axis=0)[:-1]
    weights = (likely * (STRENGTHS / (1 + STRENGTHS))[:, None]).sum(axis=0) * frames.own
    costs = (likely * np.log1p(STRENGTHS)[:, None]).sum(axis=0) * frames.own
    both = frames.spectrum * np.conj(scipy.fft.rfft(weights, frames.padded))
    laid = np.roll(scipy.fft.irfft(both, frames.padded, axis=1), frames.reach, axis=1)[:, : 2 * frames.reach + 1]
    return np.asarray(OWN_SHARE * (laid + weights.sum() - costs.sum()), dtype=np.float64)


def _courses(gains: Floats) -> tuple[float, Floats]:
    """Return the odds over all courses, and how likely each shift is at each frame: the forward-backward algorithm."""
    changes = np.arange(gains.shape[1], dtype=np.float64) * STEP
    kernel = (1 - JUMP_SHARE) * _normal(changes, WANDERS) + JUMP_SHARE * _normal(changes, JUMPS)
    passes = linalg.toeplitz(kernel)
    highest = gains.max(axis=1)
    fits = np.exp(gains - highest[:, None])
    forward = np.empty_like(fits)
    arrived, odds = np.full(fits.shape[1], 1 / fits.shape[1]), float(highest.sum())
    for n, row in enumerate(fits):
        forward[n] = arrived * row
        odds += float(np.log(forward[n].sum()))
        forward[n] /= forward[n].sum()
        arrived = np.maximum(forward[n] @ passes, 1e-300)
    chances, ahead = forward, np.ones(fits.shape[1])
    for n in range(len(fits) - 2, -1, -1):
        ahead = np.maximum((ahead * fits[n + 1]) @ passes, 1e-300)
        ahead /= ahead.sum()
        chances[n] = forward[n] * ahead
        chances[n] /= chances[n].sum()
    return odds, chances


def _normal(changes: Floats, spread: float) -> Floats:
    return np.asarray(stats.norm.pdf(changes, scale=spread) * STEP, dtype=np.float64)


def _aligned(frames: Frames, chances: Floats) -> Singles:
    """Return the mean of all frames, each moved by all its shifts as they are likely, shape (places,)."""
    moved = np.zeros((len(chances), frames.padded), dtype=np.float32)
    moved[:, : 2 * frames.reach + 1] = chances
    both = frames.spectrum * np.conj(scipy.fft.rfft(np.roll(moved, -frames.reach, axis=1), axis=1))
    mean = scipy.fft.irfft(both.sum(axis=0), frames.padded)[: frames.power.shape[1]] / len(chances)
    return np.asarray(mean + 1)
