"""End play from how far a nut is backed off."""

from dataclasses import dataclass

from hematite.doors import not_negative, positive
from hematite.errors import BadQuantity

# Nut factor K of T = K·F·d for oiled to dry steel threads, and the hub's clamp stiffness k in N/m. The range of K is
# the usual textbook one (Shigley, Mechanical Engineering Design, from memory); k is judgement.
USUAL_NUT_MM = 24.0  # thread of an axle nut, where nobody measured it; judgement
NUT_FACTORS = (0.12, 0.25)
STIFFNESSES = (1.5e8, 6.0e8)
ANGLE_ERROR_DEG = 3.0  # what a hand and a paint mark are good for; judgement


@dataclass(frozen=True)
class EndPlayRange:
    """End play to be expected, in millimetres: least, most, and what thread and angle alone would give."""

    least_mm: float
    most_mm: float
    geometric_mm: float


def end_play_from_angle(
    *, pitch_mm: float, angle_deg: float, preload_nm: float = 0.0, nut_diameter_mm: float = USUAL_NUT_MM
) -> EndPlayRange:
    """Return the end play after backing off `angle_deg` from a preload torque, as a range.

    Travel = pitch·angle/360; from a preload T the clamp's windup δ = F/k, F = T/(K·d), is spent first (elementary
    mechanics). A range, never one figure: ask for the dial. Raises `BadQuantity`.
    """
    pitch = positive(pitch_mm, "The thread pitch in mm")
    angle = not_negative(angle_deg, "The back-off angle in degrees")
    torque = not_negative(preload_nm, "The preload torque")
    diameter = positive(nut_diameter_mm, "The nut's thread diameter in mm") / 1000
    if angle > 720:
        raise BadQuantity(
            f"{angle:g}° is more than two turns. A gauge turned backwards from 0 reads 330 for 30°: give 30."
        )
    travel = pitch * angle / 360
    slop = pitch * min(ANGLE_ERROR_DEG, angle) / 360
    windups = [torque / (k_nut * diameter) / k * 1000 for k_nut in NUT_FACTORS for k in STIFFNESSES]
    return EndPlayRange(max(travel - slop - max(windups), 0.0), max(travel + slop - min(windups), 0.0), travel)
