"""It will not move: the rising ladder for a stuck part, what each rung ruins, and what it changes in the plan."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.assembly import Act, Part, Placed, library
from hematite.doors import one_of
from hematite.language import say, words_once
from hematite.prices import Rates
from hematite.tables import table

PRICED = {
    "bearing": "bearing",
    "cup": "bearing",
    "unit": "unit",
    "knuckle": "unit",
    "seal": "seal",
}  # in the price list
SEALS = ("seal", "marine_seal", "inner_seal", "outer_seal", "axle_seal")


@dataclass(frozen=True)
class Rung:
    """One thing to try. `ruins`: parts that are new after it; `opens`: what has to come off besides; `stop`: when."""

    key: str
    label: str
    stop: str
    act: Act
    ruins: tuple[str, ...] = ()
    opens: tuple[str, ...] = ()


@dataclass(frozen=True)
class Ruin:
    """What freeing one part by a rung changes at its hub."""

    part: str
    rung: Rung
    ruins: tuple[str, ...]
    opens: tuple[str, ...]


@words_once
def rungs() -> dict[str, Rung]:
    """Return every rung by its key."""
    return {key: _rung(key, row) for key, row in table("jobs/ladder.toml")["rung"].items()}


def _rung(key: str, row: Mapping[str, Any]) -> Rung:
    fields: dict[str, Any] = {name: tuple(v) if isinstance(v, list) else v for name, v in row.items()}
    label, stop = fields.pop("label"), fields.pop("stop")
    spoilt, opened = fields.pop("ruins", ()), fields.pop("opens", ())
    return Rung(key, label, stop, Act(id=f"free-{key}", kind="work", **fields), spoilt, opened)


def freeing_step(step: str, rung: Rung) -> str:
    """Return the id of the step that a rung becomes, before the step that would not move."""
    return f"{step.removesuffix('.off')}.{rung.act.id}"


def ladder(part: Part) -> tuple[Rung, ...]:
    """Return what is tried when a part will not move, in rising order; nothing where it has no hold to stick in."""
    keys = table("jobs/ladder.toml")["ladder"].get(part.stuck, ())
    return tuple(rungs()[key] for key in keys)


@dataclass(frozen=True)
class Cost:
    """What a rung costs: minutes by hand, money for them and for what it ruins; `example` where figures are that."""

    minutes: float
    money: float
    ruins: tuple[str, ...]
    example: bool


def cost(rung: Rung, part: str, parts: Mapping[str, Placed], design: str, rates: Rates) -> Cost:
    """Return what a rung costs at a hub of a design; `ruins` in words."""
    spoilt = [parts[name].part for word in rung.ruins for name in _named(word, part, parts)]
    keys = [f"{design}.{PRICED[one.buy]}" for one in spoilt if one.buy in PRICED]
    money = rung.act.minutes / 60 * rates.of("hour") + sum(rates.of(key) for key in keys)
    return Cost(rung.act.minutes, round(money, 2), tuple(one.label for one in spoilt), rates.example("hour", *keys))


def ruins(freed: Mapping[str, str], hub: str, parts: Mapping[str, Placed]) -> tuple[Ruin, ...]:
    """Return what the rungs used at a hub change; `freed`: the rung by the id of the step that would not move.

    What the hub has not any more, as something else was decided meanwhile, changes nothing. Raises `UnknownName`.
    """
    found = []
    for id, key in freed.items():
        at, part = (*id.split("."), "", "")[:2]
        if at != hub or part not in parts:
            continue
        steps = {rung.key: rung for rung in ladder(library()[part])}
        rung = steps[one_of(key, steps, say("way of freeing it ({label})", label=library()[part].label))]
        spoilt = {name for word in rung.ruins for name in _named(word, part, parts)}
        found.append(Ruin(part, rung, tuple(sorted(spoilt)), tuple(o for o in rung.opens if o in parts)))
    return tuple(found)


def _named(word: str, part: str, parts: Mapping[str, Placed]) -> tuple[str, ...]:
    names = {"self": (part,), "@seals": SEALS}.get(word, (word,))
    return tuple(name for name in names if name in parts)
