"""Following what repeats: small errors of a stated speed, read from the lines themselves.

Speed that wanders by a percent smears a line at order 10 over a tenth of an order. Pieces of some ten turns are laid
side by side on a logarithmic order axis, where another speed is another place of the whole pattern; each is slid onto
the mean of the others, along the smoothest path. Only changes are read so: the mean speed stays as stated.
"""

from collections.abc import Sequence
from typing import Protocol

import numpy as np
import numpy.typing as npt
from scipy import integrate, ndimage

from hematite.speed.stated import WheelTurns

Floats = npt.NDArray[np.float64]

FRAME_TURNS = 10.0
POINTS = 128  # a turn
LOWEST, HIGHEST = 1.5, 40.0  # orders
STEP = 0.002  # of the logarithm: a fifth of a percent of speed
CEILING_DB = 12.0
STIFFNESS = 0.02  # of a frame's correlation, for each step² of change between frames; judgement
GAIN = 1.03  # the mean pattern must stand out that much better, or the stated speed is kept; judgement


class Signal(Protocol):
    """A signal over time: values of shape (n,) at `rate` a second."""

    @property
    def values(self) -> npt.NDArray[np.float32]:
        """Return the samples."""

    @property
    def rate(self) -> float:
        """Return samples a second."""


def follow(signals: Sequence[Signal], turns: WheelTurns, *, reach: float = 0.04) -> WheelTurns:
    """Return the wheel's angle with its wandering taken out, as far as the lines tell; else `turns` as they came.

    `reach` is the greatest relative error of speed, either way, that is looked for.
    """
    maps = [found for found in (_frames(signal, turns) for signal in signals) if found is not None]
    if not maps:
        return turns
    count = min(len(frames) for _, frames in maps)
    pattern = np.mean([frames[:count] for _, frames in maps], axis=0)
    centres = maps[0][0][:count]
    if len(pattern) < 4:
        return turns
    shifts = _aligned(pattern, int(reach / STEP))
    if _sharpness(_shifted(pattern, shifts)) < GAIN * _sharpness(pattern):
        return turns
    return _corrected(turns, centres, (shifts - shifts.mean()) * STEP)


def _frames(signal: Signal, turns: WheelTurns) -> tuple[Floats, Floats] | None:
    """Return frame centres in turns and the frames' patterns in dB over their surroundings, shape (frames, grid)."""
    times = np.arange(len(signal.values)) / signal.rate
    inside = (times >= turns.times_s[0]) & (times <= turns.times_s[-1])
    angle = turns.at(times[inside])
    if len(angle) < 2 or angle[-1] - angle[0] < 2 * FRAME_TURNS:
        return None
    start = angle[0]
    even = np.interp(np.arange(start, angle[-1], 1 / POINTS), angle, signal.values[inside])
    size, hop = int(FRAME_TURNS * POINTS), int(FRAME_TURNS * POINTS / 2)
    frames = np.lib.stride_tricks.sliding_window_view(even, size)[::hop]
    frames = (frames - frames.mean(axis=1, keepdims=True)) * np.hanning(size)
    padded = 4 * size
    power = np.square(np.abs(np.fft.rfft(frames, padded, axis=1)))
    grid = np.exp(np.arange(np.log(LOWEST), np.log(HIGHEST), STEP))
    at = grid * padded / POINTS
    low = at.astype(np.int64)
    share = at - low
    db = 10 * np.log10(power[:, low] * (1 - share) + power[:, low + 1] * share + 1e-20)
    db -= ndimage.uniform_filter1d(db, 101, axis=1, mode="nearest")
    centres = start + (np.arange(len(frames)) * hop + size / 2) / POINTS
    return centres, np.clip(db, 0.0, CEILING_DB).astype(np.float32)


def _aligned(pattern: Floats, reach: int) -> npt.NDArray[np.int64]:
    """Return each frame's shift in grid steps against the mean of the others, by repeated smoothest best paths."""
    shifts = np.zeros(len(pattern), dtype=np.int64)
    for _ in range(3):
        total = _shifted(pattern, shifts).sum(axis=0)
        gains = np.empty((len(pattern), 2 * reach + 1))
        for n, frame in enumerate(pattern):
            others = total - np.roll(frame, -shifts[n])
            others = others - others.mean()
            padded = np.pad(frame, reach, mode="edge")
            gains[n] = np.correlate(padded, others, mode="valid")
        gains /= np.abs(gains).max() + 1e-12
        shifts = _smoothest(gains) - reach
    return shifts


def _shifted(pattern: Floats, shifts: npt.NDArray[np.int64]) -> Floats:
    return np.stack([np.roll(frame, -shift) for frame, shift in zip(pattern, shifts, strict=True)])


def _sharpness(pattern: Floats) -> float:
    mean = pattern.mean(axis=0)
    return float(np.square(mean - mean.mean()).mean())


def _smoothest(gains: Floats) -> npt.NDArray[np.int64]:
    """Return the path through gains, shape (frames, shifts), with the largest sum less its bends (Viterbi)."""
    places = np.arange(gains.shape[1])
    bend = STIFFNESS * np.square(places[:, None] - places[None, :]) / 4
    best, came = gains[0], []
    for row in gains[1:]:
        through = best[:, None] - bend
        came.append(through.argmax(axis=0))
        best = through.max(axis=0) + row
    path = [int(best.argmax())]
    for back in reversed(came):
        path.append(int(back[path[-1]]))
    return np.array(path[::-1])


def _corrected(turns: WheelTurns, centres: Floats, excess: Floats) -> WheelTurns:
    """Return turns re-counted with the relative excess of speed found at each frame's centre (in turns)."""
    fine = np.linspace(turns.times_s[0], turns.times_s[-1], max(int(50 * (turns.times_s[-1] - turns.times_s[0])), 2))
    angle = turns.at(fine)
    factor = 1 + np.interp(angle, centres, ndimage.gaussian_filter1d(excess, 0.7, mode="nearest"))
    return WheelTurns(fine, angle[0] + integrate.cumulative_trapezoid(factor, angle, initial=0), turns.spread)
