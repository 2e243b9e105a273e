"""A hub whose nut is turned: the play that a dial would find, from what this hub hides."""

from dataclasses import dataclass
from zlib import crc32

from hematite.doors import not_negative, positive
from hematite.setting import windup
from hematite.threads import read_thread

WORN = ("distributed_wear",)  # conditions of a set that drags before its slack is gone
DRAGS_UNDER_MM = 0.12
MOST_PARTS = 1000


@dataclass(frozen=True)
class Turned:
    """What the hand and the dial find: end play in mm, and whether the hub drags when it is turned."""

    play_mm: float
    drags: bool


def nut_play_mm(*, pitch_mm: float, angle_deg: float, lost_mm: float) -> float:
    """Return the end play after a back-off whose preload winds the clamp up by `lost_mm`. Raises `BadQuantity`."""
    travel = positive(pitch_mm, "The thread pitch in mm") * not_negative(angle_deg, "The angle") / 360
    return max(travel - lost_mm, 0.0)


def turned_nut(
    *,
    loses: float,
    worn: bool,
    thread: str,
    angle_deg: float,
    preload_nm: float,
    locking_mm: float = 0.0,
    drags_under_mm: float = DRAGS_UNDER_MM,
) -> Turned:
    """Return what is found at a hub when its nut is turned back, in degrees, from a preload in N·m.

    `loses`: which share of the usual range its clamp winds up by, 0 to 1; `worn`: it drags while its play is under
    `drags_under_mm`; `locking_mm`: what locking the nut has moved it by. Raises `BadQuantity`.
    """
    read = read_thread(thread)
    usual = windup(preload_nm=preload_nm, nut_diameter_mm=read.diameter_mm)
    lost = usual.least_mm + (usual.most_mm - usual.least_mm) * loses
    play = max(nut_play_mm(pitch_mm=read.pitch_mm, angle_deg=angle_deg, lost_mm=lost - locking_mm), 0.0)
    return Turned(play, play == 0.0 or (worn and play < drags_under_mm))


def usual_loss(hub: str) -> float:
    """Return which share of the usual windup a hub of a simulated vehicle loses: each has its own clamp."""
    return crc32(hub.encode()) % MOST_PARTS / MOST_PARTS
