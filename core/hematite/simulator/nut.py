"""A hub whose nut is turned: the play that a dial would find, from what this hub hides."""

from dataclasses import dataclass
from zlib import crc32

from hematite.doors import not_negative, positive
from hematite.setting import Lost, windup
from hematite.threads import read_thread

WORN = ("distributed_wear",)  # conditions of a set that drags before its slack is gone
DRAGS_UNDER_MM = 0.12
MOST_PARTS = 1000


@dataclass(frozen=True)
class Turned:
    """What the hand and the dial find: end play in mm, and whether the hub drags."""

    play_mm: float
    drags: bool


def nut_play_mm(*, pitch_mm: float, angle_deg: float, lost_mm: float) -> float:
    """Return the end play after a back-off whose preload winds the clamp up by `lost_mm`. Raises `BadQuantity`."""
    travel = positive(pitch_mm, "The thread pitch in mm") * not_negative(angle_deg, "The angle") / 360
    return max(travel - lost_mm, 0.0)


def turned_nut(hub: str, condition: str, *, thread: str, angle_deg: float, preload_nm: float) -> Turned:
    """Return what is found at a hub with a hidden condition when its nut is turned. Each hub has its own clamp.

    Raises `BadQuantity`.
    """
    read = read_thread(thread)
    lost = _hidden(hub, windup(preload_nm=preload_nm, nut_diameter_mm=read.diameter_mm))
    play = nut_play_mm(pitch_mm=read.pitch_mm, angle_deg=angle_deg, lost_mm=lost)
    return Turned(play, play == 0.0 or (condition in WORN and play < DRAGS_UNDER_MM))


def _hidden(hub: str, usual: Lost) -> float:
    share = crc32(hub.encode()) % MOST_PARTS / MOST_PARTS
    return usual.least_mm + (usual.most_mm - usual.least_mm) * share
