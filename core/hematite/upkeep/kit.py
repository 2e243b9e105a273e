"""What goes along on the road for this vehicle's hubs, and the card with their setting and torques."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from hematite.assembly import hub_facts, library
from hematite.fastenings import kinds
from hematite.jobs import HubJob, Item, Lists, lists, plan
from hematite.language import say
from hematite.policy import Policy
from hematite.setting import lock_of, sequence
from hematite.tables import table
from hematite.vehicles import Hub, Vehicle

BY_NUMBER = ("bearing", "cup", "unit", "seal")


@dataclass(frozen=True)
class CardLine:
    """One line of a hub's card: what, and its figure; '' where nobody wrote it down."""

    label: str
    figure: str = ""
    torque_nm: float | None = None
    source: str = ""


@dataclass(frozen=True)
class Card:
    """How hubs of one build are set: the moves in words, the play, and every torque that is known or wanted."""

    hubs: tuple[str, ...]
    design: str
    moves: tuple[str, ...]
    play_mm: tuple[float, float]
    play_source: str
    torques: tuple[CardLine, ...]


@dataclass(frozen=True)
class Kit:
    """Parts for one hub of each build, tools, what is used up; `unknown`: parts of which nobody wrote down which.

    `not_on_the_road`: builds that are not repaired beside the road, with the reason.
    """

    parts: tuple[Item, ...]
    tools: tuple[Item, ...]
    uses: tuple[Item, ...]
    unknown: tuple[str, ...]
    not_on_the_road: tuple[tuple[str, str], ...]
    cards: tuple[Card, ...]


def kit(vehicle: Vehicle, policy: Policy | None = None) -> Kit:
    """Return the kit: what replacing a bearing asks for at one hub of each build, and what lies in the boot besides."""
    policy = policy or Policy()
    rows = table("upkeep/kit.toml")
    builds = _builds(vehicle)
    needs = {hubs[0].id: _needs(vehicle, hubs[0], policy) for hubs in builds}
    here = [hubs for hubs in builds if not _at_the_workshop(needs[hubs[0].id], rows)]
    parts = [_for_all(item, hubs) for hubs in builds for item in needs[hubs[0].id].parts if hubs in here or item.size]
    tools = _once(item for hubs in here for item in needs[hubs[0].id].tools)
    extra = [*_named("tool", rows["tools"]), *(Item(row["key"], row["label"]) for row in rows["extra"])]
    uses = [*(item for hubs in here for item in needs[hubs[0].id].uses), *_named("use", rows["uses"])]
    return Kit(
        parts=(*parts, *_spares(builds, rows)),
        tools=tuple(_once([*tools, *extra])),
        uses=tuple(_once(uses)),
        unknown=tuple(_unknown(parts)),
        not_on_the_road=tuple((_names(hubs), rows["needs_a_press"]) for hubs in builds if hubs not in here),
        cards=tuple(_card(hubs, vehicle, policy) for hubs in builds),
    )


def _builds(vehicle: Vehicle) -> list[list[Hub]]:
    """Return the hubs that take the same parts, together: by design, designations, seals and what is fitted."""
    builds: dict[tuple[Any, ...], list[Hub]] = {}
    for hub in vehicle.hubs():
        bearings = tuple(sorted(hub.designations.items()))
        key = (hub.design_key, bearings, hub.seal_mm, tuple(sorted(hub.fittings.items())), vehicle.drives(hub.id))
        builds.setdefault(key, []).append(hub)
    return list(builds.values())


def _needs(vehicle: Vehicle, hub: Hub, policy: Policy) -> Lists:
    choice = table("upkeep/kit.toml")["choice"]["open" if hub.design.repacks else "sealed"]
    return lists(plan(vehicle, [HubJob(hub.id, choice, ways=policy.schools)]), vehicle)


def _at_the_workshop(needs: Lists, rows: Mapping[str, Any]) -> bool:
    return any(item.key in rows["at_the_workshop"] for item in needs.tools)


def _named(kind: str, keys: Iterable[str]) -> list[Item]:
    return [Item(key, table("assembly/tools.toml")[kind][key]["label"]) for key in keys]


def _spares(builds: Iterable[Sequence[Hub]], rows: Mapping[str, Any]) -> list[Item]:
    """Return what gets lost on the road rather than worn."""
    made = []
    for row in rows["spare"]:
        at = [hub.id for hubs in builds for hub in hubs if hub.design_key in row["designs"]]
        made += [Item(row["key"], row["label"], hubs=tuple(at), why=say("lost on the way"))] if at else []
    return made


def _for_all(item: Item, hubs: Iterable[Hub]) -> Item:
    return Item(item.key, item.label, item.size, tuple(hub.id for hub in hubs), item.why)


def _once(items: Iterable[Item]) -> list[Item]:
    """Return every item once; of one thing in two sizes both."""
    found: dict[str, Item] = {}
    for item in items:
        old = found.get(item.key)
        sizes = [] if old is None else [size for size in (old.size, item.size) if size]
        found[item.key] = item if old is None else Item(old.key, old.label, " and ".join(dict.fromkeys(sizes)))
    return list(found.values())


def _unknown(parts: Iterable[Item]) -> list[str]:
    """Return the bearings and seals of which nobody wrote down which they are."""
    return [f"{i.label} ({', '.join(i.hubs)})" for i in parts if not i.size and _has_a_number(i.key)]


def _has_a_number(key: str) -> bool:
    """Return whether a part is bought by its number or its size; one that is in no hub's library is a bearing."""
    return key not in library() or library()[key].buy in BY_NUMBER


def _names(hubs: Iterable[Hub]) -> str:
    return ", ".join(hub.id for hub in hubs)


def _card(hubs: list[Hub], vehicle: Vehicle, policy: Policy) -> Card:
    hub = hubs[0]
    lock = lock_of(hub.design_key, hub_facts(hub, vehicle, policy.schools))
    moves = sequence(policy.schools["nut_setting"], lock) if lock else ()
    steps = plan(vehicle, [HubJob(hub.id, "adjust" if lock else "replace_unit", ways=policy.schools)]).steps
    wanted = dict.fromkeys([m.torque for m in moves if m.torque] + [s.torque for s in steps if s.torque])
    torques = tuple(_torque(key, hub) for key in wanted)
    return Card(
        tuple(h.id for h in hubs),
        hub.design.label,
        tuple(m.do for m in moves),
        hub.play_window_mm,
        hub.window_source,
        torques,
    )


def _torque(key: str, hub: Hub) -> CardLine:
    known = hub.fastenings.get(key)
    socket = f"{known.socket_mm:g} mm" if known and known.socket_mm else ""
    if known is None or known.aim_nm is None:
        return CardLine(kinds()[key].label, socket)
    return CardLine(kinds()[key].label, socket, known.aim_nm, known.source_words)
