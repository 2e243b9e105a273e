"""The parts of hubs and of what stands in their way: how each comes off, goes back on, and what is done to it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from hematite.doors import one_of
from hematite.language import say, words_once
from hematite.tables import table

TABLES = ("around", "tapers", "knuckles", "shafts", "cycles")
ROLLS = frozenset({"rolling", "race", "sealed"})  # kinds of part that must be looked at before a hub is called clean
TAPERS = ("taper_castle", "taper_locknut", "taper_clamp", "taper_pressurised")

Facts = Mapping[str, str]


@dataclass(frozen=True)
class Act:
    """One thing done to a part, in one go. `kind`: off, on, work, look, set or check; `minutes` by hand.

    `wait`: minutes that nobody has to stand by, for `wait_for`; `where`: "ground", "air" or "" for either. `at`: when
    work is done: before_off, bottom, before, after or closed. `axle`: parts that must be on at every hub of the axle
    first, `with_on`: at this one.
    """

    id: str
    kind: str
    do: str
    minutes: float
    at: str = ""
    when: Mapping[str, Any] | None = field(default=None, hash=False)
    see: str = ""
    where: str = ""
    wait: float = 0.0
    wait_for: str = ""
    tools: tuple[str, ...] = ()
    uses: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    torque: str = ""
    picture: str = ""
    sum: str = ""
    press_t: float = 0.0
    axle: tuple[str, ...] = ()
    with_on: tuple[str, ...] = ()


@dataclass(frozen=True)
class Part:
    """One part. `kind` says what can be found at it, '' where it is not looked at; `held` what holds it.

    `one_time`: always new once it was off ("yes"), or as the workshop's school has it ("school"). `buy`: what is bought
    for it, `buys`: how the list names it, `rows`: which bearing of the hub it is, by what it may be called.
    `stuck`: the ladder that frees it.
    `shared`: once for the whole job.
    """

    key: str
    label: str
    kind: str = ""
    held: str = ""
    one_time: str = ""
    buys: str = ""
    buy: str = ""
    rows: tuple[str, ...] = ()
    stuck: str = ""
    torque: str = ""
    shared: bool = False
    off: tuple[Act, ...] = field(default=(), hash=False)
    on: tuple[Act, ...] = field(default=(), hash=False)
    work: tuple[Act, ...] = field(default=(), hash=False)

    @property
    def rolls(self) -> bool:
        """Return whether rolling elements run in or on it."""
        return self.kind in ROLLS


def holds(when: Mapping[str, Any] | None, facts: Facts) -> bool:
    """Return whether every condition holds: a value, one of several, or '@taper' for the opposed tapers."""
    return all(facts.get(name) in _allowed(allowed) for name, allowed in (when or {}).items())


def _allowed(value: Any) -> Sequence[str]:
    if value == "@taper":
        return TAPERS
    return value if isinstance(value, list) else [value]


@words_once
def library() -> dict[str, Part]:
    """Return every part by its key."""
    return {key: _part(key, row) for name in TABLES for key, row in table(f"assembly/{name}.toml").items()}


def _part(key: str, row: Mapping[str, Any]) -> Part:
    plain = {name: value for name, value in row.items() if name not in ("off", "on", "work", "one_time", "row")}
    rows = row.get("row", ())
    once = row.get("one_time", "")
    return Part(
        key=key,
        one_time="yes" if once is True else once,
        rows=(rows,) if isinstance(rows, str) else tuple(rows),
        off=tuple(_act("off", "off", act) for act in row.get("off", ())),
        on=tuple(_act("on", "on", act) for act in row.get("on", ())),
        work=tuple(_act(act["id"], act.get("act", "work"), act) for act in row.get("work", ())),
        **plain,
    )


def _act(key: str, kind: str, row: Mapping[str, Any]) -> Act:
    fields: dict[str, Any] = {name: tuple(v) if isinstance(v, list) else v for name, v in row.items()}
    fields = {name: value for name, value in fields.items() if name not in ("id", "act")}
    return Act(id=key, kind=kind, **fields)


@words_once
def parts_of(design: str) -> tuple[Part, ...]:
    """Return every part that hubs of a design may have looked at, in the order they come off. Raises `UnknownName`."""
    rows = table("assembly/designs.toml")
    one_of(design, [key for key, row in rows.items() if "parts" in row], say("hub design"))
    keys = dict.fromkeys(row["key"] for row in listed(design))
    return tuple(part for key in keys if (part := library()[key]).kind)


def listed(design: str) -> list[Mapping[str, Any]]:
    """Return the rows of a design's parts in the order they come off, its groups in their places."""
    rows = table("assembly/designs.toml")
    row, groups = rows[design], rows["group"]
    found = [entry for name in row.get("groups", ()) for entry in groups[name]]
    found += row["parts"]
    found += [entry for name in row.get("then", ()) for entry in groups[name]]
    return [*found, *row.get("last", ())]
