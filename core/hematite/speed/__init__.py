"""How fast the wheel turned: stated, logged, or found in the recording itself."""

from hematite.speed.courses import read_speed_log
from hematite.speed.in_bends import SIDES, Bends
from hematite.speed.spun import Lines, Spun, find_spun
from hematite.speed.stated import KINDS, LEAST_TAPS, WheelTurns, wheel_turns
from hematite.speed.sung import find_sung
from hematite.speed.tracking import follow

__all__ = [
    "KINDS",
    "LEAST_TAPS",
    "SIDES",
    "Bends",
    "Lines",
    "Spun",
    "WheelTurns",
    "find_spun",
    "find_sung",
    "follow",
    "read_speed_log",
    "wheel_turns",
]
