"""Tightening: extensions, wrenches, stages, star order, wheel nuts twice over, and the stop-gap where nobody knows."""

from hematite.tightening.star import star_order
from hematite.tightening.stop_gap import StopGap, grades, proof_load_kn, stop_gap
from hematite.tightening.wheel_nuts import Again, again, retightened
from hematite.tightening.wrench import Wrench, choose_wrench, set_with_extension, stages, strokes

__all__ = [
    "Again",
    "StopGap",
    "Wrench",
    "again",
    "choose_wrench",
    "grades",
    "proof_load_kn",
    "retightened",
    "set_with_extension",
    "stages",
    "star_order",
    "stop_gap",
    "strokes",
]
