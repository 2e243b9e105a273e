"""Jobs: the steps, torques and cautions of each choice, by hub design."""

from hematite.jobs.plan import Step, making_safe, plan

__all__ = ["Step", "making_safe", "plan"]
