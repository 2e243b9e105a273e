"""Evidence: what each witness says of a hub, and how likely each cause makes it."""

from hematite.evidence.heard import heard_statements
from hematite.evidence.observations import Observation, statements
from hematite.evidence.weighing import Beliefs, Statement, Weighed, weigh

__all__ = ["Beliefs", "Observation", "Statement", "Weighed", "heard_statements", "statements", "weigh"]
