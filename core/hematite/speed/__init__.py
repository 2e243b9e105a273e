"""Speed: wheel turns over a recording, as stated, as tracked by what repeats, or found in the sound itself."""

from hematite.speed.found import FoundSpeed, find_speed
from hematite.speed.stated import SPREAD, WheelTurns, wheel_turns
from hematite.speed.tracking import follow

__all__ = ["SPREAD", "FoundSpeed", "WheelTurns", "find_speed", "follow", "wheel_turns"]
