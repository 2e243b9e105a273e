"""Setting a bearing: the nut's angle, where its lock takes it, the shim pack, with the range that each really has."""

from hematite.setting.nut import (
    AngleRange,
    EndPlayRange,
    Lost,
    angle_for_play,
    back_off,
    end_play_from_angle,
    learn,
    windup,
)
from hematite.setting.sequence import Move, drags_first, lock_of, sequence
from hematite.setting.shims import Gap, Pack, measured_gap, shim_pack, shim_total_mm, to_order
from hematite.setting.slots import LOCKS, Position, Positions, positions, steps_a_turn, tighten_on

__all__ = [
    "LOCKS",
    "AngleRange",
    "EndPlayRange",
    "Gap",
    "Lost",
    "Move",
    "Pack",
    "Position",
    "Positions",
    "angle_for_play",
    "back_off",
    "drags_first",
    "end_play_from_angle",
    "learn",
    "lock_of",
    "measured_gap",
    "positions",
    "sequence",
    "shim_pack",
    "shim_total_mm",
    "steps_a_turn",
    "tighten_on",
    "to_order",
    "windup",
]
