"""Policy: what a workshop chooses where good mechanics differ, its limits and its prices."""

from hematite.policy.policy import Limit, Policy, read_policy
from hematite.policy.schools import Option, School, defaults, schools

__all__ = ["Limit", "Option", "Policy", "School", "defaults", "read_policy", "schools"]
