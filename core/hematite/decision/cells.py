"""What may be so at a hub, as the rules ask for it: which bearing fault, how far it moves, whether the brake drags."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from hematite.beliefs import HubBelief
from hematite.decision.rules import STOPS, Facts, Rule, decided
from hematite.evidence.witnesses import Floats, causes, slot_of, states

LEAST_SHARE = 0.004  # what is less likely gives no choice of its own; judgement
BRAKE_SHOWS = ("drags", "scrapes")  # what a brake makes of a spun wheel says nothing of the bearing
SOUND = "sound"


@dataclass(frozen=True)
class Cell:
    """One thing that may be so, how likely it is, and in which states of the hub, with which share of them."""

    cause: str
    play: str
    brake: bool
    share: float
    weights: Floats

    def facts(self, known: Facts) -> dict[str, object]:
        """Return the facts were it so."""
        spin = "free" if self.brake and known["spin"] in BRAKE_SHOWS else known["spin"]
        return {**known, "cause": self.cause, "play": self.play, "spin": spin}


def cells_of(belief: HubBelief) -> tuple[Cell, ...]:
    """Return what may be so, likeliest first; together all but what is next to impossible."""
    return tuple(sorted(_cells(belief), key=lambda cell: -cell.share))


def _cells(belief: HubBelief) -> Iterator[Cell]:
    space = belief.space
    bearing = space.any_of(cause for cause in space.faults if slot_of(cause) == "bearing")
    brake = space.any_of(["brake"])
    for cause in (SOUND, *(cause for cause in space.faults if slot_of(cause) == "bearing")):
        here = ~bearing if cause == SOUND else space.present[cause]
        for dragging in (False, True):
            own = here & (brake == dragging)
            for n, play in enumerate(states()["hub_play"]["values"]):
                weights = own * belief.plays[:, n]
                share = belief.of(weights)
                if share >= LEAST_SHARE:
                    yield Cell(cause, play, dragging, share, weights)


@dataclass(frozen=True)
class Asked:
    """The rules asked for one cell: what decides, all that fired, the choice, and its mending where it only stops."""

    cell: Cell
    deciding: Rule
    fired: tuple[Rule, ...]
    choice: str
    repair: str


def ask(belief: HubBelief, known: Facts) -> tuple[Asked, ...]:
    """Ask the rules for every cell."""
    return tuple(_asked(cell, cell.facts(known)) for cell in cells_of(belief))


def _asked(cell: Cell, facts: Facts) -> Asked:
    deciding, fired, choice = decided(facts)
    repair = decided(facts, repair=True)[2] if choice == STOPS else choice
    return Asked(cell, deciding, fired, choice, repair)


def others(belief: HubBelief) -> tuple[str, ...]:
    """Return the faults of the place that do not sit in its bearing."""
    return tuple(cause for cause in belief.space.faults if causes()[cause]["group"] != "bearing")


def shares(belief: HubBelief, asked: tuple[Asked, ...], pick: Callable[[Asked], str]) -> dict[str, float]:
    """Return how likely each choice is to be right here, adding up to 1: of a sound bearing beside another fault,
    that one asks to look elsewhere."""
    return {choice: belief.of(weights) for choice, weights in wanted(belief, asked, pick).items()}


def wanted(belief: HubBelief, asked: tuple[Asked, ...], pick: Callable[[Asked], str]) -> Mapping[str, Floats]:
    """Return by choice the share of each state in which it is the right one, shape (states,); together 1."""
    left = np.zeros(len(belief.space.states))
    found: dict[str, Floats] = {}
    for one in asked:
        found[pick(one)] = found.get(pick(one), left) + one.cell.weights
    total = np.sum(list(found.values()), axis=0)
    found = {choice: weights / np.maximum(total, 1e-12) for choice, weights in found.items()}
    elsewhere = belief.space.any_of(others(belief))
    if "leave" in found and elsewhere.any():
        found["look_elsewhere"] = found.get("look_elsewhere", left) + found["leave"] * elsewhere
        found["leave"] = found["leave"] * ~elsewhere
    return found
