"""Policy: what a workshop chooses where good mechanics differ, its limits and its prices."""

from hematite.policy.policy import Limit, Policy, known_only, read_policy
from hematite.policy.schools import Option, School, defaults, schools

__all__ = ["Limit", "Option", "Policy", "School", "defaults", "known_only", "read_policy", "schools"]
