"""Made-up vehicles with hidden faults, and mechanics who answer tests about them and err.

Truth and answers come from the tables read plainly, as they stand or bent: then the engine is judged by a world whose
every chance is another's.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from hematite.decision.cells import BRAKE_SHOWS
from hematite.decision.rules import decided
from hematite.evidence import Observation, Statement
from hematite.evidence.witnesses import of_vehicle
from hematite.following import applicable
from hematite.vehicles import Axle, Hub, Vehicle

from bench.plain import Plain, World

WRONG_SIDE, UNSURE = 0.04, 0.04  # how often a mechanic says left for right, or could not tell; judgement
FLEET = {  # designs front to back, which axles drive, which steer
    "car": (("hub_unit", "hub_unit"), (0,), (0,)),
    "old_car": (("taper_castle", "axle_retained"), (1,), (0,)),
    "van": (("hub_unit", "taper_clamp"), (0,), (0,)),
    "off_road": (("taper_locknut", "axle_retained"), (0, 1), (0,)),
    "vintage": (("taper_castle", "taper_shimmed"), (1,), (0,)),
    "quad": (("pressed_double_row", "pressed_double_row"), (0, 1), (0,)),
    "boat_trailer": (("taper_pressurised",), (), ()),
    "tandem_trailer": (("taper_pressurised", "taper_pressurised"), (), ()),
    "kart": (("cartridge_pair", "cartridge_pair"), (1,), (0,)),
    "bicycle": (("cup_cone", "cup_cone"), (1,), (0,)),
}
SINGLE = ("bicycle",)


def draw_vehicle(dice: np.random.Generator, kind: str = "") -> Vehicle:
    """Return a vehicle of a kind, or of any, of some age."""
    designs, driven, steered = FLEET[kind or str(dice.choice(list(FLEET)))]
    axles = []
    for n, design in enumerate(designs):
        sides = ("centre",) if kind in SINGLE else ("left", "right")
        hubs = tuple(Hub(f"A{n + 1}{side[0].upper()}", side, design) for side in sides)
        axles.append(Axle(hubs, driven=n in driven, steered=n in steered))
    return Vehicle(tuple(axles), age_years=float(dice.uniform(2, 20)))


@dataclass
class Made:
    """One made-up case: the vehicle, the faults at each place, and the mechanic's dice and tables."""

    vehicle: Vehicle
    plain: Plain
    dice: np.random.Generator
    worlds: dict[str, World] = field(default_factory=dict)
    hidden: dict[str, dict[str, str]] = field(default_factory=dict)
    noise: tuple[str, str] = ("", "")  # place and fault that is complained of
    recorder: bool = False

    def answer(self, witness: str, place: str) -> Observation | Statement:
        """Return the answer to a test at a hub, or, with place '', of the vehicle."""
        names = self.plain.answers(witness)
        if witness == "fault_lines" and not self.recorder:
            return Observation(witness, place, {"answer": "not_done"})
        chances = self._chances(witness, place, len(names))
        answer = str(self.dice.choice(names, p=np.array(chances) / sum(chances)))
        if witness == "fault_lines":
            return Statement(witness, place, {answer: 1.0})
        if self.dice.uniform() < UNSURE:
            answer = "unsure"
        elif self.dice.uniform() < WRONG_SIDE:
            answer = {"left": "right", "right": "left"}.get(answer, answer)
        return Observation(witness, place, {"answer": answer})

    def _chances(self, witness: str, place: str, count: int) -> list[float]:
        row = self.plain.witnesses[witness]
        if row.get("shows") == "each_side":
            at = [(hub.side, self.worlds[hub.id]) for hub in self.vehicle.hubs()]
            sure = list(self.plain.click_chances(witness, at).values())
        elif of_vehicle(witness):
            where, cause = self._side(self.noise[0]), self.noise[1]
            sure = [self.plain.source_chance(witness, cause, where, n) for n in range(count)]
        elif "against" in row:
            thing, mate = row["against"], self.vehicle.mate(place)
            other = self.hidden[mate.id][thing] if mate else self.plain.states[thing]["values"][0]
            sure = row["chances"][f"{self.hidden[place][thing]}, {other}"]
        else:
            showing = self.worlds[place] if "reads" not in row else [f"{t}.{v}" for t, v in self.hidden[place].items()]
            sure = [self.plain.answer_chance(witness, showing, n) for n in range(count)]
        ear = row.get("by_ear", 1.0)
        return [ear * max(p, 0.0) + (1 - ear) / count for p in sure]

    def _side(self, place: str) -> str:
        hub = self.vehicle.hub(place)
        return hub.side if hub and hub.side != "centre" else ""

    @property
    def faults(self) -> set[tuple[str, str]]:
        """Return what is wrong, as (group, hub)."""
        return {(self.plain.causes[cause]["group"], place) for place, world in self.worlds.items() for cause in world}

    def right(self, facts: Mapping[str, Mapping[str, Any]]) -> set[tuple[str, str]]:
        """Return every choice that is right, as (choice, hub); empty: leave it.

        By the rules, told the truth about fault and play, and of all else what was seen and felt (`facts` by hub).
        """
        found = set()
        for hub in self.vehicle.hubs():
            world = self.worlds[hub.id]
            bearing = [cause for cause in world if self.plain.causes[cause]["group"] == "bearing"]
            spin = facts[hub.id]["spin"]
            truth = {"cause": bearing[0] if bearing else "sound", "play": self.hidden[hub.id]["hub_play"]}
            truth["spin"] = "free" if "brake" in world and spin in BRAKE_SHOWS else spin
            choice = decided({**facts[hub.id], **truth})[2]
            found |= {(choice, hub.id)} if choice != "leave" else set()
            if set(world) - set(bearing):
                found.add(("look_elsewhere", hub.id))
        return found | ({("look_elsewhere", "")} if self.worlds.get("") else set())


def draw_case(dice: np.random.Generator, plain: Plain, kind: str = "", *, recorder: bool = False) -> Made:
    """Return a case: faults drawn place by place, hidden things from them, and what is complained of."""
    vehicle = draw_vehicle(dice, kind)
    made = Made(vehicle, plain, dice, recorder=recorder)
    lives, ages = plain.couplings(vehicle)
    life = _pick(dice, lives)
    for axle in vehicle.axles:
        times = life * _pick(dice, ages)
        for hub in axle.hubs:
            made.worlds[hub.id] = _world(dice, plain, plain.rates(vehicle, hub.id), times)
            made.hidden[hub.id] = {}
            for group in plain.groups:
                values = plain.hidden_worlds(hub, made.worlds[hub.id], group)
                at = dice.choice(len(values), p=np.maximum([p for _, p in values], 0) / sum(p for _, p in values))
                made.hidden[hub.id] |= values[int(at)][0]
    made.worlds[""] = _world(dice, plain, plain.rates(vehicle, ""), 1.0)
    sources = [("", "", 1.0)]
    sources += [(place, cause, plain.causes[cause]["loud"]) for place, world in made.worlds.items() for cause in world]
    loud = np.array([one[2] for one in sources])
    made.noise = sources[int(dice.choice(len(sources), p=loud / loud.sum()))][:2]
    return made


def _pick(dice: np.random.Generator, chances: list[tuple[float, float]]) -> float:
    return chances[int(dice.choice(len(chances), p=[p for p, _ in chances]))][1]


def _world(dice: np.random.Generator, plain: Plain, rates: dict[str, float], times: float) -> World:
    worlds = plain.worlds(list(rates))
    chances = np.array([plain.prior(rates, world, times) for world in worlds])
    return worlds[int(dice.choice(len(worlds), p=chances / chances.sum()))]


def usual_list(made: Made) -> list[tuple[str, str]]:
    """Return the fixed short list: complaint, two road tests, then rock both ways and spin at every corner."""
    fits = applicable(made.vehicle)
    road = [("complaint", ""), *((key, "") for key in ("speed_test", "load_test") if key in fits[""])]
    return [*road, *((key, hub.id) for hub in made.vehicle.hubs() for key in ("rock_12_6", "rock_3_9", "spin"))]
