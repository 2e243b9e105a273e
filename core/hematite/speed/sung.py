"""The speed of a wheel let go, from the tones of a bearing worn all round: however often it was pushed again.

Frame by frame the tones of a comb are laid at every speed; between frames a wheel let go slows a little, and now and
then an arm pushes it. How likely the whole recording is over all such courses is added up by the forward algorithm of a
hidden Markov model, the likeliest course is found by Viterbi's [published: Rabiner, Proceedings of the IEEE 77 (1989)
257-286]. What holds its pitch while the wheel slows is hum, and is left out.
"""

from collections.abc import Sequence

import numpy as np
import scipy.fft
from scipy import integrate, ndimage, special

from hematite.odds import Floats, odds_of, smeared
from hematite.speed.spun import (
    COUNTED_SHARE,
    MISCOUNTED,
    RATE_SPREAD,
    TOP_HZ,
    USUAL_RATE,
    Lines,
    Spun,
    evenly,
    floor_reach,
)
from hematite.speed.stated import WheelTurns
from hematite.traces import Trace

FRAME_S, HOP_S = 1.0, 0.25
FRAME_HZ = 400.0
SHARED_FRAMES = 0.5  # of a frame's odds that are its own: neighbours overlap
LEAST_HZ, FLOOR_FRAMES = 1.0, 5
STRENGTHS = np.array([1.0, 3.0, 10.0, 30.0])
MOST = 3.0  # nats of one line in one frame; judgement
STEP = 0.01  # of the logarithm of speed
RATES: Floats = np.exp(np.arange(np.log(0.9), np.log(10.0), STEP))
FREE_HZ: Floats = np.exp(np.arange(np.log(4.0), np.log(60.0), STEP))  # of tones of nobody knows what
SLOWS, PUSHED = 10, 40  # steps in one hop, at most
SLOWING = 5.0  # steps in one hop that a wheel let go loses, in the mean; judgement
STEADY_GAIN, PUSHES = 0.3, 0.04  # how likely one step faster, and a push, beside slowing; judgement
HELD_SHARE = 0.6  # of the frames in which hum stands at one pitch
HELD_ODDS = 0.5
TOLD = 4.6  # nats: courses less likely than that against hiss are no finding
RIVALS = 2
SPREAD = 0.02  # what is left of the doubt about speed; judgement


def find_sung(tones: Trace, combs: Sequence[Lines], *, counted: float | None = None) -> tuple[Spun, ...]:
    """Return the likeliest courses by the combs' tones, best first; empty where nothing sings, or in a short recording.

    `counted`: how many turns the wheel made in all.
    """
    frames = _frames(tones)
    if frames is None:
        return ()
    times, odds, step = frames
    found = [_spun(times, *_course(odds, step, comb), comb, counted) for comb in combs if comb.tonal]
    told = sorted((one for one in found if one.odds >= TOLD), key=lambda one: -one.odds)
    apart = [one for n, one in enumerate(told) if all(abs(one.first_rate / o.first_rate - 1) > 0.05 for o in told[:n])]
    return tuple(apart[:RIVALS])


def _frames(tones: Trace) -> tuple[Floats, Floats, float] | None:
    """Return the middles of frames in s, the odds of a line at every frequency, (frames, n), and the step in Hz."""
    even = evenly([tones], FRAME_HZ)[0]
    size, hop = int(FRAME_S * FRAME_HZ), int(HOP_S * FRAME_HZ)
    if len(even) < 3 * size:
        return None
    cuts = np.lib.stride_tricks.sliding_window_view(even, size)[::hop]
    padded = scipy.fft.next_fast_len(2 * size, real=True)
    step = FRAME_HZ / padded
    bins = scipy.fft.rfft((cuts - cuts.mean(axis=1, keepdims=True)) * np.hanning(size), padded)[:, : int(TOP_HZ / step)]
    log_power = np.log(np.square(np.abs(bins)) + 1e-30)
    floor, _ = smeared(log_power, floor_reach(log_power.shape[1], step))
    floor = ndimage.uniform_filter1d(floor, FLOOR_FRAMES, axis=0, mode="nearest")
    ratio = np.exp(np.minimum(log_power - floor - np.euler_gamma, 7.0))
    odds = np.minimum(odds_of(ratio, np.ones(ratio.shape[1]), STRENGTHS), MOST)
    stands = ndimage.maximum_filter1d((odds > HELD_ODDS).astype(float), 3, axis=1).mean(axis=0)
    odds[:, ndimage.maximum_filter1d(stands > HELD_SHARE, 3)] = 0.0
    return np.asarray((np.arange(len(cuts)) * hop + size / 2) / FRAME_HZ, dtype=np.float64), odds, step


def _course(odds: Floats, step: float, comb: Lines) -> tuple[float, Floats]:
    """Return the odds of a comb against hiss over all courses, and its likeliest course: turns a second at each frame.

    Of a comb that is free it is the frequency of the first of its tones.
    """
    grid = FREE_HZ if comb.free else RATES
    places = np.rint(comb.orders[:, None] * grid / step).astype(np.int64)
    inside = (places < odds.shape[1]) & (places * step >= LEAST_HZ)
    laid = np.where(inside, odds[:, np.where(inside, places, 0)], 0.0)  # (frames, lines, speeds)
    each = SHARED_FRAMES * np.tensordot(laid, comb.weights, (1, 0))
    usual = np.zeros(len(grid)) if comb.free else -0.5 * np.square(np.log(grid / USUAL_RATE) / RATE_SPREAD)
    moves = _moves()[::-1]
    forward = usual - special.logsumexp(usual) + each[0]
    best, came = forward, []
    for row in each[1:]:
        arrived = _reached(forward) + moves
        forward = special.logsumexp(arrived, axis=1) + row
        arrived = _reached(best) + moves
        choice = arrived.argmax(axis=1)
        came.append(np.arange(len(grid)) - PUSHED + choice)
        best = arrived[np.arange(len(grid)), choice] + row
    path = [int(best.argmax())]
    for back in reversed(came):
        path.append(int(back[path[-1]]))
    return float(special.logsumexp(forward)), grid[np.array(path[::-1])]


def _moves() -> Floats:
    """Return the log of how likely each change of speed is from one frame to the next, from the greatest slowing up."""
    steps = np.arange(-SLOWS, PUSHED + 1)
    slows = np.where(steps <= 0, np.exp(steps / SLOWING), 0.0)
    slows[steps == 1] = STEADY_GAIN
    pushed = np.where(steps > 1, 1.0, 0.0)
    return np.asarray(np.log((1 - PUSHES) * slows / slows.sum() + PUSHES * pushed / pushed.sum()))


def _reached(odds: Floats) -> Floats:
    """Return what may come to each speed, shape (speeds, moves), from the greatest push to the greatest slowing."""
    beyond = np.pad(odds, (PUSHED, SLOWS), constant_values=-1e9)
    return np.lib.stride_tricks.sliding_window_view(beyond, SLOWS + PUSHED + 1)[: len(odds)]


def _spun(times: Floats, odds: float, course: Floats, comb: Lines, counted: float | None) -> Spun:
    rates = np.exp(ndimage.gaussian_filter1d(np.log(course), 1.0))
    ends = (rates[0] + rates[-1]) * times[0]  # half a frame at the start and one at the end
    in_all = float(integrate.trapezoid(rates, times) + ends)
    if comb.free:  # how it slowed is told, how fast it was is not, but by what was counted or is usual
        rates = rates * ((counted or USUAL_RATE * (times[-1] + times[0])) / in_all)
    elif counted:
        odds -= 0.5 * float(np.square((in_all - counted) / max(MISCOUNTED, COUNTED_SHARE * counted)))
    turns = integrate.cumulative_trapezoid(rates, times, initial=0)
    return Spun(WheelTurns(times, turns, SPREAD), odds, float(rates[0]), None, 0.0)
