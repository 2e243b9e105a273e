"""A torque wrench: which one, what to set with an extension on it, in which stages, and torque with an angle."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from hematite.doors import finite, not_negative, one_of, positive, within
from hematite.errors import BadQuantity
from hematite.language import say
from hematite.tables import table

LEAST_SHARE = 0.3  # of the wrench's own length that must be left; judgement: less is a lever of nothing


@dataclass(frozen=True)
class Wrench:
    """A torque wrench of the workshop with its own range in N·m."""

    label: str
    least_nm: float
    most_nm: float


def set_with_extension(*, torque_nm: float, length_mm: float, extension_mm: float, angle_deg: float = 0.0) -> float:
    """Return what a wrench is set to with a crow-foot or ring on it: T·L/(L + E·cos φ), in N·m.

    `length_mm`: from the middle of the hand to the square; `angle_deg`: 0 straight on, 90 across (no correction), 180
    folded back (more is set). [published: lever rule, in every torque wrench's leaflet]. Raises `BadQuantity`.
    """
    torque = within(torque_nm, "torque_nm")
    length, extension = (
        positive(length_mm, say("The wrench's length in mm")),
        not_negative(extension_mm, say("The extension in mm")),
    )
    angle = finite(angle_deg, say("The extension's angle"))
    if not -180 <= angle <= 180:
        raise BadQuantity(say("The extension's angle lies between −180 and 180°; got {angle:g}.", angle=angle))
    arm = length + extension * math.cos(math.radians(angle))
    if arm < length * LEAST_SHARE:
        raise BadQuantity(
            say("Folded back so far the extension leaves no lever. Turn it across: at 90° nothing is corrected.")
        )
    return torque * length / arm


def choose_wrench(torque_nm: float, wrenches: Sequence[Wrench]) -> Wrench | None:
    """Return the smallest wrench whose trusted range has the torque: above a fifth of its most. None where none has."""
    torque = within(torque_nm, "torque_nm")
    least = table("tightening/tightening.toml")["wrench_from"]
    fit = [w for w in wrenches if max(w.least_nm, w.most_nm * least) <= torque <= w.most_nm]
    return min(fit, key=lambda wrench: wrench.most_nm, default=None)


def stages(torque_nm: float, *, of: str = "bolts") -> tuple[float, ...]:
    """Return the torques of each round of the star, the last the whole. `of`: "wheel" or "bolts"."""
    torque = within(torque_nm, "torque_nm")
    rows = table("tightening/tightening.toml")["stages"]
    return tuple(torque * share for share in rows[one_of(of, ("wheel", "bolts"), say("kind of stages"))])


def strokes(angle_deg: float) -> tuple[float, ...]:
    """Return the strokes in which an angle is turned on after a torque, each one no more than a hand marks well."""
    angle = positive(angle_deg, say("The angle to turn on"))
    if angle > 360:
        raise BadQuantity(
            say("{angle:g}° is more than a turn: no bolt is stretched so far. Read it again.", angle=angle)
        )
    most = table("tightening/tightening.toml")["angle"]["stroke_deg"]
    number = math.ceil(angle / most - 1e-9)
    return tuple(angle / number for _ in range(number))
