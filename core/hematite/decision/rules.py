"""Rules as data: conditions over facts, the small evaluator, and what the tables' rows say when they hold."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from hematite.errors import HematiteError
from hematite.evidence.witnesses import causes
from hematite.hubs import designs
from hematite.language import say, words_once
from hematite.tables import table

Facts = Mapping[str, Any]
Box = Mapping[str, frozenset[Any]]  # for each fact named, the values that are allowed
OF_DESIGN = ("adjusts", "repacks")  # properties of a design that a condition may name in its place
STOPS = "off_road"  # the choice that only stops the vehicle: what is to be mended is asked apart
BEARING = "@bearing"  # in a condition: any cause that sits in the bearing


@dataclass(frozen=True, eq=False)  # each is one row of a table, and is told by that
class Rule:
    """One rule: its box of facts, its choice, and the reason and what would change it, in words."""

    id: str
    level: int
    choice: str
    box: Box
    because: str = ""
    change: str = ""

    def fires(self, facts: Facts) -> bool:
        """Return whether every condition holds."""
        return all(facts[name] in allowed for name, allowed in self.box.items())


@cache
def domains() -> dict[str, tuple[Any, ...]]:
    """Return every fact that the rules may name, with all its values."""
    return {name: tuple(values) for name, values in table("decision/rules.toml")["facts"].items()}


@words_once
def rules() -> tuple[Rule, ...]:
    """Return the rules of choice, highest level first."""
    levels = table("decision/rules.toml")["levels"]
    found = [as_rule(row, levels[row["level"]]) for row in table("decision/rules.toml")["rule"]]
    return tuple(sorted(found, key=lambda rule: -rule.level))


@words_once
def replacements() -> tuple[Rule, ...]:
    """Return the rows that say what `replace` means."""
    return tuple(as_rule(row, 0) for row in table("decision/rules.toml")["with"])


@words_once
def besides(name: str) -> tuple[tuple[Rule, Mapping[str, Any]], ...]:
    """Return the rows of a table of `besides.toml`, each with the box of its conditions."""
    rows = table("decision/besides.toml")[name]
    return tuple((Rule(row.get("id", ""), 0, row.get("choice", ""), box(row["when"])), row) for row in rows)


def box(when: Mapping[str, Any]) -> Box:
    """Return conditions as a box of facts; a property of the design becomes the designs that have it."""
    made: dict[str, frozenset[Any]] = {}
    for name, wanted in when.items():
        allowed = frozenset(_expanded(wanted if isinstance(wanted, list) else [wanted]))
        fact = "design" if name in OF_DESIGN else name
        if name in OF_DESIGN:
            allowed = frozenset(key for key, row in designs().items() if getattr(row, name) in allowed)
        made[fact] = made[fact] & allowed if fact in made else allowed
    return made


def _expanded(wanted: Iterable[Any]) -> Iterable[Any]:
    for value in wanted:
        if value == BEARING:
            yield from (cause for cause, row in causes().items() if row["group"] == "bearing")
        else:
            yield value


def as_rule(row: Mapping[str, Any], level: int) -> Rule:
    """Return a row of the table as a rule. Raises `HematiteError` for a fact or a value that no table lists."""
    made = box(row["when"])
    for name, allowed in made.items():
        if not allowed <= frozenset(domains().get(name, ())):
            raise HematiteError(
                say("The rule {id} names a fact or a value that no table lists: {name}.", id=row["id"], name=name)
            )
    return Rule(row["id"], level, row["choice"], made, row.get("because", ""), row.get("change", ""))


def decided(facts: Facts, *, repair: bool = False) -> tuple[Rule, tuple[Rule, ...], str]:
    """Return the deciding rule, every rule that fired, and the choice. Raises `HematiteError` on gap or contradiction.

    `facts` must give every fact of `domains()`; the tests prove that neither gap nor contradiction can happen.
    `repair`: what is to be mended, the rules that only stop the vehicle set aside.
    """
    return _decided(tuple(facts[name] for name in domains()), repair)


@words_once
def _decided(values: tuple[Any, ...], repair: bool) -> tuple[Rule, tuple[Rule, ...], str]:
    facts = dict(zip(domains(), values, strict=True))
    fired = tuple(rule for rule in rules() if rule.fires(facts) and not (repair and rule.choice == STOPS))
    top = [rule for rule in fired if rule.level == fired[0].level]
    if len({rule.choice for rule in top}) != 1:
        raise HematiteError(
            say("The rules {rules} do not agree here. Decide by hand and report it.", rules=[rule.id for rule in top])
        )
    choice = top[0].choice
    if choice == "replace":
        choice = next(row.choice for row in replacements() if row.fires(facts))
    return top[0], fired, choice
