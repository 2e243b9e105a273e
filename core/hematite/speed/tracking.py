"""Following what repeats: where a stated speed was not kept to, read from everything that keeps step with the wheel.

Engine, gears, tread, whole orders and fault lines all rise and fall with the wheel: on a logarithmic axis of frequency
another speed is the same pattern in another place. Short frames are slid onto a common pattern along the likeliest
path, the pattern is made anew, and again. A path is believed where something that it was not read from bears it out.
Only changes are read so: how many turns there were in all stays as stated.
"""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
from scipy import integrate, ndimage

from hematite.speed.stated import WheelTurns
from hematite.traces import Trace

Floats = npt.NDArray[np.float64]
Path = npt.NDArray[np.int64]

FRAME_S, HOP_S = 1.0, 0.2
STEP = 0.008  # of the logarithm of frequency
LOWEST_HZ, HIGHEST_HZ = 5.0, 700.0
SURROUNDINGS = 61  # steps: half an octave
CEILING_DB = 12.0
FURTHEST = 18  # steps from one frame to the next: 14 % in a fifth of a second
# What a change from one frame to the next costs of a frame's correlation, by its square, and at most; judgement.
BEND, JUMP = 0.0009, 0.25
STARTS = (0.3, 0.7)  # where in the recording a first pattern is taken from
ROUNDS = 3
SMOOTHED = 1.0  # frames
BORNE_OUT = 0.07  # of correlation; hiss, white, brown or gusty, reached 0.067 in 120 recordings
OVERLAP = 2 * round(FRAME_S / HOP_S) + 1  # frames around each, itself among them, that share sound with it
LEAST_FRAMES, AT_ONCE = 20, 100


def follow(traces: Sequence[Trace], turns: WheelTurns, *, reach: float) -> WheelTurns:
    """Return the wheel's angle with the changes that the stated speed left out; as it came where the sound tells none.

    `reach` is the greatest change of speed, in its logarithm, that is looked for.
    """
    seconds = min((len(trace.values) / trace.rate for trace in traces), default=0.0)
    centres = np.arange(FRAME_S / 2, seconds - FRAME_S / 2, HOP_S)
    centres = centres[(centres >= turns.times_s[0]) & (centres <= turns.times_s[-1])]
    if len(centres) < LEAST_FRAMES or reach < STEP:
        return turns
    stated = np.log(np.maximum(turns.rate_at(centres), 0.05))
    base = np.rint((stated - np.median(stated)) / STEP).astype(np.int64)
    maps = [_shifted(_frames(trace, centres), base) for trace in traces]
    steps = int(reach / STEP)
    if _borne_out(maps, steps) < BORNE_OUT:
        return turns
    path = _best_path(maps, steps)
    excess = ndimage.gaussian_filter1d(path * STEP, SMOOTHED)
    times = np.linspace(turns.times_s[0], turns.times_s[-1], max(int(50 * (turns.times_s[-1] - turns.times_s[0])), 2))
    rate = turns.rate_at(times) * np.exp(np.interp(times, centres, excess))
    angle = integrate.cumulative_trapezoid(rate, times, initial=0)
    return WheelTurns(times, turns.turns[0] + angle * turns.count / angle[-1], turns.spread)


def _frames(trace: Trace, centres: Floats) -> Floats:
    """Return frames' power in dB over its surroundings on a logarithmic axis of frequency, shape (frames, places)."""
    size = int(FRAME_S * trace.rate)
    padded = 1 << int(np.ceil(np.log2(4 * size)))
    cuts = np.lib.stride_tricks.sliding_window_view(trace.values, size)
    first = np.clip((centres * trace.rate).astype(np.int64) - size // 2, 0, len(cuts) - 1)
    grid = np.exp(np.arange(np.log(LOWEST_HZ), np.log(min(HIGHEST_HZ, 0.45 * trace.rate)), STEP)) * padded / trace.rate
    half, window = np.maximum(grid * STEP / 2, 0.5), np.hanning(size)
    parts = []
    for some in np.array_split(first, len(first) // AT_ONCE + 1):  # a long run would need gigabytes at once
        power = np.square(np.abs(np.fft.rfft(cuts[some] * window, padded, axis=1)))
        total = np.concatenate([np.zeros((len(power), 1)), np.cumsum(power, axis=1)], axis=1)
        parts.append((_at(total, grid + half) - _at(total, grid - half)) / (2 * half))
    db = 10 * np.log10(np.concatenate(parts) + 1e-12)
    db = np.clip(db - ndimage.uniform_filter1d(db, SURROUNDINGS, axis=1, mode="nearest"), 0.0, CEILING_DB)
    return np.asarray(db - db.mean(axis=1, keepdims=True))


def _at(total: Floats, places: Floats) -> Floats:
    low = np.clip(places.astype(np.int64), 0, total.shape[1] - 2)
    share = places - low
    return np.asarray(total[:, low] * (1 - share) + total[:, low + 1] * share)


def _shifted(frames: Floats, path: Path) -> Floats:
    """Return each frame moved down by its shift; what comes in from beyond is zero, the mean."""
    places = np.arange(frames.shape[1])[None, :] + path[:, None]
    inside = (places >= 0) & (places < frames.shape[1])
    moved = np.take_along_axis(frames, np.clip(places, 0, frames.shape[1] - 1), axis=1)
    return np.where(inside, moved, 0.0)


def _agreement(maps: Sequence[Floats], path: Path) -> float:
    """Return the mean correlation of every frame with the sum of the others, each moved by its shift.

    Frames that overlap have hiss in common and are left out: that hiss can be followed says nothing of speed.
    """
    found = []
    for frames in maps:
        moved = _shifted(frames, path)
        others = moved.sum(axis=0) - OVERLAP * ndimage.uniform_filter1d(moved, OVERLAP, axis=0, mode="constant")
        norm = np.sqrt(np.square(moved).sum(axis=1) * np.square(others).sum(axis=1)) + 1e-12
        found.append(float(((moved * others).sum(axis=1) / norm).mean()))
    return float(np.mean(found))


def _best_path(maps: Sequence[Floats], reach: int) -> Path:
    return max((_path(maps, start, reach) for start in STARTS), key=lambda one: _agreement(maps, one))


def _borne_out(maps: Sequence[Floats], reach: int) -> float:
    """Return how much better frames agree than as they stand, along a path that was read elsewhere.

    Hiss can be laid along some path too, but other frequencies, or the swell beside the tones, whose hiss is their own,
    do not follow it.
    """
    low, high = ([np.array_split(frames, 2, axis=1)[half] for frames in maps] for half in (0, 1))
    still = np.zeros(len(maps[0]), dtype=np.int64)
    apart = [(low, high), (high, low), (maps[:1], maps[1:]), (maps[1:], maps[:1])]
    gains = [_agreement(b, _best_path(a, reach)) - _agreement(b, still) for a, b in apart]
    return max(gains)


def _path(maps: Sequence[Floats], start: float, reach: int) -> Path:
    count = len(maps[0])
    first, half = int(start * count), round(FRAME_S / HOP_S)
    patterns = [frames[max(first - half, 0) : first + half].mean(axis=0) for frames in maps]
    path = np.zeros(count, dtype=np.int64)
    for _ in range(ROUNDS):
        path = _smoothest(np.mean([_gains(f, p, reach) for f, p in zip(maps, patterns, strict=True)], axis=0)) - reach
        patterns = [_shifted(frames, path).mean(axis=0) for frames in maps]
    return path - int(np.median(path))


def _gains(frames: Floats, pattern: Floats, reach: int) -> Floats:
    """Return the correlation of every frame with a pattern at every shift, shape (frames, shifts)."""
    padded = 1 << int(np.ceil(np.log2(frames.shape[1] + 2 * reach + 2)))
    both = np.fft.rfft(frames, padded, axis=1) * np.conj(np.fft.rfft(pattern, padded))
    all_shifts = np.fft.irfft(both, padded, axis=1)
    found = np.concatenate([all_shifts[:, padded - reach :], all_shifts[:, : reach + 1]], axis=1)
    norm = np.sqrt(np.square(frames).sum(axis=1, keepdims=True) * np.square(pattern).sum()) + 1e-12
    return np.asarray(found / norm)


def _smoothest(gains: Floats) -> Path:
    """Return the path through gains with the largest sum less what its changes cost (Viterbi)."""
    places, off = np.arange(gains.shape[1]), np.arange(-FURTHEST, FURTHEST + 1)
    dear = np.minimum(BEND * np.square(off), JUMP)
    best, came = gains[0], []
    for row in gains[1:]:
        near = (
            np.lib.stride_tricks.sliding_window_view(np.pad(best, FURTHEST, constant_values=-np.inf), len(off)) - dear
        )
        choice = near.argmax(axis=1)
        came.append(places + off[choice])
        best = near[places, choice] + row
    path = [int(best.argmax())]
    for back in reversed(came):
        path.append(int(back[path[-1]]))
    return np.array(path[::-1])
