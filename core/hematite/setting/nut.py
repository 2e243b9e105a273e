"""End play from how far a nut is backed off, the angle for a wished play, and what a dial reading teaches of a hub."""

from dataclasses import dataclass

from hematite.doors import finite, not_negative, positive
from hematite.errors import BadQuantity, MeantBackwards
from hematite.language import say

# Nut factor K of T = K·F·d for oiled to dry steel threads, and the hub's clamp stiffness k in N/m. The range of K is
# the usual textbook one (Shigley, Mechanical Engineering Design, from memory); k is judgement.
USUAL_NUT_MM = 24.0  # thread of an axle nut, where nobody measured it; judgement
NUT_FACTORS = (0.12, 0.25)
STIFFNESSES = (1.5e8, 6.0e8)
ANGLE_ERROR_DEG = 3.0  # what a hand and a paint mark are good for; judgement
DIAL_ERROR_MM = 0.01  # of one reading of a dial; judgement
MOST_TURNS = 2
BACKWARDS_DEG = 270.0  # above this a gauge was turned backwards from 0, or nearly a whole turn was meant; judgement


@dataclass(frozen=True)
class Lost:
    """Play that the nut's angle does not turn into: windup of the clamp that is spent first. Millimetres."""

    least_mm: float
    most_mm: float
    learnt: bool = False


@dataclass(frozen=True)
class EndPlayRange:
    """End play to be expected, in millimetres: least, most, and what thread and angle alone would give.

    `angle_error_mm`: what the angle's own doubt is worth; `lost`: what friction and windup take.
    """

    least_mm: float
    most_mm: float
    geometric_mm: float
    angle_error_mm: float
    lost: Lost

    def meets(self, low_mm: float, high_mm: float) -> str:
        """Return whether the play lies in a window: 'surely', 'perhaps' or 'no'."""
        if low_mm <= self.least_mm and self.most_mm <= high_mm:
            return "surely"
        return "perhaps" if self.least_mm <= high_mm and self.most_mm >= low_mm else "no"


@dataclass(frozen=True)
class AngleRange:
    """The angle in degrees to back a nut off by, and the end play that is to be expected of it."""

    angle_deg: float
    play: EndPlayRange


def windup(*, preload_nm: float, nut_diameter_mm: float = USUAL_NUT_MM) -> Lost:
    """Return the windup δ = F/k, F = T/(K·d), of a preload torque, as wide as K and k are. Raises `BadQuantity`."""
    torque = not_negative(preload_nm, say("The preload torque"))
    diameter = positive(nut_diameter_mm, say("The nut's thread diameter in mm")) / 1000
    if torque > 1000:
        raise BadQuantity(say("{torque:g} N·m seats no adjusting nut. Check the unit.", torque=torque))
    windups = [torque / (factor * diameter) / k * 1000 for factor in NUT_FACTORS for k in STIFFNESSES]
    return Lost(min(windups), max(windups))


def back_off(angle_deg: object, *, backwards: bool | None = None) -> float:
    """Return how far a nut is backed off, in degrees.

    A gauge turned backwards from 0 reads 330 for 30: above 270 that is asked (`MeantBackwards`), never assumed;
    `backwards` is the answer. Raises `BadQuantity` for more than two turns.
    """
    angle = _turned(angle_deg)
    if BACKWARDS_DEG < angle < 360 and backwards is None:
        raise MeantBackwards(
            say(
                "Is that a gauge turned backwards from 0, so {back:g}° back; or nearly a whole turn, "
                "{on:g}°? Say which.",
                back=360 - angle,
                on=angle,
            )
        )
    return 360 - angle if backwards and angle < 360 else angle


def _turned(angle_deg: object) -> float:
    angle = not_negative(angle_deg, say("The back-off angle in degrees"))
    if angle > 360 * MOST_TURNS:
        raise BadQuantity(
            say(
                "{angle:g}° is more than {most_turns} turns. Count the turns again.", angle=angle, most_turns=MOST_TURNS
            )
        )
    return angle


def end_play_from_angle(
    *,
    pitch_mm: float,
    angle_deg: float,
    preload_nm: float = 0.0,
    nut_diameter_mm: float = USUAL_NUT_MM,
    lost: Lost | None = None,
    angle_error_deg: float = ANGLE_ERROR_DEG,
) -> EndPlayRange:
    """Return the end play after backing off `angle_deg` from a preload torque, as a range.

    Travel = pitch·angle/360; from a preload T the clamp's windup is spent first (elementary mechanics). `lost`: what
    this hub was seen to lose instead. A range, never one figure: ask for the dial. Raises `BadQuantity`.
    """
    pitch = positive(pitch_mm, say("The thread pitch in mm"))
    angle = _turned(angle_deg)
    taken = lost or windup(preload_nm=preload_nm, nut_diameter_mm=nut_diameter_mm)
    travel = pitch * angle / 360
    slop = pitch * min(not_negative(angle_error_deg, say("The doubt of the angle")), angle) / 360
    least, most = (max(value, 0.0) for value in (travel - slop - taken.most_mm, travel + slop - taken.least_mm))
    return EndPlayRange(least, most, travel, slop, taken)


def angle_for_play(
    *,
    pitch_mm: float,
    play_mm: float,
    preload_nm: float = 0.0,
    nut_diameter_mm: float = USUAL_NUT_MM,
    lost: Lost | None = None,
) -> AngleRange:
    """Return the angle whose expected play has the wished play in its middle. Raises `BadQuantity`."""
    pitch = positive(pitch_mm, say("The thread pitch in mm"))
    wished = not_negative(play_mm, say("The wished end play in mm"))
    taken = lost or windup(preload_nm=preload_nm, nut_diameter_mm=nut_diameter_mm)
    angle = (wished + (taken.least_mm + taken.most_mm) / 2) / pitch * 360
    if angle > 360 * MOST_TURNS:
        raise BadQuantity(
            say(
                "A play of {wished:g} mm would take more than {most_turns} turns. Check the play and the pitch.",
                wished=wished,
                most_turns=MOST_TURNS,
            )
        )
    return AngleRange(angle, end_play_from_angle(pitch_mm=pitch, angle_deg=angle, lost=taken))


def learn(
    *,
    pitch_mm: float,
    angle_deg: float,
    play_mm: float,
    preload_nm: float = 0.0,
    nut_diameter_mm: float = USUAL_NUT_MM,
    dial_error_mm: float = DIAL_ERROR_MM,
) -> Lost:
    """Return what this hub loses, from the dial after a back-off: narrower than what is usual, and never outside it.

    Raises `BadQuantity` where dial and angle contradict each other by more than any windup explains: then one of the
    two, or the pitch, is wrong. A dial that reads nothing says only that all of the travel was lost, or more.
    """
    pitch = positive(pitch_mm, say("The thread pitch in mm"))
    play = not_negative(finite(play_mm, say("The dial's reading in mm")), say("The dial's reading in mm"))
    usual = windup(preload_nm=preload_nm, nut_diameter_mm=nut_diameter_mm)
    travel = pitch * _turned(angle_deg) / 360
    doubt = pitch * ANGLE_ERROR_DEG / 360 + dial_error_mm
    seen = travel - play
    least = max(seen - doubt, usual.least_mm)
    most = usual.most_mm if play <= dial_error_mm else min(seen + doubt, usual.most_mm)
    if least > most + 1e-9:
        raise BadQuantity(
            say(
                "{angle_deg:g}° of this thread move the nut {travel:.3f} mm, and the dial reads {play:.3f} mm: "
                "no windup explains that. Look at the pitch, the angle and the dial's foot.",
                angle_deg=angle_deg,
                travel=travel,
                play=play,
            )
        )
    return Lost(min(least, most), most, learnt=True)
