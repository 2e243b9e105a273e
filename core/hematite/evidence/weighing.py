"""Weighing: from statements of witnesses to the probability of every cause (Bayes' rule over one table).

One thing is wrong, mostly; sometimes two, sometimes nothing. Every single cause at every place, and every pair of
them, is one hypothesis; so what convicts one corner clears the others, and two bad hubs can still both be named.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from hematite.evidence.joint import Body, Joint, Posterior, joint_of
from hematite.evidence.priors import VEHICLE
from hematite.evidence.statement import Statement
from hematite.evidence.tables import causes
from hematite.vehicles import Vehicle


@dataclass(frozen=True)
class Beliefs:
    """Probability of each cause at one place, and what each statement did to the odds of a bearing fault (in bits)."""

    probabilities: Mapping[str, float]
    weights: tuple[tuple[Statement, float], ...] = field(default=())

    @property
    def bearing(self) -> float:
        """Return the probability that this hub's bearing is at fault."""
        return self.of_group("bearing")

    def of_group(self, group: str) -> float:
        """Return the probability of a group of causes, such as 'brake'."""
        return sum(p for cause, p in self.probabilities.items() if causes()[cause]["group"] == group)

    @property
    def mechanisms(self) -> dict[str, float]:
        """Return the probabilities of the bearing's own mechanisms, as the case format names them."""
        found: dict[str, float] = {}
        for cause, row in causes().items():
            if row["group"] == "bearing":
                name = str(row.get("mechanism", cause))
                found[name] = found.get(name, 0.0) + self.probabilities.get(cause, 0.0)
        return found

    @property
    def likeliest(self) -> str:
        """Return the likeliest cause of a bearing fault, as its table names it."""
        bearing = [cause for cause, row in causes().items() if row["group"] == "bearing"]
        return max(bearing, key=lambda cause: self.probabilities.get(cause, 0.0))


@dataclass(frozen=True)
class Weighed:
    """The beliefs about every place: `hubs` by hub id, `vehicle` about what sits at no hub; `nothing` wrong at all.

    `body` is what they came from, to ask what one more statement would do.
    """

    hubs: Mapping[str, Beliefs]
    vehicle: Beliefs
    nothing: float
    body: Body


def weigh(said: Sequence[Statement], vehicle: Vehicle) -> Weighed:
    """Return the beliefs about every place of a vehicle. The order of the statements does not matter."""
    joint = joint_of(vehicle)
    body = Body(joint, tuple(said))
    without = [body.without(statement) for statement in said]
    places = [*(hub.id for hub in vehicle.hubs()), VEHICLE]
    beliefs = {place: _beliefs(place, body, without) for place in places}
    of_vehicle = beliefs.pop(VEHICLE)
    return Weighed(beliefs, of_vehicle, body.posterior.nothing, body)


def _beliefs(place: str, body: Body, without: Sequence[Posterior]) -> Beliefs:
    here = bits(place, body.joint, body.posterior)
    own = [(statement, rest) for statement, rest in zip(body.said, without, strict=True) if place in statement.said]
    weights = [(statement, here - bits(place, body.joint, rest)) for statement, rest in own]
    ordered = tuple(sorted(weights, key=lambda pair: -abs(pair[1])))
    return Beliefs(marginal(place, body.joint, body.posterior), ordered)


def marginal(place: str, joint: Joint, posterior: Posterior) -> dict[str, float]:
    """Return the probability of each cause at a place, and of soundness."""
    found = {s.cause: float(p) for s, p in zip(joint.singles, posterior.singles, strict=True) if s.place == place}
    return found | {"sound": max(1 - sum(found.values()), 0.0)}


def bits(place: str, joint: Joint, posterior: Posterior) -> float:
    """Return the log-odds of a bearing fault at a place."""
    p = Beliefs(marginal(place, joint, posterior)).bearing
    return math.log2(max(p, 1e-12) / max(1 - p, 1e-12))
