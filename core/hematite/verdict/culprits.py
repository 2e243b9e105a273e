"""Culprits: what is certain enough to tell the mechanic to act on, down to the hub, the side, or only the kind."""

from collections.abc import Callable
from dataclasses import dataclass

from hematite.evidence import Beliefs, Weighed
from hematite.evidence.tables import causes, mechanism_of
from hematite.vehicles import Vehicle

ACT_AT = 0.7  # act when a wrong replacement costs about twice a needless further test; judgement
GROUPS = tuple(dict.fromkeys(row["group"] for row in causes().values() if row["group"] != "sound"))
ELSEWHERE = tuple(group for group in GROUPS if group != "bearing")


@dataclass(frozen=True)
class Culprit:
    """What is at fault: `hub` is None where only a side is known, both None where neither is or none applies."""

    cause: str
    hub: str | None
    side: str | None
    mechanism: str
    probability: float


def name_culprits(weighed: Weighed, vehicle: Vehicle) -> tuple[Culprit, ...]:
    """Return the culprits, surest first: each cause named as narrowly as it is certain enough to act on."""
    found = [culprit for group in GROUPS for culprit in _of_group(group, weighed, vehicle)]
    return tuple(sorted(found, key=lambda culprit: -culprit.probability))


def _of_group(group: str, weighed: Weighed, vehicle: Vehicle) -> list[Culprit]:
    at_vehicle = weighed.vehicle.of_group(group)
    if at_vehicle >= ACT_AT:
        return [Culprit(group, None, None, "", at_vehicle)]
    sides = {hub.id: hub.side for hub in vehicle.hubs()}
    each = {hub: beliefs.of_group(group) for hub, beliefs in weighed.hubs.items()}
    sure = [
        Culprit(group, hub, sides[hub], _mechanism(group, [weighed.hubs[hub]]), p)
        for hub, p in each.items()
        if p >= ACT_AT
    ]
    return sure or _somewhere(group, weighed, sides, each)


def _somewhere(group: str, weighed: Weighed, sides: dict[str, str], each: dict[str, float]) -> list[Culprit]:
    """Return the culprit known by its side only, or by its kind only."""
    if not each:
        return []
    by_side = {side: sum(p for hub, p in each.items() if sides[hub] == side) for side in set(sides.values())}
    side = max(by_side, key=lambda name: by_side[name])
    if by_side[side] >= ACT_AT:
        own = [weighed.hubs[hub] for hub in each if sides[hub] == side]
        return [Culprit(group, None, side, _mechanism(group, own), min(by_side[side], 1.0))]
    total = sum(each.values())
    if total >= ACT_AT:
        return [Culprit(group, None, None, _mechanism(group, list(weighed.hubs.values())), min(total, 1.0))]
    return []


def _mechanism(group: str, beliefs: list[Beliefs]) -> str:
    """Return the likeliest mechanism of a group, '' where the group has but one."""
    rows = {cause: row for cause, row in causes().items() if row["group"] == group}
    total: Callable[[str], float] = lambda cause: sum(b.probabilities.get(cause, 0.0) for b in beliefs)  # noqa: E731
    best = max(rows, key=total)
    return mechanism_of(best) if group == "bearing" else str(rows[best].get("mechanism", ""))
