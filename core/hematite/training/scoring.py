"""How well somebody knows how sure to be: proper scoring rules, and calibration with how little it rests on.

Brier 1950 (the mean squared distance of what was said from what was so), its parts after Murphy 1973, and the
logarithmic rule of Good 1952; shares with Jeffreys intervals (Brown, Cai and DasGupta 2001). [published; formulas from
memory, held against scikit-learn and statsmodels in the tests]
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from scipy import stats

LEVEL = 0.9  # of the intervals
LEAST, MOST = 0.01, 0.99  # nobody is held to be surer than that: a miss would cost without end
FEW = 10  # from here on a share is worth a word; judgement
Said = tuple[float, bool]  # how sure, and whether it was so


@dataclass(frozen=True)
class Held:
    """What came of one degree of sureness: said so often, right so often, and between which shares that may lie."""

    said: float
    right: int
    of: int
    low: float
    high: float

    @property
    def share(self) -> float:
        """Return how often it was right."""
        return self.right / self.of


@dataclass(frozen=True)
class Score:
    """How good the answers were: the rules' figures, lower is better; `spread` of Brier's parts, see `parts`."""

    of: int
    right: int
    brier: float
    log: float
    reliability: float
    resolution: float
    uncertainty: float
    held: tuple[Held, ...]
    lean: str


def score(said: Iterable[Said]) -> Score | None:
    """Return the score of answers; None for none. How sure is a share from 0 to 1."""
    rows = list(said)
    if not rows:
        return None
    p = np.clip(np.array([sure for sure, _ in rows], dtype=float), LEAST, MOST)
    y = np.array([so for _, so in rows], dtype=float)
    held = calibration(rows)
    reliability, resolution, uncertainty = parts(rows)
    log = float(-np.mean(y * np.log(p) + (1 - y) * np.log(1 - p)))
    brier = float(np.mean(np.square(np.array([sure for sure, _ in rows]) - y)))
    return Score(len(rows), int(y.sum()), brier, log, reliability, resolution, uncertainty, held, lean(rows))


def calibration(said: Sequence[Said]) -> tuple[Held, ...]:
    """Return for each degree of sureness, least first, how often it was right."""
    found = []
    for sure in sorted({sure for sure, _ in said}):
        own = [so for one, so in said if one == sure]
        low, high = interval(sum(own), len(own))
        found.append(Held(sure, sum(own), len(own), low, high))
    return tuple(found)


def interval(right: int, of: int) -> tuple[float, float]:
    """Return between which shares the true one lies with `LEVEL`: Jeffreys, open where none or all were right."""
    a, b, tail = right + 0.5, of - right + 0.5, (1 - LEVEL) / 2
    low = 0.0 if right == 0 else float(stats.beta.ppf(tail, a, b))
    return low, 1.0 if right == of else float(stats.beta.ppf(1 - tail, a, b))


def parts(said: Sequence[Said]) -> tuple[float, float, float]:
    """Return reliability, resolution and uncertainty: Brier's score is the first less the second and with the third."""
    usual = sum(so for _, so in said) / len(said)
    held = calibration(said)
    weights = [one.of / len(said) for one in held]
    reliability = sum(w * (one.said - one.share) ** 2 for w, one in zip(weights, held, strict=True))
    resolution = sum(w * (one.share - usual) ** 2 for w, one in zip(weights, held, strict=True))
    return reliability, resolution, usual * (1 - usual)


def lean(said: Sequence[Said]) -> str:
    """Return 'over' where somebody is surer than right, 'under' where less sure, '' where that cannot be told.

    By how far the hits are from what was said, in standard deviations of a well calibrated one (Spiegelhalter 1986).
    """
    spread = math.sqrt(sum(p * (1 - p) for p, _ in said))
    if len(said) < FEW or not spread:
        return ""
    z = (sum(so for _, so in said) - sum(p for p, _ in said)) / spread
    edge = float(stats.norm.ppf(1 - (1 - LEVEL) / 2))
    return "over" if z < -edge else "under" if z > edge else ""
