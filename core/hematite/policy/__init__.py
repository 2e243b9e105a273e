"""Policy: what a workshop chooses where good mechanics differ, its limits and its prices."""

from hematite.policy.policy import Limit, Policy, known_only, read_policy
from hematite.policy.schools import Option, School, defaults, schools
from hematite.policy.shop import Shop

__all__ = ["Limit", "Option", "Policy", "School", "Shop", "defaults", "known_only", "read_policy", "schools"]
