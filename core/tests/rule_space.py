"""The space of facts as boxes: which choices can come out of any part of it, found by cutting, not by trying all."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from hematite.decision.rules import Box, Rule, box, domains, replacements, rules

Region = dict[str, frozenset[Any]]


def region(**when: Any) -> Region:
    """Return the part of the space where some facts are limited, written as in the rules' own conditions."""
    return {name: frozenset(values) for name, values in domains().items()} | dict(box(when))


def meet(part: Mapping[str, frozenset[Any]], conditions: Box) -> Region | None:
    """Return where a region and a rule's box overlap, or None."""
    both = {name: allowed & conditions.get(name, allowed) for name, allowed in part.items()}
    return both if all(both.values()) else None


def without(part: Region, conditions: Box) -> Iterator[Region]:
    """Yield the rest of a region outside a rule's box, as boxes that do not overlap."""
    inside = dict(part)
    for name, allowed in conditions.items():
        outside = inside[name] - allowed
        if outside:
            yield {**inside, name: outside}
        inside[name] = inside[name] & allowed
        if not inside[name]:
            return


def outcomes(part: Region, table: Sequence[Rule] | None = None) -> set[str]:
    """Return every choice that can come out of a region; 'GAP' where no rule fires."""
    found: set[str] = set()
    left = [part]
    for rule in rules() if table is None else table:
        if any(meet(piece, rule.box) for piece in left):
            met = [both for piece in left if (both := meet(piece, rule.box))]
            found |= set().union(*(_narrowed(rule.choice, piece) for piece in met))
            left = [rest for piece in left for rest in without(piece, rule.box)]
    return found | ({"GAP"} if left else set())


def _narrowed(choice: str, part: Region) -> set[str]:
    return outcomes(part, replacements()) if choice == "replace" else {choice}
