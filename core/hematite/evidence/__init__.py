"""Evidence: what each witness says, of a hub or of the vehicle, in the tables' words."""

from hematite.evidence.observations import Observation, inspected, statements, statements_of, words_of
from hematite.evidence.sounds import heard_statements
from hematite.evidence.statement import Statement

__all__ = ["Observation", "Statement", "heard_statements", "inspected", "statements", "statements_of", "words_of"]
