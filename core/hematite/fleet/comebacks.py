"""Bearings that come back too soon, counted by part, person, road or school; and how little such counts prove.

A share of few is worth little, and among many groups one always looks bad. So each share carries its range (Wilson's
score interval, 95 %: E. B. Wilson, J. Am. Stat. Assoc. 22 (1927), 209), a group is held against all others by Fisher's
exact test, and what that says is made harder by the number of groups looked at (S. Holm, Scand. J. Stat. 6 (1979), 65).
A repair counts once the whole time is over: of one done last week nobody knows whether it will hold, and to count
it only where it came back would make every share too high. One that held is known only where the hub was seen again;
one that came back is always known: the share of a workshop that loses sight of what holds is still too high.
"""

import math
from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np
from scipy.stats import binomtest, fisher_exact

from hematite.decision import UNTOUCHED
from hematite.language import later, say

WATCHED_DAYS = 365.0  # judgement: a bearing that is set and packed rightly is felt again at the next service
LEAST = 5  # of a group: below that no share is said (judgement)
# What is no repair that could hold or not; and what, done at a hub later on, is no sign that the last one did not hold:
# to repack is service, done again in its own time. Judgement.
NO_REPAIR = (*UNTOUCHED, "top_up", "off_road")
NO_SIGN = (*UNTOUCHED, "top_up", "repack")
DOUBT = 0.05  # how often chance alone may say that something differs


@dataclass(frozen=True)
class Repair:
    """One repair at one hub. `by`: its groups, as part → number; `ago_days`: how long ago it was done.

    `seen_days`: how long after it the vehicle was last seen; `back_days`: after how many days it came back, None where
    it has not.
    """

    by: Mapping[str, str]
    ago_days: float
    seen_days: float
    back_days: float | None = None


@dataclass(frozen=True)
class Group:
    """One group of repairs: how many came back within the time, of how many, the share's range, and what that proves.

    `chance`: how often chance alone would set it apart so far from all others, among as many groups; None where there
    are too `few`, or no others.
    """

    by: str
    name: str
    back: int
    of: int
    low: float
    high: float
    few: bool
    chance: float | None
    words: str


def wilson(back: int, of: int, *, level: float = 0.95) -> tuple[float, float]:
    """Return the range of a share by Wilson's score interval; the whole range for none of none."""
    if not of:
        return 0.0, 1.0
    found = binomtest(back, of).proportion_ci(level, method="wilson")
    return float(found.low), float(found.high)


def comebacks(repairs: Iterable[Repair], *, within_days: float = WATCHED_DAYS) -> list[Group]:
    """Return every group of repairs, by what they are grouped, those that came back most first."""
    known = [one for one in repairs if _known(one, within_days)]
    groups: dict[str, dict[str, list[bool]]] = defaultdict(lambda: defaultdict(list))
    for one in known:
        for by, name in one.by.items():
            if name:
                groups[by][name].append(_came_back(one, within_days))
    return [group for by, named in groups.items() for group in _of_one_kind(by, named)]


def _known(one: Repair, within_days: float) -> bool:
    return one.ago_days >= within_days and (_came_back(one, within_days) or one.seen_days >= within_days)


def _came_back(one: Repair, within_days: float) -> bool:
    return one.back_days is not None and one.back_days <= within_days


def _of_one_kind(by: str, named: Mapping[str, list[bool]]) -> list[Group]:
    total, back = sum(map(len, named.values())), sum(map(sum, named.values()))
    chances = {
        name: float(fisher_exact(np.array([_split(sum(rows), len(rows)), _others(rows, back, total)])).pvalue)
        for name, rows in named.items()
        if len(rows) >= LEAST and total > len(rows)
    }
    harder = _holm(chances)
    made = [_group(by, name, rows, harder.get(name), back / total) for name, rows in named.items()]
    return sorted(made, key=lambda one: (-one.back / one.of, -one.of, one.name))


def _split(back: int, of: int) -> list[int]:
    return [back, of - back]


def _others(rows: list[bool], back: int, total: int) -> list[int]:
    return _split(back - sum(rows), total - len(rows))


def _holm(chances: Mapping[str, float]) -> dict[str, float]:
    """Return chances made harder by how many were looked at: the least times all, the next times one less."""
    worst, found = 0.0, {}
    for n, (name, chance) in enumerate(sorted(chances.items(), key=lambda one: one[1])):
        worst = max(worst, min(1.0, chance * (len(chances) - n)))
        found[name] = worst
    return found


def _group(by: str, name: str, rows: list[bool], chance: float | None, usual: float) -> Group:
    back, of = sum(rows), len(rows)
    low, high = wilson(back, of)
    return Group(by, name, back, of, low, high, of < LEAST, chance, _words(back, of, chance, usual))


def _words(back: int, of: int, chance: float | None, usual: float) -> str:
    if of < LEAST:
        return say("{of} are too few to say anything.", of=of)
    if chance is None:
        return say("There is nothing beside it to hold it against.")
    if chance > DOUBT:
        return say("It can be chance.")
    often = say("once in {floor:,} such tables", floor=math.floor(1 / chance)) if chance > 0 else say("hardly ever")
    words = later("It comes back more often than the others; chance alone does that {often}. It does not say why.")
    if back / of <= usual:
        words = later("It comes back less often than the others; chance alone does that {often}. It does not say why.")
    return say(words, often=often)
