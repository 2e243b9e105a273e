"""How often the right corner, the right mechanism and no innocent bearing are named, over a population of trials."""

from collections.abc import Sequence
from dataclasses import dataclass

from hematite.bundles.case import assess_case
from hematite.decision.culprits import Culprit

from bench.recorded import Truth, trials


@dataclass(frozen=True)
class Outcome:
    """One case judged: its truth, and what was right. A cabin run needs to name no more than the side."""

    truth: Truth
    corner: bool
    mechanism: bool
    accused: bool
    leads: bool


@dataclass(frozen=True)
class Score:
    """Shares over a population, each with the number of cases that it is of."""

    corner: tuple[float, int]
    leads: tuple[float, int]
    mechanism_known: tuple[float, int]
    mechanism_blind: tuple[float, int]
    falsely_accused: tuple[float, int]


def judge_trials(level: str, *, count: int, seed: int) -> list[Outcome]:
    """Return the outcome of each case of a population."""
    found = []
    for case, truth in trials(level, count=count, seed=seed):
        assessment, _ = assess_case(case)
        first = assessment.culprits[:1]
        right = [c for c in first if _right(c, truth)]
        found.append(
            Outcome(
                truth=truth,
                corner=bool(right) if truth.cause else not first,
                mechanism=any(c.mechanism == truth.mechanism for c in right),
                accused=truth.cause != "bearing" and any(c.cause == "bearing" for c in assessment.culprits),
                leads=assessment.lead.hub.id == truth.hub,
            )
        )
    return found


def _right(culprit: Culprit, truth: Truth) -> bool:
    if culprit.cause != truth.cause:
        return False
    in_cabin = truth.protocol == "road_cabin"
    return (
        not truth.hub or culprit.hub == truth.hub or (in_cabin and culprit.hub is None and culprit.side == truth.side)
    )


def score(outcomes: Sequence[Outcome]) -> Score:
    """Return the shares over outcomes; a share of no cases is 0."""
    bearing = [o for o in outcomes if o.truth.cause == "bearing"]
    named = [o for o in bearing if o.corner]
    return Score(
        corner=_share([o.corner for o in bearing]),
        leads=_share([o.leads for o in bearing if o.truth.protocol != "road_cabin"]),
        mechanism_known=_share([o.mechanism for o in named if o.truth.known_geometry]),
        mechanism_blind=_share([o.mechanism for o in named if not o.truth.known_geometry]),
        falsely_accused=_share([o.accused for o in outcomes if o.truth.cause != "bearing"]),
    )


def _share(hits: Sequence[bool]) -> tuple[float, int]:
    return (sum(hits) / len(hits) if hits else 0.0, len(hits))
