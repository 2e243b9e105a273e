"""Jobs: the steps, torques and cautions of each choice, by hub design."""

from hematite.jobs.plan import Lift, Step, making_safe, plan

__all__ = ["Lift", "Step", "making_safe", "plan"]
