"""The facts that the rules judge by: the hub's design, what was felt, heard and seen, the workshop's schools.

What is in doubt, the fault and how far the hub moves, is no fact: the rules are asked for each that may be so.
"""

from collections.abc import Iterable, Mapping
from typing import Any

from hematite.evidence import Observation, Statement
from hematite.evidence.witnesses import witnesses
from hematite.inspection import FACTS, Inspection
from hematite.policy import Policy
from hematite.vehicles import Hub, Vehicle

ROUGH = {
    "spin": ("rumbles", "grinds", "clicks"),
    "spring_touch": ("rough",),
    "stethoscope": ("growls", "clicks"),
    "in_gear": ("growls",),
    "hand_turned": ("gritty", "clicks"),
}
RING_LINES = frozenset({"outer_race", "inner_race", "rolling_element", "cage", "many"})
# What one word for an opened hub tells, and what other witnesses tell of the same facts.
OPENED = {"milky": "water", "rust": "rust", "metal": "metal", "burnt": "heat", "marked": "marked", "dry": "dry"}
GREASE_LOST = ("flush", "leaks")
SCHOOLS = ("slack", "repack", "rusted_unit", "sides")  # those that the rules ask about


def facts_of(
    hub: Hub,
    vehicle: Vehicle,
    said: Iterable[Statement],
    inspection: Inspection,
    *,
    policy: Policy,
    observations: Iterable[Observation] = (),
) -> dict[str, Any]:
    """Return every fact but the fault and the play. `said` is what was said of this hub."""
    outcomes = {statement.witness: statement.outcome for statement in said}
    seen = set(inspection.facts)
    if not inspection.opened and outcomes.get("opened") in OPENED:  # one word for the hub, where no part says more
        seen.add(OPENED[outcomes["opened"]])
    if outcomes.get("cap_button") in GREASE_LOST:
        seen.add("grease_lost")
    return {
        "design": hub.design_key,
        "spin": outcomes.get("spin", "untested"),
        "danger": _danger(outcomes, seen),
        "rough": "rough" in seen or _rough(outcomes),
        "click": outcomes.get("spin") == "clicks" or any(_clicked(one, hub) for one in observations),
        "leaks": outcomes.get("cap_button") == "leaks",
        "drags_first": outcomes.get("set_by_nut") == "drags_first",
        "driven": vehicle.drives(hub.id),
        "open": bool(inspection.looked) or "opened" in outcomes,
        **{name: name in seen for name in FACTS if name != "rough"},
        **{name: policy.schools[name] for name in SCHOOLS},
    }


def _clicked(observation: Observation, hub: Hub) -> bool:
    """Return whether it was felt to click while it was rocked."""
    return observation.hub == hub.id and _felt(observation.kind) and observation.value.get("click") is True


def _felt(kind: str) -> bool:
    """Return whether the wheel was rocked for it; `rock` is how it was kept once."""
    return kind in ("lever", "rock") or bool(witnesses().get(kind, {}).get("rocked"))


def _danger(outcomes: Mapping[str, str], seen: set[str]) -> str:
    """Return the worst sign of danger: what holds the wheel comes first."""
    if "fastening_lost" in seen:
        return "fastening_lost"
    if outcomes.get("wheel_nuts") == "loose":
        return "nut_loose"
    return outcomes.get("danger_signs", "none")


def _rough(outcomes: Mapping[str, str]) -> bool:
    lines = outcomes.get("fault_lines") in RING_LINES
    return lines or any(outcomes.get(witness) in answers for witness, answers in ROUGH.items())
