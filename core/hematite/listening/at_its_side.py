"""In bends each side's wheels turn at a rate of their own: heard so, lines stand higher, and tell their side."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from scipy import special

from hematite.families import FAINT, GEARS, Family
from hematite.listening.by_order import Bearing, by_order
from hematite.listening.heard import Heard
from hematite.listening.taken import Taken
from hematite.odds import Floats
from hematite.speed import SIDES, Bends, WheelTurns
from hematite.vehicles import Vehicle

SENSE = {"left": -1, "right": 1}
SHIFTS = (-2, -1, 1, 2)  # from the right wheel's course to the left one's
ROLLS_M = 2.0  # a turn, where nobody knows the tyre; judgement
OF_THE_MIDDLE = (GEARS, "tread")  # what turns with the axle's mean, or is too wide to tell
SAME_ORDER = 0.02  # the same lines, on a course a little different
Course = tuple[Heard, WheelTurns]
Name = tuple[str, str, tuple[str, ...], float]


def _stands(heard: Heard) -> float:
    """Return how high whatever stands highest does: on the wheel's true course it is highest."""
    return max((family.strength for family in heard.families), default=0.0)


def at_its_side(
    course: Course, taken: Taken, stated: WheelTurns, bearings: Sequence[Bearing], vehicle: Vehicle
) -> Course:
    """Return what is heard on the courses of a side's wheels, where bends are marked and more stands there.

    At a hub its own side's are tried. Elsewhere any side's, for each family by itself, and what each makes of it tells
    from which side it comes.
    """
    heard, turns = course
    marked = [(s.start_s, s.end_s, SENSE[s.state]) for s in heard.situation.segments if s.state in SENSE]
    hub = vehicle.hub(heard.situation.place)
    shifts = [shift for shift in SHIFTS if hub is None or shift * SIDES.get(hub.side, 0) > 0]
    if not (marked and shifts and heard.families):
        return course
    bends = Bends.of(turns, marked, speed_m_s=turns.mean_rate * (vehicle.circumference or ROLLS_M))
    courses = {shift: bends.shifted(turns, shift) for shift in shifts}
    at_each = {shift: _less(by_order(heard, taken, one, bearings), len(shifts)) for shift, one in courses.items()}
    if hub is not None:
        both = [course, *((at_each[shift], courses[shift]) for shift in shifts)]
        return max(both, key=lambda one: _stands(one[0]))
    logged = heard.situation.effective_speed.get("kind") == "profile"
    whose = bends.whose(turns, stated, logged=logged)
    named = {shift: _by_name(one.families) for shift, one in at_each.items()}
    return replace(heard, families=tuple(_of_a_side(family, named, whose) for family in heard.families)), turns


def _less(heard: Heard, tried: int) -> Heard:
    """Return what was heard on one of so many more courses that were tried: among many some would fit hiss."""
    less = float(np.log(1 + tried))
    return replace(heard, families=tuple(replace(f, strength=f.strength - less) for f in heard.families))


def _of_a_side(family: Family, at_each: dict[int, dict[Name, Family]], whose: Floats) -> Family:
    """Return a family as it stands highest, and how much likelier it is of the left side than of the right.

    Whose course was followed is not known: what a wheel's own would be lies as many half tracks from each.
    """
    tried = {0: family, **{shift: named.get(_name(family), family) for shift, named in at_each.items()}}
    best = max(tried.values(), key=lambda f: f.strength)
    if family.kind in OF_THE_MIDDLE or best.strength < FAINT:
        return family
    left, right = (
        special.logsumexp([odds + _as(best, tried[side - at]) for odds, at in zip(whose, SIDES.values(), strict=True)])
        for side in (SIDES["left"], SIDES["right"])
    )
    return replace(best, leftward=float(left - right))


def _as(best: Family, other: Family) -> float:
    """Return how high lines stand on another course, if it is the same lines that were found there."""
    same = abs(other.found_order / max(best.found_order, 1e-9) - 1) < SAME_ORDER
    return max(other.strength, 0.0) if same else 0.0


def _name(family: Family) -> Name:
    """Return what a family is, whatever was found of it; of an unknown bearing's nobody knows where they are due."""
    return family.kind, family.row, family.hubs, 0.0 if family.blind else family.order


def _by_name(families: Sequence[Family]) -> dict[Name, Family]:
    return {_name(family): family for family in sorted(families, key=lambda f: f.strength)}
