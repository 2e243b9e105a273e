"""The choice for one hub: the first rule of the table whose conditions all hold."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.errors import HematiteError
from hematite.tables import table


@dataclass(frozen=True)
class Choice:
    """A choice with the rule that made it, the reason, and what would change it."""

    choice: str
    label: str
    rule: str
    because: str
    change: str


def choices() -> dict[str, str]:
    """Return every choice with its words."""
    return dict(table("verdict/rules.toml")["choices"])


def decide(facts: Mapping[str, Any]) -> Choice:
    """Return the choice for the facts of a hub. Raises `HematiteError` when the table has a gap (tests guard it)."""
    for rule in table("verdict/rules.toml")["rule"]:
        if all(_holds(facts.get(name), wanted) for name, wanted in rule["when"].items()):
            return Choice(rule["choice"], choices()[rule["choice"]], rule["id"], rule["because"], rule["change"])
    raise HematiteError(f"No rule covers this hub: {dict(facts)}. Decide by hand and report it.")


def _holds(fact: Any, wanted: Any) -> bool:
    return fact in wanted if isinstance(wanted, list) else bool(fact == wanted)
