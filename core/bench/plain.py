"""The tables of evidence read plainly, one value after another: slow, and without a line of the core's own sums.

The tests' twin of the network adds everything up from here; the made-up mechanics draw their answers from here, with
the tables as they are or with every chance in them bent.
"""

import copy
import itertools
import math
import tomllib
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import Any

import numpy as np
from hematite.vehicles import Hub, Vehicle

ROOM = Path(__file__).parent.parent / "hematite"
World = tuple[str, ...]  # the faults at one place


def _read(name: str) -> dict[str, Any]:
    return tomllib.loads((ROOM / name).read_text(encoding="utf-8"))


class Plain:
    """The tables, and the chances that they give."""

    def __init__(self) -> None:
        """Read them as they stand."""
        self.causes, self.states = _read("evidence/causes.toml"), _read("evidence/states.toml")
        self.priors = _read("beliefs/priors.toml")
        self.witnesses = _read("evidence/hands.toml") | _read("evidence/sounds.toml")
        self.groups: dict[str, list[str]] = {}
        for key, row in self.states.items():
            self.groups.setdefault(row["group"], []).append(key)

    def bent(self, dice: np.random.Generator, spread: float) -> "Plain":
        """Return other tables: every chance moved by a lognormal factor of that spread, rows adding up to 1."""
        other = copy.deepcopy(self)
        for row in (*other.states.values(), *other.witnesses.values()):
            for rows in (row.get("chances", {}), row.get("base_by_slack", {})):
                for key, chances in rows.items():
                    moved = np.array(chances) * dice.lognormal(0.0, spread, len(chances))
                    rows[key] = (moved / moved.sum()).tolist()
        for row in other.causes.values():
            row["prior"] *= float(dice.lognormal(0.0, spread))
        return other

    def rates(self, vehicle: Vehicle, place: str) -> dict[str, float]:
        """Return how many of each fault a place has on average; place '' is the vehicle."""
        hubs = list(vehicle.hubs())
        found = {}
        for cause, row in self.causes.items():
            if cause == "sound" or (vehicle.is_cycle and row.get("powered")):
                continue
            if row["at"] == "vehicle":
                places = [""] if any(axle.driven for axle in vehicle.axles) else []
            else:
                places = [hub.id for hub in hubs if self._sits(row, hub, vehicle)]
            if place in places:
                found[cause] = row["prior"] * self._factor(cause, vehicle.hub(place), vehicle) / len(places)
        return found

    def _sits(self, row: Mapping[str, Any], hub: Hub, vehicle: Vehicle) -> bool:
        axle = next(axle for axle in vehicle.axles if hub in axle.hubs)
        steers = any(one.steered for one in vehicle.axles) or not any(one.driven for one in vehicle.axles)
        if hub.design_key not in row.get("only", [hub.design_key]) or (row.get("adjusts") and not hub.design.adjusts):
            return False
        if row["at"] == "driven_hub":
            return axle.driven
        return row["at"] == "hub" or axle.steered or not steers

    def _factor(self, cause: str, hub: Hub | None, vehicle: Vehicle) -> float:
        factor = self.priors["design"].get(hub.design_key, {}).get(cause, 1.0) if hub else 1.0
        for duty in vehicle.duty if hub else ():
            factor *= self.priors["duty"][duty].get(cause, 1.0)
        for name, value in (("age_years", vehicle.age_years), ("distance_km", vehicle.distance_km)):
            row = self.priors[name]
            if value and cause in row["causes"]:
                factor *= row["doubling"] ** max(min(math.log2(value / row["at"]), 3.0), -3.0)
        return float(factor)

    def slots(self, causes: Sequence[str]) -> dict[str, list[str]]:
        """Return causes by what they exclude."""
        found: dict[str, list[str]] = {}
        for cause in causes:
            found.setdefault(self.causes[cause].get("slot", cause), []).append(cause)
        return found

    def worlds(self, causes: Sequence[str]) -> list[World]:
        """Return every state of a place: of each slot one fault or none."""
        choices = [("", *own) for own in self.slots(causes).values()]
        return [tuple(cause for cause in chosen if cause) for chosen in itertools.product(*choices)]

    def prior(self, rates: Mapping[str, float], world: World, times: float) -> float:
        """Return the prior of a state where bearing faults are `times` as frequent."""
        found = 1.0
        for slot, own in self.slots(list(rates)).items():
            each = {cause: rates[cause] * (times if slot == "bearing" else 1.0) for cause in own}
            total = sum(each.values())
            there = [cause for cause in world if cause in own]
            found *= (1 - math.exp(-total)) * each[there[0]] / total if there else math.exp(-total)
        return found

    def couplings(self, vehicle: Vehicle) -> list[list[tuple[float, float]]]:
        """Return the chances of an easy and a hard life, and of a young and an aged axle, with what each does."""
        life, axle = self.priors["life"], self.priors["axle"]
        hard = life["hard_after_duty"] if vehicle.duty else life["hard"]
        pairs = ((hard, life["times"]), (axle["aged"], axle["times"]))
        return [[(1 - s, 1 / (1 - s + s * t)), (s, t / (1 - s + s * t))] for s, t in pairs]

    def value_chance(self, hub: Hub, world: World, thing: str, value: int) -> float:
        """Return how likely a hidden thing has a value: the worst of what all at work draw."""
        return self._upto(hub, world, thing, value) - self._upto(hub, world, thing, value - 1)

    def _upto(self, hub: Hub, world: World, thing: str, value: int) -> float:
        if value < 0:
            return 0.0
        row = self.states[thing]
        base = row["base_by_slack"][hub.design.slack] if "base_by_slack" in row else row["chances"]["base"]
        hidden = any(cause in row.get("hides_base", []) for cause in world)
        drawn = [row["chances"][cause] for cause in world if cause in row["chances"]]
        return math.prod(sum(one[: value + 1]) for one in ([] if hidden else [base]) + drawn)

    def hidden_worlds(self, hub: Hub, world: World, group: str) -> list[tuple[dict[str, str], float]]:
        """Return every joint value of a group of hidden things with its probability."""
        things = self.groups[group]
        found = []
        for values in itertools.product(*(range(len(self.states[thing]["values"])) for thing in things)):
            p = math.prod(self.value_chance(hub, world, thing, n) for thing, n in zip(things, values, strict=True))
            found.append(({t: self.states[t]["values"][n] for t, n in zip(things, values, strict=True)}, p))
        return found

    def answer_chance(self, witness: str, showing: Sequence[str], answer: int) -> float:
        """Return how likely one outcome is where several things, or causes, may show."""
        row = self.witnesses[witness]
        rows = row["chances"]
        there = [rows[key] for key in showing if key in rows]
        if not there:
            return float(rows["base"][answer])
        if row.get("combine") == "last":
            return float(max(there, key=lambda one: one[-1])[answer])
        missed = min(rows["base"][0] * math.prod(one[0] / rows["base"][0] for one in there), 1 - 1e-9)
        if answer == 0:
            return float(missed)
        return float((1 - missed) * sum(one[answer] for one in there) / sum(sum(one[1:]) for one in there))

    def answers(self, witness: str) -> list[str]:
        """Return what a witness may say."""
        row = self.witnesses[witness]
        return list(row.get("asked") or row["outcomes"])

    def source_chance(self, witness: str, cause: str, where: str, answer: int) -> float:
        """Return how likely an answer is were a cause the noise, at a side or an end ('' : neither); '' : no cause."""
        row = self.witnesses[witness]
        chances = row["chances"].get(cause, row["chances"]["base"])
        if "asked" not in row:
            return float(chances[answer])
        name = list(row["asked"])[answer]
        if name not in row["here_for"]:
            return float(chances[row["outcomes"].index(name)])
        here, away = (chances[row["outcomes"].index(side)] for side in ("here", "away"))
        if not where:
            return float((here + away) / 2)
        return float(here if row["here_for"][name] == where else away)

    def click_chances(self, witness: str, at: Sequence[tuple[str, World]]) -> dict[str, float]:
        """Return how likely each answer to clicks in bends is, from (side, faults) of every place."""
        row = self.witnesses[witness]
        rows, here, away = row["chances"], row["outcomes"].index("here"), row["outcomes"].index("away")
        no_left = no_right = 1 - (rows["base"][here] + rows["base"][away]) / 2
        none = 1 - rows["base"][here] - rows["base"][away]
        for side, world in at:
            for cause in (c for c in world if c in rows):
                middle = (rows[cause][here] + rows[cause][away]) / 2
                left = rows[cause][here] if side == "left" else rows[cause][away] if side == "right" else middle
                right = rows[cause][here] if side == "right" else rows[cause][away] if side == "left" else middle
                no_left, no_right, none = no_left * (1 - left), no_right * (1 - right), none * (1 - left - right)
        both = 1 - no_left - no_right + none
        return {"none": none, "left": no_right - none + both / 2, "right": no_left - none + both / 2}


Chance = Callable[[int], float]
