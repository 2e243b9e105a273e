"""Tones that are not the wheel's: geared to it as an engine under power is, or keeping their pitch while it changes.

They are named so that nobody takes them for a bearing, and they count for nothing: every car has an engine.
"""

import numpy as np
import numpy.typing as npt
from scipy import ndimage, signal

from hematite.envelopes import OrderSpectrum
from hematite.families.combs import Family
from hematite.families.whole import comb_heights, in_nats, robust_spread
from hematite.recordings.decoding import Samples
from hematite.recordings.quality import MAINS_HZ

Floats = npt.NDArray[np.float64]

FIRINGS = (1.0, 2.0, 4.0)  # of the crankshaft's turns; four-stroke engines of two to eight cylinders share these
GEARED_ORDERS = (1.7, 16.0)  # crankshaft turns to one of the wheel, from top to bottom gear; common practice, no source
WHOLE = 0.08  # lines nearer to a whole order belong to the wheel
CEILING_DB, LEAST_DB = 30.0, 12.0  # least: sixteen times the floor's power, each of the lines; judgement
LEAST_SPREAD_DB = 1.5
DRAWN = 40  # sets of lines that belong to no engine, laid for chance
STEADY_HZ = (20.0, 400.0)
STEADY_BLOCK_S = 2.0
STEADY_DB = 15.0  # in the middle block; judgement


def geared_tones(hum: OrderSpectrum) -> Family:
    """Return the tones of an engine geared to the wheel: 1×, 2× and 4× of an order that is no whole one.

    Held against sets of three orders that stand in no such proportion, drawn in the same spectrum.
    """
    db = np.clip(hum.db(), 0.0, CEILING_DB)
    db = np.where(np.abs(hum.orders - np.round(hum.orders)) < WHOLE, 0.0, db)
    candidates = np.arange(GEARED_ORDERS[0], min(GEARED_ORDERS[1], hum.orders[-1] / FIRINGS[-1]), hum.step)
    if not len(candidates):
        return Family("geared_tones", 0.0, 0.0, 0.0, 0.0, ())
    scores = _least(db, candidates, FIRINGS, hum.step)
    at = int(scores.argmax())
    dice = np.random.default_rng(len(db))
    apart = np.column_stack([np.ones(DRAWN), dice.uniform(1.3, 1.9, DRAWN), dice.uniform(2.3, 3.8, DRAWN)])
    chance = np.array([_least(db, candidates, tuple(parts), hum.step).max() for parts in apart])
    spread = robust_spread(chance, LEAST_SPREAD_DB)
    strength = (float(scores[at]) - float(np.median(chance))) / spread if scores[at] >= LEAST_DB else 0.0
    orders = candidates[at] * np.array(FIRINGS)
    heights = comb_heights(db, orders, hum.step)
    lines = tuple((f"{k:.0f}×", float(o), float(h)) for k, o, h in zip(FIRINGS, orders, heights, strict=True))
    return Family("geared_tones", orders[0], orders[0], float(scores[at]), in_nats(strength), lines)


def _least(db: Floats, firsts: Floats, parts: tuple[float, ...], step: float) -> Floats:
    return np.asarray(comb_heights(db, np.array(parts)[:, None] * firsts, step).min(axis=0))


def steady_tones_hz(low: Samples, *, rate: float, fastest_over_slowest: float) -> list[float]:
    """Return the frequencies of tones that stay while the wheel's speed changes; empty when it hardly does.

    `low` is the sound itself, shape (n,). A line counts when it stands in the middle one of blocks of two seconds and
    is no multiple of the mains.
    """
    size = int(STEADY_BLOCK_S * rate)
    if fastest_over_slowest < 1.15 or len(low) < 4 * size:
        return []
    freqs, _, power = signal.spectrogram(low, rate, window="hann", nperseg=size, noverlap=size // 2)
    db = 10 * np.log10(power + 1e-30)
    over = np.median(db - ndimage.median_filter(db, size=(41, 1), mode="nearest"), axis=1)
    peaks, _ = signal.find_peaks(over, height=STEADY_DB, distance=3)
    found = [float(freqs[p]) for p in peaks if STEADY_HZ[0] <= freqs[p] <= STEADY_HZ[1]]
    return [hz for hz in found if not any(abs(hz / mains - round(hz / mains)) * mains < 1.0 for mains in MAINS_HZ)]
