"""Weighing: from what was said to the probability of every fault at every place, and what each witness did to it."""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache

import numpy as np

from hematite.beliefs import likelihood
from hematite.beliefs.network import Network
from hematite.beliefs.priors import VEHICLES_KEPT
from hematite.beliefs.space import Flags, Space
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import VEHICLE, Floats, causes, mechanism_of, states
from hematite.vehicles import Vehicle


@dataclass(frozen=True)
class HubBelief:
    """What is believed of one place: `chances` of all its states, and what each statement did there (in bits)."""

    space: Space
    chances: Floats
    plays: Floats
    weights: tuple[tuple[Statement, float], ...] = field(default=())

    @cached_property
    def causes(self) -> Mapping[str, float]:
        """Return the probability of each fault being there, alone or not."""
        return {cause: self.of(self.space.present[cause]) for cause in self.space.faults}

    def of(self, wanted: Floats | Flags) -> float:
        """Return the probability of a set of states, shape (states,)."""
        return min(max(float(self.chances @ wanted), 0.0), 1.0)

    def of_group(self, group: str) -> float:
        """Return the probability that a fault of a group, such as 'brake', is there."""
        if group == "sound":
            return float(self.chances[0])
        return self.of(self.space.group(group))

    @property
    def bearing(self) -> float:
        """Return the probability that this hub's bearing is at fault."""
        return self.of_group("bearing")

    @property
    def sound(self) -> float:
        """Return the probability that nothing at all is wrong here."""
        return float(self.chances[0])

    @property
    def mechanisms(self) -> dict[str, float]:
        """Return the probabilities of the bearing's own mechanisms, as the case format names them."""
        found: dict[str, float] = {}
        for cause, row in causes().items():
            if row["group"] == "bearing":
                name = mechanism_of(cause)
                found[name] = found.get(name, 0.0) + self.causes.get(cause, 0.0)
        return found

    def likeliest(self, group: str) -> str:
        """Return the likeliest fault of a group, as its table names it."""
        own = [cause for cause in self.space.faults if causes()[cause]["group"] == group]
        return max(own, key=lambda cause: self.causes[cause])

    @property
    def play(self) -> dict[str, float]:
        """Return how likely each extent of play at the hub is."""
        return dict(zip(states()["hub_play"]["values"], (self.chances @ self.plays).tolist(), strict=True))


@dataclass(frozen=True)
class Weighed:
    """What is believed of every hub by its id, and of the vehicle; `network` is what it came from."""

    hubs: Mapping[str, HubBelief]
    vehicle: HubBelief
    network: Network

    @cached_property
    def nothing(self) -> float:
        """Return the probability that nothing at all is wrong."""
        return self.none_of({p: belief.space.any_of(belief.space.faults) for p, belief in self.places.items()})

    @property
    def places(self) -> dict[str, HubBelief]:
        """Return the beliefs of every hub and, under '', of the vehicle."""
        return {**self.hubs, VEHICLE: self.vehicle}

    def none_of(self, wanted: Mapping[str, Floats] | Mapping[str, Flags]) -> float:
        """Return the probability that at no place named its state is in a set, each of shape (states,)."""
        return float(self.network.probability({place: np.asarray(1.0 - own) for place, own in wanted.items()}))

    def any_of_group(self, group: str, places: Iterable[str] | None = None) -> float:
        """Return the probability that a fault of a group is at one place at least, of `places` or of all."""
        named = self.places if places is None else {place: self.places[place] for place in places}
        return 1.0 - self.none_of({place: belief.space.group(group) for place, belief in named.items()})


def weigh(said: Sequence[Statement], vehicle: Vehicle) -> Weighed:
    """Return the beliefs about every place of a vehicle. The order of statements, and repeats, do not matter."""
    said = one_of_each(said)
    network = Network(vehicle, said)
    rests = _rests(network)
    beliefs = {place: _belief(place, network, rests) for place in network.frame.spaces}
    of_vehicle = beliefs.pop(VEHICLE)
    return Weighed(beliefs, of_vehicle, network)


@lru_cache(maxsize=VEHICLES_KEPT)
def unsaid(vehicle: Vehicle) -> Weighed:
    """Return the beliefs about a vehicle before anything is said."""
    return weigh((), vehicle)


def one_of_each(said: Iterable[Statement]) -> list[Statement]:
    """A test done twice is one witness: of two answers that differ either may be the right one."""
    alike: dict[tuple[str, str, frozenset[str]], list[Statement]] = {}
    for one in said:
        own = alike.setdefault((one.witness, one.place, one.hubs), [])
        if all((one.shares, one.trust) != (other.shares, other.trust) for other in own):
            own.append(one)
        elif one.source:
            own[:] = [one if (one.shares, one.trust) == (o.shares, o.trust) else o for o in own]
    return [_either(alike[key]) for key in sorted(alike, key=lambda key: (key[1], key[0], sorted(key[2])))]


def _either(said: Sequence[Statement]) -> Statement:
    if len(said) == 1:
        return said[0]
    names = sorted({name for one in said for name in one.shares})
    shares = {name: sum(one.shares.get(name, 0.0) for one in said) / len(said) for name in names}
    trust = sum(one.trust for one in said) / len(said)
    return Statement(said[0].witness, said[0].place, shares, said[-1].source, trust, said[0].hubs)


Rest = Mapping[str, float]


def _rests(network: Network) -> dict[int, Rest]:
    """Return by statement the probability of a bearing fault at every hub that it concerns, had it not been made."""
    alone: dict[int, Rest] = {}
    for place, space in network.frame.spaces.items():
        bearing = space.group("bearing")
        alone |= {id(one): {place: float(chances @ bearing)} for one, chances in network.without_each(place)}
    return {n: alone.get(id(one)) or _rest(network, one) for n, one in enumerate(network.said)}


def _rest(network: Network, statement: Statement) -> Rest:
    space = network.frame.spaces
    if network.reads_one_hub(statement):
        place = statement.place
        return {place: float(network.without([statement]) @ space[place].group("bearing"))}
    rest = network.changed([one for one in network.said if one is not statement], statement)
    places = [statement.place] if statement.place else [place for place in space if place != VEHICLE]
    return {place: rest.chance(place, space[place].group("bearing").astype(float)) for place in places}


def _belief(place: str, network: Network, rests: Mapping[int, Rest]) -> HubBelief:
    space, chances = network.frame.spaces[place], network.marginal(place)
    now = bits(float(chances @ space.group("bearing")))
    weights = [(network.said[n], now - bits(rest[place])) for n, rest in rests.items() if place in rest]
    weights.sort(key=lambda pair: (-abs(pair[1]), pair[0].witness))
    return HubBelief(space, chances, _plays(network, place), tuple(weights))


def _plays(network: Network, place: str) -> Floats:
    """Return how likely each extent of play at the hub is in each state, after what was said of it."""
    space = network.frame.spaces[place]
    own = [one for one in network.said if one.place == place and not one.of_vehicle]
    values = likelihood.of_values("play", likelihood.kin(own).get("play", []))
    found = likelihood.split(space, "hub_play", values)
    return np.asarray(found / found.sum(axis=1, keepdims=True))


def bits(p: float) -> float:
    """Return log-odds."""
    return math.log2(max(p, 1e-12) / max(1 - p, 1e-12))
