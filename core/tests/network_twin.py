"""A slow twin of the network: every state of both hubs of one axle, every life, age and source, one after another.

It adds up what `bench.plain` reads from the tables and shares no code with the fast path but statements and vehicles.
"""

import itertools
import math
from functools import cached_property

import numpy as np
from bench.plain import Chance, Plain, World
from hematite.evidence import Statement
from hematite.vehicles import Vehicle


class Twin:
    """The joint of a vehicle of one axle with two hubs and nothing driven, in plain loops."""

    def __init__(self, vehicle: Vehicle, said: list[Statement]) -> None:
        self.vehicle, self.said, self.plain = vehicle, said, Plain()
        self.hubs = list(vehicle.hubs())
        assert len(self.hubs) == 2 and len(vehicle.axles) == 1
        self.rates = [self.plain.rates(vehicle, hub.id) for hub in self.hubs]
        self.worlds = [self.plain.worlds(list(rates)) for rates in self.rates]

    def _told(self, statement: Statement, chance: Chance) -> float:
        """Return the likelihood of a certain statement from a function of the answer's place."""
        answers = self.plain.answers(statement.witness)
        (name,) = statement.shares
        return statement.trust * chance(answers.index(name)) + (1 - statement.trust) / len(answers)

    def _row(self, statement: Statement) -> dict:
        return self.plain.witnesses[statement.witness]

    def _hands(self) -> np.ndarray:
        """Return the likelihood of all that was said at the two hubs in every pair of worlds."""
        found = np.ones([len(own) for own in self.worlds])
        for group in ["", *self.plain.groups]:
            own = [one for one in self.said if one.place and self._row(one).get("reads", "") == group]
            for one in own if not group else []:
                at = [hub.id for hub in self.hubs].index(one.place)
                each = [
                    self._told(one, lambda n, w=world, o=one: self.plain.answer_chance(o.witness, w, n))
                    for world in self.worlds[at]
                ]
                found *= np.array(each)[:, None] if at == 0 else np.array(each)[None, :]
            if own and group:
                found *= self._group(group, own)
        return found

    def _group(self, group: str, own: list[Statement]) -> np.ndarray:
        tables = [
            np.array([[p for _, p in self.plain.hidden_worlds(hub, world, group)] for world in worlds])
            for hub, worlds in zip(self.hubs, self.worlds, strict=True)
        ]
        values = [value for value, _ in self.plain.hidden_worlds(self.hubs[0], (), group)]
        likely = np.array([[math.prod(self._both(one, a, b) for one in own) for b in values] for a in values])
        return np.asarray(tables[0] @ likely @ tables[1].T)

    def _both(self, one: Statement, a: dict[str, str], b: dict[str, str]) -> float:
        """Return the likelihood of one statement given what is hidden at the left hub and at the right one."""
        mine, other = (a, b) if one.place == self.hubs[0].id else (b, a)
        against = self._row(one).get("against")
        if against == "quietest":
            levels = self.plain.states["loudness"]["values"]
            over = levels.index(mine["loudness"]) - min(levels.index(x["loudness"]) for x in (a, b))
            mine = {"loudness": levels[over]}
        elif against:
            row = self._row(one)["chances"][f"{mine[against]}, {other[against]}"]
            return self._told(one, lambda n: row[n])
        showing = [f"{thing}.{value}" for thing, value in mine.items()]
        return self._told(one, lambda n: self.plain.answer_chance(one.witness, showing, n))

    def _noise(self, first: World, second: World) -> float:
        """Return the likelihood of what was said of the noise: each fault may be it, by its loudness."""
        heard = [one for one in self.said if not one.place and not self._row(one).get("shows")]
        sources = [("", "", 1.0)]
        for hub, world in zip(self.hubs, (first, second), strict=True):
            sources += [(cause, hub.side, self.plain.causes[cause]["loud"]) for cause in world]
        total = sum(loud for _, _, loud in sources)
        return sum(loud / total * math.prod(self._source(s, c, side) for s in heard) for c, side, loud in sources)

    def _source(self, one: Statement, cause: str, side: str) -> float:
        return self._told(one, lambda n: self.plain.source_chance(one.witness, cause, side, n))

    def _clicks(self, first: World, second: World) -> float:
        found = 1.0
        for one in (s for s in self.said if not s.place and self._row(s).get("shows") == "each_side"):
            at = [(hub.side, world) for hub, world in zip(self.hubs, (first, second), strict=True)]
            chances = list(self.plain.click_chances(one.witness, at).values())
            found *= self._told(one, lambda n, c=chances: c[n])
        return found

    def _anywhere(self, first: World, second: World) -> float:
        """Return the likelihood of what the cabin hears: any fault at a hub that it fits may make it, or something."""
        found = 1.0
        for one in (s for s in self.said if not s.place and self._row(s).get("shows") == "anywhere"):
            ((name, _),) = one.shares.items()
            rows, at = self._row(one)["chances"], self.plain.answers(one.witness).index(name)
            silent = 1 - rows["base"][at] * len(one.hubs & {hub.id for hub in self.hubs}) / len(self.hubs)
            for hub, world in zip(self.hubs, (first, second), strict=True):
                for cause in world if hub.id in one.hubs else ():
                    silent *= 1 - rows[cause][at] if cause in rows else 1
            found *= 1 - silent
        return found

    @cached_property
    def joint(self) -> np.ndarray:
        """Return the weight of every pair of worlds."""
        prior = sum(
            p
            * q
            * np.outer(
                *([self.plain.prior(r, w, a * b) for w in ws] for r, ws in zip(self.rates, self.worlds, strict=True))
            )
            for (p, a), (q, b) in itertools.product(*self.plain.couplings(self.vehicle))
        )
        left, right = self.worlds
        likely = np.array(
            [[self._noise(a, b) * self._clicks(a, b) * self._anywhere(a, b) for b in right] for a in left]
        )
        return np.asarray(prior * likely * self._hands())

    def probability(self, hub: str, cause: str) -> float:
        """Return the probability of a fault at a hub."""
        at = [one.id for one in self.hubs].index(hub)
        marginal = self.joint.sum(axis=1 - at)
        there = [cause in world for world in self.worlds[at]]
        return float(marginal[there].sum() / marginal.sum())

    @property
    def nothing(self) -> float:
        """Return the probability that nothing is wrong."""
        return float(self.joint[0, 0] / self.joint.sum())
