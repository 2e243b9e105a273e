"""Following: which test to do next, what would settle a hub, what contradicts and what would overturn."""

from hematite.following.advice import NextTest, next_job, next_test, settling_test
from hematite.following.looks import Look, Progress, applicable, looks, minutes_of
from hematite.following.overturning import Contradiction, Overturner, contradictions, overturners
from hematite.following.waiting import Waiting, columns, waits_for

__all__ = [
    "Contradiction",
    "Look",
    "NextTest",
    "Overturner",
    "Progress",
    "Waiting",
    "applicable",
    "columns",
    "contradictions",
    "looks",
    "minutes_of",
    "next_job",
    "next_test",
    "overturners",
    "settling_test",
    "waits_for",
]
