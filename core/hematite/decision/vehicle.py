"""The decision about the vehicle: the gravest finding, with its own probability over all that may be wrong."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from hematite.beliefs import Weighed
from hematite.decision.choice import LIKELY, SETTLED_AT, Choice
from hematite.decision.culprits import ACT_AT, SUSPECT_AT, Culprit, act_at
from hematite.language import later, say

LEAVE, LOOK_ELSEWHERE = "leave", "look_elsewhere"
GRADES = {  # gravest first
    "danger": later("Danger"),
    "act": later("Act on this"),
    "suspect": later("Suspect"),
    "open": later("Not settled"),
    "clear": later("Nothing found"),
}


@dataclass(frozen=True)
class Decision:
    """What to do about the vehicle: at a hub, or with `hub` None of the vehicle as a whole.

    `grade` is a key of `GRADES`; `probability` how likely the choice is the right one, `settled` if enough.
    """

    hub: str | None
    choice: str
    probability: float
    settled: bool
    grade: str
    because: str
    change: str


def decide(weighed: Weighed, at_hubs: Mapping[str, Choice], culprits: Sequence[Culprit], looked: bool) -> Decision:
    """Return the decision: danger first, then what is likeliest to be needed anywhere, else to leave it.

    `looked`: whether every hub was looked at; before that nothing is settled to be left.
    """
    danger = max(at_hubs, key=lambda hub: at_hubs[hub].road.probability if at_hubs[hub].off_road else -1.0)
    if at_hubs[danger].off_road:
        return _at(danger, at_hubs[danger], at_hubs[danger].choice, "danger")
    needed = _needed(weighed, at_hubs)
    best = max(needed, key=lambda choice: (needed[choice], choice))
    if best == LEAVE:
        return _leave(needed[LEAVE], looked)
    where = {hub: choice.asks.get(best) for hub, choice in at_hubs.items()}
    each = {hub: weighed.hubs[hub].of(asks) for hub, asks in where.items() if asks is not None}
    hub = max(each, key=lambda one: each[one], default="")
    if best == LOOK_ELSEWHERE and each.get(hub, 0.0) < SETTLED_AT:  # at no one hub for certain: the vehicle's
        return _elsewhere(weighed, needed[best], hub if each.get(hub, 0.0) >= LIKELY else None, at_hubs, culprits)
    grade = "act" if each[hub] >= ACT_AT else "suspect" if each[hub] >= SUSPECT_AT else "open"
    return _at(hub, at_hubs[hub], best, grade, each[hub])


def _needed(weighed: Weighed, at_hubs: Mapping[str, Choice]) -> dict[str, float]:
    """Return how likely each choice is to be right somewhere, and how likely it is that nothing needs doing."""
    vehicle_wrong = weighed.vehicle.space.any_of(weighed.vehicle.space.faults).astype(float)
    found = {}
    for choice in sorted({choice for at in at_hubs.values() for choice in at.asks} | {LOOK_ELSEWHERE}):
        if choice != LEAVE:
            places = {hub: at.asks[choice] for hub, at in at_hubs.items() if choice in at.asks}
            places |= {"": vehicle_wrong} if choice == LOOK_ELSEWHERE else {}
            found[choice] = 1.0 - weighed.none_of(places)
    size = {hub: np.ones(len(weighed.hubs[hub].space.states)) for hub in at_hubs}
    doing = {hub: size[hub] - at.asks.get(LEAVE, np.zeros_like(size[hub])) for hub, at in at_hubs.items()}
    return found | {LEAVE: weighed.none_of(doing | {"": vehicle_wrong})}


def _at(hub: str, at: Choice, choice: str, grade: str, probability: float | None = None) -> Decision:
    p = at.probability if probability is None else probability
    rule = at.leads.get(choice, at.lead)
    return Decision(hub, choice, p, choice == at.choice and at.settled, grade, rule.because, rule.change)


def _leave(probability: float, looked: bool) -> Decision:
    settled = probability >= SETTLED_AT and looked
    words = say("Nothing that was found speaks against any hub.") if settled else say("Nothing stands out yet.")
    change = say("A growl that follows road speed, play over the window, or warmth after a run.")
    return Decision(None, LEAVE, probability, settled, "clear" if settled else "open", words, change)


def _elsewhere(
    weighed: Weighed, probability: float, hub: str | None, at_hubs: Mapping[str, Choice], culprits: Sequence[Culprit]
) -> Decision:
    levels = [act_at(culprit.cause) for culprit in culprits if culprit.cause != "bearing"]
    named = bool(levels)
    grade = "act" if named and probability >= min(levels) else "suspect" if probability >= SUSPECT_AT else "open"
    settled = probability >= SETTLED_AT and named
    words = say("The witnesses point away from the bearings.")
    change = say("Fault lines at a bearing’s own orders, or play seen between hub and knuckle.")
    return Decision(hub, LOOK_ELSEWHERE, probability, settled, grade, words, change)
