"""What a hub may have fitted or not: the questions, and what is usual while nobody has answered them."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hematite.assembly.parts import Facts, holds
from hematite.doors import mapped, one_of
from hematite.language import say, words_once
from hematite.tables import table


@dataclass(frozen=True)
class Fitting:
    """One question about a hub, with its answers by key."""

    key: str
    label: str
    options: Mapping[str, str]


@words_once
def fittings() -> dict[str, Fitting]:
    """Return every question by its key."""
    rows = table("assembly/fittings.toml")
    return {key: Fitting(key, row["label"], row["options"]) for key, row in rows.items()}


def asked(plain: Facts, said: Mapping[str, str]) -> tuple[str, ...]:
    """Return the questions that make sense at a hub, by what is plain of it and what was said."""
    known = with_usual(plain, said)
    rows = table("assembly/fittings.toml")
    return tuple(key for key, row in rows.items() if holds(row["only"], known))


def with_usual(plain: Facts, said: Mapping[str, str]) -> dict[str, str]:
    """Return a hub's facts with every fitting: as said, else as usual; where it cannot be asked, as it must be."""
    facts = dict(plain)
    for key, row in table("assembly/fittings.toml").items():
        if not holds(row["only"], facts):
            facts[key] = row["else"]
        else:
            facts[key] = said.get(key) or next(u["is"] for u in row["usual"] if holds(_condition(u), facts))
    return facts


def _condition(usual: Mapping[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in usual.items() if name != "is"}


def read_fittings(value: object) -> dict[str, str]:
    """Check what was said to be fitted. Raises `UnknownName` for a question or an answer that no table lists."""
    given = mapped(value or {}, say("What is fitted"))
    found = {}
    for key, answer in given.items():
        known = fittings()[one_of(str(key), fittings(), say("fitting of a hub"))]
        if answer not in ("", None):
            found[known.key] = one_of(str(answer), known.options, say("answer ({label})", label=known.label))
    return found
