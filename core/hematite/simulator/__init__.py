"""A wheel's sound for a hub, a speed and a hidden condition: the stand-in for a pickup on the metal."""

from hematite.simulator.sources import CONDITIONS
from hematite.simulator.wheel import Pickup, simulate, simulate_corners, simulated_play_mm

__all__ = ["CONDITIONS", "Pickup", "simulate", "simulate_corners", "simulated_play_mm"]
