"""Which turn each tap of a hand is of: some turns are missed, some tapped twice, and every tap trembles."""

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float64]
Indices = npt.NDArray[np.int64]

TREMBLE_S = 0.03  # of one tap; common practice, no source
GAPS_S = np.geomspace(0.1, 3.5, 180)  # a turn's length, from the fastest wheel to the slowest, 2 % apart
CHANGE = 0.06  # of a turn's length from one to the next, as a wheel slows; judgement
# What any change costs at most, in nats: a hand often pulls, a wheel is seldom braked. Judgement, as are the next two.
PULLED, BRAKED = 4.5, 8.0
MISSED, TWICE = 5.0, 6.0
# A gap that is so long, and so many times its neighbours, is no turn: the hand was away, perhaps to push the wheel
# again, and nobody knows how many turns it missed. At an end it takes more, as a wheel starts slowly. Judgement.
AWAY_S, AWAY_TIMES, AWAY_AT_AN_END, NEIGHBOURS = 1.5, 3.0, 5.0, 3
# How a tap may follow on one before it: how many taps back that is, how many turns have passed, and what that costs.
READINGS = ((1, 1, 0.0), (1, 2, MISSED), (1, 3, 2 * MISSED), (2, 1, TWICE))

_OFF = np.arange(-30, 31)
# By how far off the length was that a length has changed from: from a longer one it was pulled.
_DEAR = np.minimum(np.square(_OFF * np.log(GAPS_S[1] / GAPS_S[0]) / CHANGE) / 2, np.where(_OFF > 0, PULLED, BRAKED))
_NEAR = np.arange(len(GAPS_S))[:, None] + _OFF  # every length's neighbours; beyond the ends nothing is


def numbered_taps(times_s: Floats) -> tuple[Indices, Floats]:
    """Return which taps count, and of which turn each of those is, from 0; `times_s` of shape (n,) rise.

    The likeliest reading of all by dynamic programming (Viterbi, IEEE Trans. Inf. Theory 13 (1967) 260): a gap is one
    turn or more of a length that changes smoothly; a tap that came twice for one turn is passed over.
    """
    known = [(np.zeros(len(GAPS_S)), np.arange(len(GAPS_S)))]  # cost of each length, and the length it came from
    costs, how = [known[0][0]], [np.zeros(len(GAPS_S), dtype=np.int64)]
    for at in range(1, len(times_s)):
        each = []
        for back, turns, dear in READINGS:
            if back > at:
                continue
            misfit = (times_s[at] - times_s[at - back] - turns * GAPS_S) / (np.sqrt(2) * TREMBLE_S)
            each.append(known[at - back][0] + np.square(misfit) / 2 + dear)
        how.append(np.argmin(each, axis=0))
        costs.append(np.min(each, axis=0))
        known.append(_moved(costs[at]))
    return _traced(costs[-1], how, [came for _, came in known])


def without_pauses(times_s: Floats) -> Floats:
    """Return the taps, of those that rise, of the longest stretch in which the hand was never away; shape (m,)."""
    gaps = np.diff(times_s)
    away = [at + 1 for at in range(len(gaps)) if _away(gaps, at)]
    return max(np.split(times_s, away), key=len)


def _away(gaps: Floats, at: int) -> bool:
    sides = [side for side in (gaps[max(at - NEIGHBOURS, 0) : at], gaps[at + 1 : at + 1 + NEIGHBOURS]) if len(side)]
    times = AWAY_TIMES if len(sides) == 2 else AWAY_AT_AN_END
    return bool(gaps[at] > AWAY_S and all(gaps[at] > times * np.median(side) for side in sides))


def _moved(cost: Floats) -> tuple[Floats, Indices]:
    """Return what each length costs once it has changed from any other at its price, and which that was."""
    inside = (_NEAR >= 0) & (GAPS_S.size > _NEAR)
    near = np.where(inside, cost[np.clip(_NEAR, 0, len(cost) - 1)] + _DEAR, np.inf)
    best = near.argmin(axis=1)
    lengths = np.arange(len(cost))
    moved, came = near[lengths, best], _NEAR[lengths, best]
    jumped = int(cost.argmin())
    jump = cost[jumped] + np.where(lengths < jumped, PULLED, BRAKED)
    return np.minimum(moved, jump), np.where(jump < moved, jumped, came)


def _traced(last: Floats, how: list[Indices], came: list[Indices]) -> tuple[Indices, Floats]:
    at, length = len(how) - 1, int(last.argmin())
    kept, turns = [at], [0.0]
    while at > 0:
        back, passed, _ = READINGS[how[at][length]]
        at -= back
        kept.append(at)
        turns.append(float(passed))
        length = int(came[at][length])
    numbers = np.cumsum(turns)
    return np.array(kept[::-1]), (numbers[-1] - numbers)[::-1]
