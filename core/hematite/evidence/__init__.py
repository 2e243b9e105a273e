"""Evidence: what each witness says of a hub, and how likely each cause makes it."""

from hematite.evidence.heard import heard_statements
from hematite.evidence.observations import Observation, inspected, statements, statements_of, words_of
from hematite.evidence.statement import Statement
from hematite.evidence.weighing import Beliefs, Weighed, weigh

__all__ = [
    "Beliefs",
    "Observation",
    "Statement",
    "Weighed",
    "heard_statements",
    "inspected",
    "statements",
    "statements_of",
    "weigh",
    "words_of",
]
