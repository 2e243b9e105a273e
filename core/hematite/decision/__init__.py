"""Decision: what to do at each hub by rule, who is to be named, and what that makes of the whole vehicle."""

from hematite.decision.choice import ROADS, UNTOUCHED, Choice, choices, recommend
from hematite.decision.culprits import ACT_AT, ELSEWHERE, GROUPS, SUSPECT_AT, Culprit, act_at, name_culprits, touched
from hematite.decision.facts import facts_of
from hematite.decision.vehicle import GRADES, Decision, decide

__all__ = [
    "ACT_AT",
    "ELSEWHERE",
    "GRADES",
    "GROUPS",
    "ROADS",
    "SUSPECT_AT",
    "UNTOUCHED",
    "Choice",
    "Culprit",
    "Decision",
    "act_at",
    "choices",
    "decide",
    "facts_of",
    "name_culprits",
    "recommend",
    "touched",
]
