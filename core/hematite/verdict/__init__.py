"""Verdict: which corner, what to do about it, why, and what would change it."""

from hematite.decision.choice import Choice, choices, recommend
from hematite.decision.culprits import Culprit
from hematite.verdict.assessment import Assessment, HubVerdict, assess
from hematite.verdict.priced import price_choice, pricing_json
from hematite.verdict.printed import as_json

__all__ = [
    "Assessment",
    "Choice",
    "Culprit",
    "HubVerdict",
    "as_json",
    "assess",
    "choices",
    "price_choice",
    "pricing_json",
    "recommend",
]
