"""The trainer: made-up hubs that hide something, the answers that they give, and how well they were told."""

from hematite.training.drawing import draw
from hematite.training.levels import Level, Matter, Topic, level, levels, sure_steps, topic, topics
from hematite.training.marking import Mark, Option, harms, mark, matter_words, names_a_hub, options, stops
from hematite.training.observed import Observed, Step
from hematite.training.observer import observe
from hematite.training.scoring import Held, Score, calibration, score
from hematite.training.truth import Truth
from hematite.training.vehicles import described, vehicle_of

__all__ = [
    "Held", "Level", "Mark", "Matter", "Observed", "Option", "Score", "Step", "Topic", "Truth", "calibration",
    "described", "draw", "harms", "level", "levels", "mark", "matter_words", "names_a_hub", "observe", "options",
    "score", "stops", "sure_steps", "topic", "topics", "vehicle_of",
]  # fmt: skip
