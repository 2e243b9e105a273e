"""Seeded cases for the hands: a hidden fault drawn from the priors, a mechanic who answers tests by the tables.

`Mechanic.unlike` has tables of his own, each chance moved at random, so that the weighing is also judged by answers
that do not come from the tables it weighs with.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from hematite.evidence import Observation, Statement
from hematite.evidence.joint import joint_of
from hematite.evidence.priors import SECOND, VEHICLE, Single, duties
from hematite.evidence.tables import by_state, chances, in_states, states, witnesses
from hematite.hubs import designs
from hematite.vehicles import Axle, Hub, Vehicle

Floats = npt.NDArray[np.float64]
MOVED = 0.35  # standard deviation of the logarithm by which an unlike mechanic's chances are moved; judgement


@dataclass
class Mechanic:
    """One who knows what is hidden and answers tests; `unlike`: by chances of his own, made up as they are needed."""

    vehicle: Vehicle
    hidden: tuple[Single, ...]
    dice: np.random.Generator
    unlike: bool = False
    _states: dict[tuple[str, str], str] = field(default_factory=dict)
    _rows: dict[tuple[str, str], Floats] = field(default_factory=dict)

    def answer(self, witness: str, place: str) -> Observation | Statement:
        """Return the answer to a test at a hub, or, with place '', of the vehicle; of a recording what it says."""
        row = witnesses()[witness]
        if row.get("place") == "vehicle":
            return Observation(witness, "", {"answer": self._of_vehicle(witness)})
        outcome = self._outcome(witness, place)
        if witness == "fault_lines":
            return Statement.at(place, witness, {outcome: 1.0})
        return Observation(witness, place, {"answer": outcome})

    def _of_vehicle(self, witness: str) -> str:
        row = witnesses()[witness]
        place = next((one.place for one in self.hidden), VEHICLE)
        outcome = self._outcome(witness, place)
        if outcome not in ("here", "away"):
            return outcome
        hub = self.vehicle.hub(place) or next(self.vehicle.hubs())
        answers = {side: answer for answer, side in row["here_for"].items()}
        if hub.side not in answers:
            return str(next(name for name in row["outcomes"] if name not in ("here", "away")))
        other = next(side for side in answers if side != hub.side)
        return str(answers[hub.side if outcome == "here" else other])

    def _outcome(self, witness: str, place: str) -> str:
        row = witnesses()[witness]
        cause = self._cause_at(place)
        if "reads" in row:
            state = self._state(row["reads"], place, cause)
            shown, weights = state, by_state(witness)[states()[row["reads"]]["states"].index(state)]
        else:
            shown, weights = cause, chances(witness, cause)
        return str(self.dice.choice(row["outcomes"], p=self._moved((witness, shown), weights)))

    def _cause_at(self, place: str) -> str:
        here = [one.cause for one in self.hidden if one.place in (place, VEHICLE)]
        return str(self.dice.choice(here)) if here else "sound"

    def _state(self, reads: str, place: str, cause: str) -> str:
        """Return the hidden state of a place: drawn once, so that every test looks at the same."""
        key = (reads, place)
        if key not in self._states:
            weights = self._moved((reads, cause), in_states(reads, cause))
            self._states[key] = str(self.dice.choice(states()[reads]["states"], p=weights))
        return self._states[key]

    def _moved(self, key: tuple[str, str], weights: Floats) -> Floats:
        if not self.unlike:
            return weights
        if key not in self._rows:
            moved = weights * self.dice.lognormal(0.0, MOVED, len(weights))
            self._rows[key] = moved / moved.sum()
        return self._rows[key]


def draw_vehicle(dice: np.random.Generator) -> Vehicle:
    """Return a vehicle of one to three axles with any designs, driven or not, of some age and duty."""
    axles = []
    for number in range(1, int(dice.integers(1, 4)) + 1):
        design = str(dice.choice(list(designs())))
        hubs = tuple(Hub(f"A{number}{side[0].upper()}", side, design) for side in ("left", "right"))
        axles.append(Axle(hubs, driven=bool(dice.uniform() < 0.5), steered=number == 1))
    duty = tuple(word for word in duties() if dice.uniform() < 0.15)
    return Vehicle(tuple(axles), age_years=float(dice.uniform(1, 25)), duty=duty)


def draw_fault(vehicle: Vehicle, dice: np.random.Generator) -> tuple[Single, ...]:
    """Return what is hidden: nothing, one cause or two, by the priors that the weighing starts from."""
    singles = joint_of(vehicle).singles
    prior = np.array([one.prior for one in singles])
    weights = np.append(prior, 1 - prior.sum())
    first = int(dice.choice(len(weights), p=weights / weights.sum()))
    if first == len(singles):
        return ()
    if dice.uniform() < SECOND * prior.sum():
        second = int(dice.choice(len(singles), p=prior / prior.sum()))
        if (singles[second].place, singles[second].group) != (singles[first].place, singles[first].group):
            return (singles[first], singles[second])
    return (singles[first],)


def usual_order(vehicle: Vehicle) -> Sequence[tuple[str, str]]:
    """Return every test in the order of work, road first, each at every hub: what is done without advice."""
    order = {"hear": 0, "rock": 1, "spin": 2, "open": 3}
    rows = sorted(witnesses().items(), key=lambda item: (order[item[1]["stage"]], item[1].get("place") != "vehicle"))
    return [
        (key, place)
        for key, row in rows
        if not row.get("recorded")
        for place in ([VEHICLE] if row.get("place") == "vehicle" else [hub.id for hub in vehicle.hubs()])
    ]
