"""What is known of a hub that changes a job: its vehicle's kind, its axle, what is fitted, the workshop's schools."""

from collections.abc import Iterable, Mapping
from typing import Any

from hematite.assembly.fittings import fittings, with_usual
from hematite.assembly.parts import Facts
from hematite.tables import table
from hematite.vehicles import Hub, Vehicle

__all__ = ["Facts", "built", "hub_facts", "questions"]

ON_FRAMES = ("cup_cone", "cartridge_pair")  # designs that a cycle's wheel is built on


def hub_facts(hub: Hub, vehicle: Vehicle, ways: Mapping[str, str]) -> dict[str, str]:
    """Return all that is known of a hub, what nobody said as usual. `ways`: the school of each difference."""
    driven, steered = vehicle.drives(hub.id), vehicle.steers(hub.id)
    return built(hub.design_key, kind=vehicle.kind, driven=driven, steered=steered, said=hub.fittings, ways=ways)


def questions(hub: Hub, vehicle: Vehicle, keys: Iterable[str]) -> list[dict[str, Any]]:
    """Return questions about what is fitted at a hub, with their answers and the one taken: said, else usual."""
    facts = hub_facts(hub, vehicle, {})
    return [
        {
            "key": row.key,
            "label": row.label,
            "taken": row.options[facts[row.key]],
            "options": [{"key": key, "words": words} for key, words in row.options.items()],
        }
        for row in (fittings()[key] for key in keys)
    ]


def built(
    design: str, *, kind: str, driven: bool, steered: bool, said: Mapping[str, str], ways: Mapping[str, str]
) -> dict[str, str]:
    """Return the facts of a hub of a design; `said`: what is known to be fitted, the rest is as usual."""
    if design not in ON_FRAMES:
        kind = "powered" if kind == "cycle" else kind
    elif design == "cup_cone":
        kind = "cycle"
    plain = {"design": design, "kind": kind, "driven": yes(driven), "steered": yes(steered)}
    own = table("assembly/designs.toml")[design].get("facts", {})
    return {**with_usual(plain, {**said, **own}), **own, **ways}


def yes(value: bool) -> str:
    """Return a truth as the tables write it."""
    return "yes" if value else "no"
