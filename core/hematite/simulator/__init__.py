"""A wheel's sound for a hub, a speed and a hidden condition: the stand-in for a pickup on the metal."""

from hematite.simulator.nut import nut_play_mm
from hematite.simulator.sources import CONDITIONS
from hematite.simulator.wheel import PLAYED_S, PLAYED_TURNS_PER_S, Pickup, simulate, simulate_corners, simulated_play_mm

__all__ = [
    "CONDITIONS",
    "PLAYED_S",
    "PLAYED_TURNS_PER_S",
    "Pickup",
    "nut_play_mm",
    "simulate",
    "simulate_corners",
    "simulated_play_mm",
]
