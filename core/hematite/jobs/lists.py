"""What a plan needs: tools to lay out, parts to buy, what is used up, and how long it takes."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from hematite.assembly import library
from hematite.fastenings import kinds
from hematite.jobs.plan import Plan, Renewed
from hematite.jobs.step import Step
from hematite.language import figure, later, say
from hematite.tables import table
from hematite.vehicles import Hub, Vehicle

BECAUSE = {"decided": later("decided"), "one_time": later("used once"), "ruined": later("ruined in freeing it")}


@dataclass(frozen=True)
class Item:
    """One line of a list: what, its size where it is known, for which hubs, and why where that is not plain."""

    key: str
    label: str
    size: str = ""
    hubs: tuple[str, ...] = ()
    why: str = ""


@dataclass(frozen=True)
class Lists:
    """Tools in the order of their first use, parts, consumables; minutes by hand and minutes nobody stands by."""

    tools: tuple[Item, ...]
    parts: tuple[Item, ...]
    uses: tuple[Item, ...]
    minutes: float
    waiting: float


def lists(plan: Plan, vehicle: Vehicle) -> Lists:
    """Return what a plan needs; sockets, designations and sizes are the vehicle's own where they are known."""
    hubs = {hub.id: hub for hub in vehicle.hubs()}
    return Lists(
        tools=tuple(_tool(key, plan.steps, hubs.values()) for key in _named(plan.steps, "tools")),
        parts=tuple(_part(one, hubs[one.hub]) for one in plan.renewed),
        uses=tuple(Item(key, table("assembly/tools.toml")["use"][key]["label"]) for key in _named(plan.steps, "uses")),
        minutes=sum(step.minutes for step in plan.steps),
        waiting=sum(step.wait + step.wait_before for step in plan.steps),
    )


def _named(steps: Sequence[Step], column: str) -> list[str]:
    return list(dict.fromkeys(key for step in steps for key in getattr(step, column)))


def _tool(key: str, steps: Sequence[Step], hubs: Iterable[Hub]) -> Item:
    row = table("assembly/tools.toml")["tool"][key]
    at = {step.hub for step in steps if key in step.tools}
    where = [hub for hub in hubs if hub.id in at or "" in at]
    own = {hub.fastenings[row["torque"]].socket_mm for hub in where if row.get("torque") in hub.fastenings}
    sizes = sorted(size for size in own if size)
    return Item(key, row["label"], say(" or ").join(f"{figure(size, 'g')} mm" for size in sizes))


def _part(one: Renewed, hub: Hub) -> Item:
    part = library().get(one.part)
    size = _size(part.buy, (part.key, *part.rows), hub) if part else _size("bearing", ("row",), hub)
    return Item(one.part, one.label, size, (one.hub,), say(BECAUSE[one.because]))


def _size(buy: str, rows: tuple[str, ...], hub: Hub) -> str:
    """Return what a part is called or measures at a hub, as far as that is written down."""
    if buy == "seal":
        return "×".join(f"{size:g}" for size in hub.seal_mm if size) if all(hub.seal_mm) else ""
    if buy not in ("bearing", "cup", "unit"):
        return ""
    known = [hub.designations[name] for name in rows if name in hub.designations]
    if not known and len(set(hub.designations.values())) == 1 and buy != "unit":
        known = list(hub.designations.values())[:1]
    return known[0] if known else ""


def torque_label(key: str) -> str:
    """Return whose torque it is, in words."""
    return kinds()[key].label
