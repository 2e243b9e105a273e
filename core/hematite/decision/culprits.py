"""Culprits: what is certain enough to tell the mechanic to act on, down to the hub, the side, or only the kind."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from hematite.beliefs import HubBelief, Weighed, unsaid
from hematite.evidence.witnesses import causes, mechanism_of, witnesses
from hematite.vehicles import Vehicle

ACT_AT = 0.7  # act when a wrong replacement costs about twice a needless further test; judgement
SUSPECT_AT = 0.3  # below it a hub is left alone; judgement
NO_DOUBT = 0.9  # of a side's probability, or of a kind's anywhere, that one hub has: then it is that hub; judgement
RAISED = 4.0  # times the odds before any test: two bits; judgement
GROUPS = tuple(dict.fromkeys(row["group"] for row in causes().values() if row["group"] != "sound"))
ELSEWHERE = tuple(group for group in GROUPS if group != "bearing")


@cache
def act_at(group: str) -> float:
    """Return how likely a group of causes must be to be acted on."""
    return next(
        (float(row["act_at"]) for row in causes().values() if row["group"] == group and "act_at" in row), ACT_AT
    )


@dataclass(frozen=True)
class Culprit:
    """What is at fault: `hub` is None where only a side is known, both None where neither is or none applies.

    `mechanism` is the likeliest, '' where its kind has but one; it has its own probability.
    """

    cause: str
    hub: str | None
    side: str | None
    mechanism: str
    probability: float
    mechanism_probability: float


def name_culprits(weighed: Weighed, vehicle: Vehicle) -> tuple[Culprit, ...]:
    """Return the culprits, surest first: each cause named as narrowly as it is certain enough to act on.

    A hub is named only when something was found at it, or points at it alone; a side or a kind only when the witnesses
    have raised its odds: a trailer has little else to go wrong than its bearings, and that alone is no finding.
    """
    before = unsaid(vehicle)
    found = [culprit for group in GROUPS for culprit in _of_group(group, weighed, before, vehicle)]
    return tuple(sorted(found, key=lambda one: (-one.probability, one.cause, one.hub or "", one.side or "")))


def touched(belief: HubBelief) -> bool:
    """Return whether anybody has looked at, felt or heard this hub itself."""
    here = (one for one, _ in belief.weights if not one.of_vehicle)
    return any(not witnesses()[one.witness].get("from_afar") for one in here)


def _pointed_at(place: str, group: str, weighed: Weighed) -> bool:
    """Return whether something was found at a hub, or a recording's lines or clicks in bends are those of no other."""
    belief = weighed.hubs[place]
    lines = any(one.hubs and place in one.hubs and len(one.hubs) < len(weighed.hubs) for one, _ in belief.weights)
    clicks = group == "drive_joint" and any(one.witness == "turn_clicks" for one, _ in belief.weights)
    return touched(belief) or lines or clicks


def _of_group(group: str, weighed: Weighed, before: Weighed, vehicle: Vehicle) -> list[Culprit]:
    if weighed.vehicle.of_group(group) >= act_at(group):
        return [_culprit(group, None, None, weighed.vehicle.of_group(group), [weighed.vehicle])]
    sides = {hub.id: hub.side for hub in vehicle.hubs()}
    sure = [
        _culprit(group, hub, sides[hub], belief.of_group(group), [belief])
        for hub, belief in weighed.hubs.items()
        if belief.of_group(group) >= act_at(group) and _pointed_at(hub, group, weighed)
    ]
    return sure or _somewhere(group, weighed, before, sides)


def _somewhere(group: str, weighed: Weighed, before: Weighed, sides: dict[str, str]) -> list[Culprit]:
    """Return the culprit known by its side only, or by its kind only; where both sides are, by its kind."""
    if not any(belief.space.group(group).any() for belief in weighed.hubs.values()):
        return []
    found = []
    for side in sorted(set(sides.values())):
        hubs = [hub for hub in sides if sides[hub] == side]
        found += _raised(group, weighed, before, hubs, side)
    return found if len(found) == 1 else _raised(group, weighed, before, list(sides), None)


def _raised(group: str, weighed: Weighed, before: Weighed, hubs: list[str], side: str | None) -> list[Culprit]:
    now = weighed.any_of_group(group, hubs)
    if now < act_at(group) or _odds(now) < RAISED * _odds(before.any_of_group(group, hubs)):
        return []
    own, lead = max((weighed.hubs[hub].of_group(group), hub) for hub in hubs)
    suspect = [hub for hub in hubs if weighed.hubs[hub].of_group(group) >= SUSPECT_AT]
    if own >= NO_DOUBT * now and suspect == [lead] and _pointed_at(lead, group, weighed):
        hub = weighed.network.vehicle.hub(lead)
        return [_culprit(group, lead, hub.side if hub else side, own, [weighed.hubs[lead]])]
    return [_culprit(group, None, side, now, [weighed.hubs[hub] for hub in hubs])]


def _odds(p: float) -> float:
    return p / max(1 - p, 1e-9)


def _culprit(
    group: str, hub: str | None, side: str | None, probability: float, beliefs: Iterable[HubBelief]
) -> Culprit:
    chances: dict[str, float] = {}
    for belief in beliefs:
        for cause, p in belief.causes.items():
            if causes()[cause]["group"] == group and mechanism_of(cause):
                chances[mechanism_of(cause)] = chances.get(mechanism_of(cause), 0.0) + p
    best = max(sorted(chances), key=lambda name: chances[name], default="")
    own = min(chances.get(best, probability), probability)
    return Culprit(group, hub, side, best, probability, own)
