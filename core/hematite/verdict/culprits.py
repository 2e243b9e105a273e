"""Culprits: what is certain enough to tell the mechanic to act on, down to the hub, the side, or only the kind."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from hematite.evidence import Beliefs, Weighed, weigh
from hematite.evidence.tables import causes, mechanism_of
from hematite.vehicles import Vehicle

ACT_AT = 0.7  # act when a wrong replacement costs about twice a needless further test; judgement
RAISED = 4.0  # times the odds before any test: two bits; judgement
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
    """Return the culprits, surest first: each cause named as narrowly as it is certain enough to act on.

    What no hub is named for must have been raised by the witnesses: a trailer has little else to go wrong than its
    bearings, and that alone is no finding.
    """
    before = weigh((), vehicle)
    found = [culprit for group in GROUPS for culprit in _of_group(group, weighed, before, vehicle)]
    return tuple(sorted(found, key=lambda culprit: -culprit.probability))


def _of_group(group: str, weighed: Weighed, before: Weighed, vehicle: Vehicle) -> list[Culprit]:
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
    return sure or _somewhere(group, weighed, before, sides)


def _somewhere(group: str, weighed: Weighed, before: Weighed, sides: dict[str, str]) -> list[Culprit]:
    """Return the culprit known by its side only, or by its kind only."""
    hubs_of = {side: [hub for hub in sides if sides[hub] == side] for side in sorted(set(sides.values()))}
    side = max(hubs_of, key=lambda name: _total(group, weighed, hubs_of[name]))
    for name, hubs in ((side, hubs_of[side]), (None, list(sides))):
        now = _total(group, weighed, hubs)
        if now >= ACT_AT and _odds(now) >= RAISED * _odds(_total(group, before, hubs)):
            return [Culprit(group, None, name, _mechanism(group, [weighed.hubs[hub] for hub in hubs]), now)]
    return []


def _total(group: str, weighed: Weighed, hubs: Sequence[str]) -> float:
    return min(sum(weighed.hubs[hub].of_group(group) for hub in hubs), 1.0)


def _odds(p: float) -> float:
    return p / max(1 - p, 1e-9)


def _mechanism(group: str, beliefs: list[Beliefs]) -> str:
    """Return the likeliest mechanism of a group, '' where the group has but one."""
    rows = {cause: row for cause, row in causes().items() if row["group"] == group}
    total: Callable[[str], float] = lambda cause: sum(b.probabilities.get(cause, 0.0) for b in beliefs)  # noqa: E731
    best = max(rows, key=total)
    return mechanism_of(best) if group == "bearing" else str(rows[best].get("mechanism", ""))
