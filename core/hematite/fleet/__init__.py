"""A workshop's fleet: what comes back too soon, and the work to come against the hours there are."""

from hematite.fleet.comebacks import NO_REPAIR, NO_SIGN, WATCHED_DAYS, Group, Repair, comebacks, wilson
from hematite.fleet.workload import Week, workload

__all__ = ["NO_REPAIR", "NO_SIGN", "WATCHED_DAYS", "Group", "Repair", "Week", "comebacks", "wilson", "workload"]
