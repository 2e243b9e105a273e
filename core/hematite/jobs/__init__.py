"""Jobs: the steps, torques and cautions of each choice, by hub design."""

from hematite.jobs.plan import Step, plan

__all__ = ["Step", "plan"]
