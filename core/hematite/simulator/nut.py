"""A hub whose nut is turned: the play that a dial would find, from what this hub hides."""

from hematite.doors import not_negative, positive


def nut_play_mm(*, pitch_mm: float, angle_deg: float, lost_mm: float) -> float:
    """Return the end play after a back-off whose preload winds the clamp up by `lost_mm`. Raises `BadQuantity`."""
    travel = positive(pitch_mm, "The thread pitch in mm") * not_negative(angle_deg, "The angle") / 360
    return max(travel - lost_mm, 0.0)
