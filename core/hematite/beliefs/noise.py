"""The one noise, or other trouble, that the driver complains of: which fault it comes from, and what is said of it.

Of all faults present one is *the* trouble that is complained of and that road tests speak of: each by its `loud` over
the sum of all, and 1 for a complaint about nothing. So several looks at one noise are looks at one noise.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

import numpy as np

from hematite.beliefs.likelihood import spoken
from hematite.beliefs.space import Space
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import VEHICLE, Floats, outcomes, rows_of, witnesses
from hematite.vehicles import Vehicle

NOTHING = 1.0  # how readily a complaint is about nothing
NODES = 12  # exact while the faults' `loud` adds up to 23, some six faults at once; beyond, to nine digits till 31
MISLED_SHARE = 0.5  # where every axle drives the noise travels: as often as this the side heard says nothing; judgement


@dataclass(frozen=True)
class Whereabouts:
    """Side ('left', 'right' or '') and end ('front', 'rear' or '') of a place."""

    side: str
    end: str


@cache
def nodes(count: int = NODES) -> tuple[Floats, Floats]:
    """Return points in (0, 1) and weights with 1/W = Σ weight·point^(W−1): Gauss and Legendre's, exact for whole W."""
    points, weights = np.polynomial.legendre.leggauss(count)
    return (points + 1) / 2, weights / 2


def about_the_noise(statement: Statement) -> bool:
    """Return whether a statement speaks of the noise that is complained of."""
    each_side = witnesses()[statement.witness].get("shows") == "each_side"
    return statement.of_vehicle and not (each_side or from_anywhere(statement))


def from_anywhere(statement: Statement) -> bool:
    """Return whether a recording at no hub heard something, which any of its hubs may have made beside other noise."""
    heard = bool(statement.hubs) and statement.outcome != outcomes(statement.witness)[0]
    return heard and witnesses()[statement.witness].get("shows") == "anywhere"


def from_nothing(said: Sequence[Statement]) -> float:
    """Return how likely what was said is of a complaint about nothing."""
    return float(np.prod([spoken(one, by_source(one.witness, ("",), "", False))[0] for one in said]))


def from_faults(said: Sequence[Statement], place: str, space: Space, where: Whereabouts, misled: bool) -> Floats:
    """Return how likely what was said is were each of a place's faults the noise, shape (faults,).

    `misled`: whether every axle drives and carries the noise along.
    """
    each = [_by_fault(one, place, space.faults, where, misled) for one in said] if space.faults else []
    return np.asarray(np.prod([np.ones(len(space.faults)), *each], axis=0))


def _by_fault(statement: Statement, place: str, faults: tuple[str, ...], where: Whereabouts, misled: bool) -> Floats:
    if statement.hubs and place not in statement.hubs:  # a recording whose lines are those of other hubs
        faults = ("",) * len(faults)
    at = where.side if "left" in outcomes(statement.witness) else where.end
    return spoken(statement, by_source(statement.witness, faults, at, misled))


@cache
def by_source(witness: str, faults: tuple[str, ...], where: str, misled: bool) -> Floats:
    """Return how likely each answer is were each fault the noise, shape (answers, faults)."""
    return np.array([answers(witness, cause, where, misled=misled) for cause in faults]).T


@cache
def answers(witness: str, cause: str, where: str, *, misled: bool) -> Floats:
    """Return how likely each answer is when the noise is a cause at a side or an end, shape (answers,).

    `cause` '' is a complaint about nothing; `where` '' is in the middle, or nowhere: then either answer comes alike.
    """
    row, rows = witnesses()[witness], rows_of(witness)
    chances = rows.get(cause, rows["base"])
    if "here_for" in row:
        chances = _sided(row, chances, where, misled=misled and bool(row.get("driveline_misleads")))
    return chances


def _sided(row: Mapping[str, Any], chances: Floats, where: str, *, misled: bool) -> Floats:
    names, points = row["outcomes"], row["here_for"]
    here, away = chances[names.index("here")], chances[names.index("away")]
    middle = (here + away) / 2
    astray = 1.0 if not where else MISLED_SHARE if misled else 0.0
    pointing = {True: (1 - astray) * here + astray * middle, False: (1 - astray) * away + astray * middle}
    return np.array(
        [pointing[points[name] == where] if name in points else chances[names.index(name)] for name in row["asked"]]
    )


def whereabouts(vehicle: Vehicle, place: str) -> Whereabouts:
    """Return where a place is, as far as it is at a side or an end."""
    if place == VEHICLE:
        return Whereabouts("", "")
    number = next(n for n, axle in enumerate(vehicle.axles) if any(hub.id == place for hub in axle.hubs))
    hub = vehicle.hub(place)
    side = hub.side if hub and hub.side in ("left", "right") else ""
    middle = (len(vehicle.axles) - 1) / 2
    return Whereabouts(side, "" if number == middle else "front" if number < middle else "rear")
