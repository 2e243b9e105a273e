"""Verdict: which corner, what to do about it, why, and what would change it."""

from hematite.verdict.assessment import Assessment, HubVerdict, assess
from hematite.verdict.choice import Choice, choices, decide

__all__ = ["Assessment", "Choice", "HubVerdict", "assess", "choices", "decide"]
