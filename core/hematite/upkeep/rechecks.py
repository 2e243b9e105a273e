"""When to look again after a job: by what was done and how the hub is built, shortened by what it goes through."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from math import ceil
from typing import Any

from hematite.decision import choices
from hematite.doors import one_of
from hematite.grease import duties as grease_duties
from hematite.grease import interval
from hematite.language import say
from hematite.tables import table
from hematite.upkeep.duty import Shortening, shortening
from hematite.vehicles import Hub, Vehicle

DAYS_A_MONTH = 30.4


@dataclass(frozen=True)
class Recheck:
    """A look again at a hub after so many km, days, hours of work or minutes, whichever comes first; 0: not by that.

    `asks`: how it is answered (answers.toml); `shortened`: why it comes sooner than usual.
    """

    key: str
    hub: str
    label: str
    asks: str
    why: str
    km: int = 0
    days: int = 0
    hours: int = 0
    minutes: int = 0
    shortened: tuple[str, ...] = ()


def rechecks(
    vehicle: Vehicle, jobs: Iterable[tuple[str, str]], *, life_ratios: Mapping[str, float] | None = None
) -> tuple[Recheck, ...]:
    """Return every look again after jobs, as pairs of hub and choice, the soonest first.

    `life_ratios`: what ISO 281 leaves of a hub's life, where it was worked out. The other side of an axle is asked for
    only where it has no job of its own. Raises `UnknownName`.
    """
    jobs = [
        (one_of(hub, [h.id for h in vehicle.hubs()], say("hub")), one_of(c, choices(), "choice")) for hub, c in jobs
    ]
    done = {hub for hub, _ in jobs}
    found = [one for hub, choice in jobs for one in _after(vehicle, hub, choice, done, life_ratios or {})]
    unique = {(one.hub, one.key): one for one in found}
    return tuple(sorted(unique.values(), key=_sooner))


def _sooner(one: Recheck) -> tuple[float, ...]:
    return (one.minutes or 1e9, one.days or 1e9, one.km or 1e9)


def _after(
    vehicle: Vehicle, hub_id: str, choice: str, done: set[str], ratios: Mapping[str, float]
) -> Iterator[Recheck]:
    hub = vehicle.hub(hub_id)
    if hub is None:
        return
    hours_from_km = float(table("upkeep/rechecks.toml")["hours_from_km"])
    for row in table("upkeep/rechecks.toml")["row"]:
        if not _fits(row, hub, vehicle, choice):
            continue
        at = vehicle.mate(hub_id) if row.get("mate") else hub
        if at is None or (row.get("mate") and at.id in done):
            continue
        less = shortening(vehicle.duty, life_ratio=ratios.get(at.id)) if row.get("wears") else Shortening(1.0)
        after, why = _interval(row, vehicle, less)
        yield Recheck(
            key=row["key"], hub=at.id, label=row["label"], asks=row["asks"], why=row["why"], shortened=why,
            hours=ceil(after.get("km", 0) / hours_from_km), **after,
        )  # fmt: skip


def _fits(row: Mapping[str, Any], hub: Hub, vehicle: Vehicle, choice: str) -> bool:
    return (
        choice in row["choices"]
        and hub.design.adjusts in row.get("adjusts", (hub.design.adjusts,))
        and hub.design_key in row.get("designs", (hub.design_key,))
        and hub.design.repacks == row.get("repacks", hub.design.repacks)
        and vehicle.kind not in row.get("not_on", ())
    )


def _interval(row: Mapping[str, Any], vehicle: Vehicle, less: Shortening) -> tuple[dict[str, int], tuple[str, ...]]:
    """Return after how many km, days and minutes, and why sooner than usual."""
    if row.get("interval") == "grease":
        due = interval([key for key in vehicle.duty if key in grease_duties()])
        return {"km": _round(due.km), "days": round(due.months * DAYS_A_MONTH)}, due.because
    after = {name: int(value) for name, value in row["after"].items()}
    if less.times == 1.0:
        return after, ()
    return after | {n: _round(after[n] * less.times) for n in ("km", "days") if n in after}, less.why


def _round(value: float) -> int:
    """Return an interval no finer than a mechanic would say it: two figures."""
    step = int(10 ** max(0, len(str(int(value))) - 2))
    return int(max(1, round(value / step) * step))
