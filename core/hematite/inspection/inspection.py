"""An inspection: what was found at each part so far. Half of one counts for what it shows, never for what it lacks."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from hematite.assembly import Part, parts_of
from hematite.doors import listed, one_of
from hematite.errors import HematiteError
from hematite.inspection.finds import Find, finds, finds_of, shuts_out
from hematite.language import say, small
from hematite.vehicles import Hub

# Every fact that a find can tell, in the order of the table.
FACTS = tuple(dict.fromkeys(fact for find in finds().values() for fact in find.facts))
# What an opened hub is called, worst first, by the facts that mean it: the outcomes of the witness `opened`.
CALLED = {"marked": "marked", "cracked": "marked", "heat": "burnt", "metal": "metal", "water": "milky", "rust": "rust"}


@dataclass(frozen=True)
class PartLooked:
    """One part that was looked at."""

    part: Part
    finds: tuple[Find, ...]
    note: str = ""
    source: str = ""

    @property
    def words(self) -> str:
        """Return it in words: 'Outer cup: pits or flakes'."""
        found = "; ".join(small(find.label) for find in self.finds)
        return f"{self.part.label}: {found}{f' ({self.note})' if self.note else ''}"


@dataclass(frozen=True)
class Inspection:
    """The parts of one hub that were looked at, in the order they come off."""

    hub: Hub
    looked: tuple[PartLooked, ...] = ()

    @property
    def complete(self) -> bool:
        """Return whether every part that rolls was looked at."""
        seen = {one.part.key for one in self.looked}
        return all(part.key in seen for part in parts_of(self.hub.design_key) if part.rolls)

    @property
    def clean(self) -> bool:
        """Return whether every part that rolls was *called* clean or unmarked: nobody is made to say what he did not.

        Into a sealed bearing nobody sees, so it is never clean.
        """
        rolls = [part for part in parts_of(self.hub.design_key) if part.rolls]
        called = {one.part.key for one in self.looked if any(find.fine and not find.hand for find in one.finds)}
        return bool(rolls) and all(part.key in called and part.kind != "sealed" for part in rolls)

    @property
    def fastening(self) -> Mapping[str, float]:
        """Return shares over the outcomes of the witness `fastening`: the worst of what holds the hub speaks."""
        held = [find for one in self.looked if one.part.kind == "fastening" for find in one.finds]
        facts = {fact for find in held for fact in find.facts}
        if "fastening_lost" in facts:
            return {"lost": 1.0}
        if "set_wide" in facts:
            return {"wide": 1.0}
        return {"good": 1.0} if any(find.fine for find in held) else {}

    @property
    def facts(self) -> frozenset[str]:
        """Return what all finds tell the rules."""
        return frozenset(fact for one in self.looked for find in one.finds for fact in find.facts)

    @property
    def opened(self) -> Mapping[str, float]:
        """Return shares over the outcomes of the witness `opened`; empty while nothing can be said yet."""
        called = dict.fromkeys(CALLED[fact] for fact in CALLED if fact in self.facts)
        if not called and "dry" in self.facts:
            called = {"dry": None}
        if not called and self.clean:
            called = {"clean": None}
        return {outcome: 1 / len(called) for outcome in called}

    @property
    def in_the_hand(self) -> Mapping[str, float]:
        """Return shares over the outcomes of the witness `hand_turned`: the worst of its bearings speaks."""
        hands = [find.hand for one in self.looked for find in one.finds if find.hand]
        worst = next((hand for hand in ("clicks", "gritty", "smooth") if hand in hands), "")
        return {worst: 1.0} if worst else {}


def read_part(value: Mapping[str, Any], hub: Hub, source: str = "") -> PartLooked:
    """Check one looked-at part, as the case format has it: `part`, `finds`, `note`.

    Raises `UnknownName` for a part that the design has not or a find that the part cannot have, `HematiteError` when
    nothing was found or when two finds shut each other out.
    """
    known = {part.key: part for part in parts_of(hub.design_key)}
    part = known[
        one_of(str(value.get("part", "")), known, say("part of a hub of this design ({label})", label=hub.design.label))
    ]
    keys = [str(key) for key in listed(value.get("finds", []), say("The finds"))]
    possible = {find.key: find for find in finds_of(part)}
    found = tuple(
        possible[one_of(key, possible, say("find at this part ({label})", label=part.label))]
        for key in dict.fromkeys(keys)
    )
    if not found:
        raise HematiteError(say("{label}: say what was found, if only that nothing is wrong.", label=part.label))
    for find in found:
        against = next((other for other in found if other.key in shuts_out(find)), None)
        if against:
            raise HematiteError(
                say(
                    "{part}: not “{find}” and “{other}” at once. Take one away.",
                    part=part.label,
                    find=find.label,
                    other=against.label,
                )
            )
    return PartLooked(part, found, str(value.get("note") or "")[:400], source)


def inspections(looked: Iterable[tuple[str, Mapping[str, Any], str]], hubs: Iterable[Hub]) -> dict[str, Inspection]:
    """Return an inspection a hub from (hub, value, source) of every looked-at part; the latest of a part counts."""
    latest: dict[str, dict[str, PartLooked]] = {}
    known = {hub.id: hub for hub in hubs}
    for hub_id, value, source in looked:
        if hub_id in known:
            one = read_part(value, known[hub_id], source)
            latest.setdefault(hub_id, {})[one.part.key] = one
    return {hub_id: Inspection(hub, _in_order(hub, latest.get(hub_id, {}))) for hub_id, hub in known.items()}


def _in_order(hub: Hub, looked: Mapping[str, PartLooked]) -> tuple[PartLooked, ...]:
    return tuple(looked[part.key] for part in parts_of(hub.design_key) if part.key in looked)
