"""Odds of lines: how much likelier a spectrum is where lines are due than hiss alone would make it.

Over its floor the power of hiss is gamma-distributed with as many looks as were averaged; with a line of strength a
it is 1 + a times that [published: Bartlett 1948; Percival & Walden 1993, chapter 6]. A line's strength is not known, so
several are averaged, and a line that is due may be missing. All odds are natural logarithms, in nats.
"""

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise

import numpy as np
import numpy.typing as npt
from scipy import special

from hematite.envelopes import OrderSpectrum

Floats = npt.NDArray[np.float64]
Mask = npt.NDArray[np.bool_]

STRENGTHS: Floats = np.exp2(np.arange(9.0))  # of a line, in the floor's power
ABSENT = 0.5  # how often a line that is due does not stand out; judgement
# Nats: no line convicts alone, not the loudest: an echo's, an engine's or a hum's may lie there too. Tones stand so
# much higher over hiss that more of it is certain to be a tone. Judgement.
MOST, MOST_TONAL = 5.0, 7.0
SHARED = 0.25  # of the bands, the share in which a fault is heard; judgement
SMEARS = (0.0, 0.004, 0.012)  # of its order, how wide a line is: slip wanders, and a speed is read so well; judgement
HANN_BINS = 1.5  # neighbouring bins of a Hann window that count as one look
LEAST_ORDER = 0.25
BEYOND, CURVE_POINTS = 8.0, 1500  # nats that a curve of odds reaches, and its points: true to 0.005 at 2000 looks
LOUDEST_CHANCE = 2.0  # nats over the middle: what stands higher is a line, and no chance that bands share; judgement
LEAST_TAIL = 1.0  # nats: what chance alone makes of hiss falls off no more steeply
TAIL = 0.2  # of what lies where nothing is due, the share that tells how chance falls off


def line_odds(spectra: Sequence[OrderSpectrum], muted: Mask | None = None, *, most: float = MOST) -> Floats:
    """Return the odds of a line at every order, for every width that it may have: shape (spectra, smears, n).

    What is `muted`, shape (n,), counts as hiss, at its own order and in wide lines around it.
    """
    orders, looks = spectra[0].orders, spectra[0].looks
    ratio = np.stack([ratio_to_mean(one) for one in spectra])
    if muted is not None:
        ratio[:, muted] = 1.0
    found = []
    for smear in SMEARS:
        mean, count = smeared(ratio, smear * orders / spectra[0].step)
        found.append(np.minimum(_odds_by_order(mean, looks * np.maximum(count / HANN_BINS, 1.0)), most))
    odds = np.stack(found, axis=1)
    odds[..., orders < LEAST_ORDER] = 0.0
    if muted is not None:
        odds[..., muted] = 0.0
    return odds


def ratio_to_mean(spectrum: OrderSpectrum) -> Floats:
    """Return power over the mean of hiss: a floor is a median; of gamma-distributed power that lies below the mean."""
    return np.asarray(spectrum.ratio * special.gammaincinv(spectrum.looks, 0.5) / spectrum.looks)


def smeared(ratio: Floats, half: Floats) -> tuple[Floats, Floats]:
    """Return the mean over `half` so many points either way, and of how many points it is; shapes (…, n) and (n,)."""
    place = np.arange(ratio.shape[-1])
    total = np.concatenate([np.zeros((len(ratio), 1)), np.cumsum(ratio, axis=1, dtype=np.float64)], axis=1)
    low = np.clip(np.rint(place - half), 0, len(place) - 1).astype(np.int64)
    high = np.clip(np.rint(place + half) + 1, 1, len(place)).astype(np.int64)
    return np.asarray((total[:, high] - total[:, low]) / (high - low)), np.asarray(high - low, dtype=np.float64)


def odds_of(ratio: Floats, looks: Floats, strengths: Floats = STRENGTHS) -> Floats:
    """Return the odds of a line by the mean of so many looks' powers over the floor; `strengths` are averaged over."""
    by_strength = np.array([looks * (ratio * a / (1 + a) - np.log1p(a)) for a in strengths])
    highest = np.maximum(by_strength.max(axis=0), 0.0)
    present = (1 - ABSENT) * np.exp(by_strength - highest).mean(axis=0)
    return np.asarray(highest + np.log(ABSENT * np.exp(-highest) + present))


def _odds_by_order(ratio: Floats, looks: Floats) -> Floats:
    """Return `odds_of` for ratios of shape (…, n) and looks of shape (n,), up to any odds that are asked for.

    Neighbouring orders have as many looks, so the odds are read from a curve for each number of them.
    """
    found = np.empty(ratio.shape)
    edges = [0, *(np.flatnonzero(np.diff(looks)) + 1).tolist(), len(looks)]
    for low, high in pairwise(edges):
        found[..., low:high] = np.interp(ratio[..., low:high], *_curve(float(looks[low])))
    return found


@lru_cache(maxsize=4096)
def _curve(looks: float) -> tuple[Floats, Floats]:
    """Return ratios and the odds of a line there, from no power to where no odds are asked any more."""
    highest = 2.0
    while float(odds_of(np.array(highest), np.array(looks))) < BEYOND:
        highest *= 1.5
    ratios = np.linspace(0.0, highest, CURVE_POINTS)
    return ratios, odds_of(ratios, np.array(looks))


def own_share(log_ratio: Floats, half: Floats) -> Floats:
    """Return how much of what bands say is each one's own, shape (n,), from their logs of power over the floor.

    A gust, a word, a hand on the pickup are heard in all bands alike: one chance, not one for each. Of n bands as many
    count as their correlations within `half` so many points leave independent, n² over the sum of their squares, the
    effective number of Bretherton et al., Journal of Climate 12 (1999) 1990-2009.
    """
    bands = len(log_ratio)
    if bands == 1:
        return np.ones(log_ratio.shape[1])
    middle, count = smeared(log_ratio, half)
    apart = np.clip(log_ratio - middle, -LOUDEST_CHANCE, LOUDEST_CHANCE)
    own, _ = smeared(np.square(apart), half)
    shared = np.full(log_ratio.shape[1], float(bands))
    for one in range(bands):
        for other in range(one):
            both, _ = smeared((apart[one] * apart[other])[None], half)
            squared = np.square(both[0]) / (own[one] * own[other] + 1e-30)
            shared += 2 * np.clip(squared - HANN_BINS / count, 0.0, 1.0)
    return np.asarray(bands / shared)


def in_some_bands(odds: Floats) -> Floats:
    """Return the odds of what is heard in some of the bands, from shape (bands, …): in each it is there or not."""
    if len(odds) == 1:
        return np.asarray(odds[0])
    return np.asarray(np.logaddexp(np.log(1 - SHARED), np.log(SHARED) + odds).sum(axis=0))


def mean_odds(odds: Floats, axis: int | tuple[int, ...] | None = None) -> Floats:
    """Return the log of the mean odds: one of several places it is, and nobody knows which."""
    highest = odds.max(axis=axis, keepdims=True)
    return np.asarray(np.squeeze(highest, axis) + np.log(np.exp(odds - highest).mean(axis=axis)))


def held_against(odds: float, elsewhere: Floats) -> float:
    """Return odds as far as chance in the same recording allows: the same lines laid where nothing is due make no less.

    How often chance makes as much falls off exponentially beyond the upper fifth of what was found `elsewhere`; that
    makes odds of at most −1/(e p ln p) for p [published: Sellke, Bayarri & Berger, The American Statistician 55 (2001)
    62–71]. Where only hiss is, both agree; beside another's lines the second is the smaller.
    """
    start = float(np.quantile(elsewhere, 1 - TAIL))
    beyond = elsewhere[elsewhere > start]
    falls = max(float((beyond - start).mean()), LEAST_TAIL) if len(beyond) else LEAST_TAIL
    return min(odds, odds_of_chance(-max(odds - start, 0.0) / falls + np.log(TAIL)))


def odds_of_chance(log_chance: float) -> float:
    """Return the odds that something is there, at most, by the log of how often chance alone makes as much."""
    return -1 - log_chance - float(np.log(-log_chance)) if log_chance < -1 else 0.0
