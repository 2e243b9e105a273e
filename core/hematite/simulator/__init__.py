"""A wheel's sound for a hub, a speed and a hidden condition: the stand-in for a pickup on the metal."""

from hematite.simulator.nut import DRAGS_UNDER_MM, WORN, Turned, nut_play_mm, turned_nut, usual_loss
from hematite.simulator.sources import CONDITIONS
from hematite.simulator.wheel import PLAYED_S, PLAYED_TURNS_PER_S, Pickup, simulate, simulate_corners, simulated_play_mm

__all__ = [
    "CONDITIONS",
    "DRAGS_UNDER_MM",
    "PLAYED_S",
    "PLAYED_TURNS_PER_S",
    "WORN",
    "Pickup",
    "Turned",
    "nut_play_mm",
    "simulate",
    "simulate_corners",
    "simulated_play_mm",
    "turned_nut",
    "usual_loss",
]
