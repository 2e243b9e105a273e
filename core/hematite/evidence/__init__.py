"""Evidence: what each witness says of a hub, and how likely each cause makes it."""

from hematite.evidence.observations import Observation, heard_statements, statements
from hematite.evidence.weighing import Beliefs, Statement, weigh

__all__ = ["Beliefs", "Observation", "Statement", "heard_statements", "statements", "weigh"]
