"""Jobs: plans that follow from how a hub is built, what they need, and what is done when something will not move."""

from hematite.jobs.day import Day, Slot, day
from hematite.jobs.lists import Item, Lists, lists
from hematite.jobs.plan import HubJob, Plan, Renewed, assumed, both_sides, plan
from hematite.jobs.printed import assumed_json, day_json, lists_json, plan_json, step_json, torque_json
from hematite.jobs.safe import Lift, making_safe
from hematite.jobs.schedule import Means
from hematite.jobs.step import Step
from hematite.jobs.stuck import Cost, Rung, cost, freeing_step, ladder, rungs
from hematite.jobs.ticks import Tick, is_step, standing
from hematite.jobs.ways import followed_by

__all__ = [
    "Cost",
    "Day",
    "HubJob",
    "Item",
    "Lift",
    "Lists",
    "Means",
    "Plan",
    "Renewed",
    "Rung",
    "Slot",
    "Step",
    "Tick",
    "assumed",
    "assumed_json",
    "both_sides",
    "cost",
    "day",
    "day_json",
    "followed_by",
    "freeing_step",
    "is_step",
    "ladder",
    "lists",
    "lists_json",
    "making_safe",
    "plan",
    "plan_json",
    "rungs",
    "standing",
    "step_json",
    "torque_json",
]
