"""Listening: what one recording tells, what a road run tells, and the corners set against each other."""

from hematite.listening.band import LOWEST_HZ, NARROWEST, only_band
from hematite.listening.corners import Corner, compare
from hematite.listening.heard import Heard, heard_from_json, heard_to_json
from hematite.listening.hearing import listen
from hematite.listening.road import RoadTest
from hematite.listening.shown import shown_spectrum
from hematite.listening.situation import Segment, Situation
from hematite.listening.so_far import SoFar, as_it_goes_on, hear_so_far, how_surely

__all__ = [
    "LOWEST_HZ",
    "NARROWEST",
    "Corner",
    "Heard",
    "RoadTest",
    "Segment",
    "Situation",
    "SoFar",
    "as_it_goes_on",
    "compare",
    "hear_so_far",
    "heard_from_json",
    "heard_to_json",
    "how_surely",
    "listen",
    "only_band",
    "shown_spectrum",
]
