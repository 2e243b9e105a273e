"""Play: dial readings against the hub's window, and movement at the tyre by lever."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy import stats

from hematite.doors import not_negative, positive, within
from hematite.errors import BadQuantity
from hematite.language import say

LEAST_READINGS = 3  # common practice, no source
MOST_READINGS = 50  # judgement: nobody takes more by hand
# What a dial of each unit shows: a hundredth of a millimetre, half a thousandth of an inch; common practice, no source.
DIAL_RESOLUTIONS_MM = {"mm": 0.01, "in": 0.0127}


@dataclass(frozen=True)
class EndPlay:
    """End play in millimetres: mean, spread (sample standard deviation) and standard uncertainty of the mean.

    `outcomes` is how likely the true play is 'none', 'within', 'over' or 'far_over' its window, given that uncertainty.
    """

    mean_mm: float
    spread_mm: float
    uncertainty_mm: float
    low_mm: float
    high_mm: float
    outcomes: dict[str, float]

    @property
    def outcome(self) -> str:
        """Return the likeliest outcome."""
        return max(self.outcomes, key=lambda name: self.outcomes[name])


def end_play(readings_mm: Sequence[object], window_mm: tuple[float, float], *, resolution_mm: float = 0.01) -> EndPlay:
    """Return what three or more dial readings say of play in a window. All in millimetres.

    Uncertainty: spread/√n and resolution/√12 together (JCGM 100:2008, GUM, 4.2 and 4.3.7). Raises `BadQuantity`.
    """
    if len(readings_mm) > MOST_READINGS:
        raise BadQuantity(
            say(
                "{readings_mm} readings are too many; give at most {most_readings}.",
                readings_mm=len(readings_mm),
                most_readings=MOST_READINGS,
            )
        )
    values = np.array([_reading(value) for value in readings_mm])
    if len(values) < LEAST_READINGS:
        raise BadQuantity(
            say(
                "Take at least {least_readings} readings, turning the hub a little; got {values}.",
                least_readings=LEAST_READINGS,
                values=len(values),
            )
        )
    step = within(resolution_mm, "resolution_mm")
    spread = float(values.std(ddof=1))
    uncertainty = math.hypot(spread / math.sqrt(len(values)), step / math.sqrt(12))
    low, high = window_mm
    mean = float(values.mean())
    edges = (max(low, step / 2), max(high, step), far_over_mm(high))
    return EndPlay(mean, spread, uncertainty, low, high, _outcomes(mean, uncertainty, len(values) - 1, edges))


def _reading(value: object) -> float:
    return within(not_negative(value, say("A play reading in mm")), "reading_mm")


def far_over_mm(high_mm: float) -> float:
    """Return where play stops being a matter of setting: four times the window or 0.5 mm; judgement."""
    return max(4 * high_mm, 0.5)


def _outcomes(mean: float, uncertainty: float, freedom: int, edges: tuple[float, ...]) -> dict[str, float]:
    """Share the outcomes by Student's distribution of the true play around the mean of few readings (GUM, G.3).

    Less than half a step of the gauge cannot be told from none, so it never counts as over a window of zero.
    """
    below = stats.t.cdf((np.array(edges) - mean) / uncertainty, freedom)
    shares = np.diff([0.0, *below, 1.0])
    names = ("none", "within", "over", "far_over")
    return {name: float(share) for name, share in zip(names, shares, strict=True)}


def hub_movement_mm(*, tyre_movement_mm: float, tyre_radius_mm: float, hub_radius_mm: float) -> float:
    """Return the movement at the hub for one seen at the tyre: t_hub = t_tyre · r_hub / r_tyre (lever)."""
    movement = not_negative(tyre_movement_mm, say("The movement at the tyre"))
    tyre, hub = positive(tyre_radius_mm, say("The tyre's radius")), positive(hub_radius_mm, say("The hub's radius"))
    if hub >= tyre:
        raise BadQuantity(
            say(
                "The hub's radius ({hub:g} mm) must be less than the tyre's ({tyre:g} mm). Swap them.",
                hub=hub,
                tyre=tyre,
            )
        )
    return movement * hub / tyre


def tyre_movement_mm(*, hub_movement_mm: float, tyre_radius_mm: float, hub_radius_mm: float) -> float:
    """Return the movement to be seen at the tyre for one at the hub: the lever the other way."""
    movement = not_negative(hub_movement_mm, say("The movement at the hub"))
    tyre, hub = positive(tyre_radius_mm, say("The tyre's radius")), positive(hub_radius_mm, say("The hub's radius"))
    return movement * tyre / hub
