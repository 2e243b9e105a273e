"""What couples hubs besides life and age: mates' readings, the quietest corner, clicks in bends, lines from the cabin.

Each is a sum of products of one factor a hub, which is all that the network needs.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from hematite.beliefs import likelihood
from hematite.beliefs.noise import Whereabouts, from_anywhere
from hematite.beliefs.space import Space
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import VEHICLE, Floats, outcomes, rows_of, states, witnesses
from hematite.vehicles import Vehicle

CLICKS = {"none": (0.0, 0.0, 0.0, 1.0), "left": (0.5, -0.5, 0.5, -0.5), "right": (0.5, 0.5, -0.5, -0.5)}
NORMAL = 0  # the first value of every hidden thing is the sound one


@dataclass(frozen=True)
class Term:
    """One product: its weight, and its factor at each place that it concerns, shape (states,)."""

    weight: float
    factors: Mapping[str, Floats] = field(default_factory=dict)

    def at(self, place: str, size: int) -> Floats:
        """Return the factor at a place."""
        return self.factors.get(place, np.ones(size))

    def __mul__(self, other: "Term") -> "Term":
        places = self.factors.keys() | other.factors.keys()
        both = {p: self.factors.get(p, np.ones(1)) * other.factors.get(p, np.ones(1)) for p in places}
        return Term(self.weight * other.weight, both)


@dataclass(frozen=True)
class PairTerms:
    """What mates' readings make of an axle: by hub a factor a term, shape (axle terms, states).

    `groups`: which groups of hidden things are summed here, with all else that reads them; `values`: what that makes of
    a thing's values at a hub, shape (states, values).
    """

    vectors: Mapping[str, Floats]
    groups: Mapping[str, frozenset[str]]
    values: Mapping[tuple[str, str], Floats]


def terms_of(said: Sequence[Statement], spaces: Mapping[str, Space], where: Mapping[str, Whereabouts]) -> list[Term]:
    """Return the terms that span the vehicle: each sum of one kind times each of the other."""
    found = [Term(1.0)]
    for more in (_clicks(said, spaces, where), _quietest(said, spaces), _from_anywhere(said, spaces)):
        found = [one * other for one in found for other in more]
    return found


def _clicks(said: Iterable[Statement], spaces: Mapping[str, Space], where: Mapping[str, Whereabouts]) -> list[Term]:
    found = [Term(1.0)]
    for statement in said:
        if each_side(statement):
            weights, silent = clicks(statement, spaces, where)
            found = [one * Term(w, own) for one in found for w, own in zip(weights, silent, strict=True)]
    return found


def each_side(statement: Statement) -> bool:
    """Return whether a statement speaks of clicks that may come from any hub of a side."""
    return bool(witnesses()[statement.witness].get("shows") == "each_side")


def clicks(
    statement: Statement, spaces: Mapping[str, Space], where: Mapping[str, Whereabouts]
) -> tuple[Floats, list[dict[str, Floats]]]:
    """Return what was said of clicks to one side as a sum of products: weights, and factors by place, a term each.

    Clicks to a side come from any hub; where both sides click either may be said. With a no click to the left, b none
    to the right and n none at all: P(left) = (1 - a + b - n)/2, P(none) = n.
    """
    sides = (("left",), ("right",), ("left", "right"))
    silent = [_silent(statement.witness, which, spaces, where) for which in sides]
    table = np.array([CLICKS[name] for name in outcomes(statement.witness)])
    table = statement.trust * table + (1 - statement.trust) / len(table) * np.array([1.0, 0.0, 0.0, 0.0])
    return likelihood.spoken(replace(statement, trust=1.0), table), [{}, *silent]


def _silent(
    witness: str, sides: Sequence[str], spaces: Mapping[str, Space], where: Mapping[str, Whereabouts]
) -> dict[str, Floats]:
    """Return by place the probability that nothing there clicks in bends to those sides."""
    rows = rows_of(witness)

    def clicks(cause: str, side: str) -> float:
        return sum(_to_side(witness, rows[cause], to, side) for to in sides)

    chances = {
        place: {cause: clicks(cause, where[place].side) for cause in space.faults if cause in rows}
        for place, space in spaces.items()
    }
    return _nothing_of(chances, clicks("base", ""), spaces)


def _nothing_of(
    chances: Mapping[str, Mapping[str, float]], anyhow: float, spaces: Mapping[str, Space]
) -> dict[str, Floats]:
    """Return by place the probability that no fault there shows itself, nor what does `anyhow`, shape (states,).

    `chances`: how likely each fault shows itself, by place.
    """
    found = {}
    for place, space in spaces.items():
        found[place] = np.ones(len(space.states))
        for cause, chance in chances.get(place, {}).items():
            found[place] = found[place] * np.where(space.present[cause], 1 - chance, 1.0)
    first = next(iter(found))
    return found | {first: found[first] * (1 - anyhow)}


def _to_side(witness: str, chances: Floats, side: str, where: str) -> float:
    row = witnesses()[witness]
    here, away = (float(chances[row["outcomes"].index(name)]) for name in ("here", "away"))
    return (here + away) / 2 if not where else here if row["here_for"][side] == where else away


def _from_anywhere(said: Iterable[Statement], spaces: Mapping[str, Space]) -> list[Term]:
    """Lines heard where all wheels are heard: any fault at any hub that they fit makes them, whatever else sounds.

    Other noise fits a part of the hubs by luck as often as their part of all.
    """
    found = [Term(1.0)]
    for statement in said:
        if from_anywhere(statement):
            names, rows = outcomes(statement.witness), rows_of(statement.witness)
            counts = likelihood.spoken(statement, np.diag(np.ones(len(names))))
            lead = names.index(statement.outcome)
            others = float(counts @ rows["base"] - counts[lead] * rows["base"][lead])
            missed = _missed(statement, lead, spaces)
            heard = [Term(others + float(counts[lead])), Term(-float(counts[lead]), missed)]
            found = [one * other for one in found for other in heard]
    return found


def _missed(statement: Statement, answer: int, spaces: Mapping[str, Space]) -> dict[str, Floats]:
    """Return by place the probability that nothing there makes a recording at no hub answer so, shape (states,)."""
    rows = {cause: float(row[answer]) for cause, row in rows_of(statement.witness).items()}
    chances = {
        place: {cause: rows[cause] for cause in spaces[place].faults if cause in rows}
        for place in statement.hubs & spaces.keys()
    }
    by_luck = rows["base"] * len(statement.hubs & spaces.keys()) / len(spaces.keys() - {VEHICLE})
    return _nothing_of(chances, by_luck, spaces)


def _quietest(said: Iterable[Statement], spaces: Mapping[str, Space]) -> list[Term]:
    """Loudness over the quietest corner: for each level of the quietest all at least that, less all above it."""
    compared = [one for one in said if witnesses()[one.witness].get("against") == "quietest"]
    if not compared:
        return [Term(1.0)]
    levels = len(states()["loudness"]["values"])
    several = len({one.place for one in compared}) > 1
    found = []
    for quietest in range(levels if several else 1):
        found.append(Term(1.0, _above(compared, spaces, quietest, quietest)))
        if several and quietest + 1 < levels:
            found.append(Term(-1.0, _above(compared, spaces, quietest, quietest + 1)))
    return found


def _above(said: Sequence[Statement], spaces: Mapping[str, Space], quietest: int, least: int) -> dict[str, Floats]:
    found: dict[str, Floats] = {}
    for statement in said:
        told = likelihood.spoken(statement, _by_loudness(statement.witness))
        hidden = spaces[statement.place].hidden["loudness"]
        factor = sum(hidden[:, n] * told[n - quietest] for n in range(least, hidden.shape[1]))
        found[statement.place] = found.get(statement.place, np.ones(1)) * factor
    return found


def _by_loudness(witness: str) -> Floats:
    """Return how likely each answer is by how much louder a hub is than the quietest, shape (outcomes, levels)."""
    rows = rows_of(witness)
    return np.array([rows["base"], *(rows[f"loudness.{v}"] for v in states()["loudness"]["values"][1:])]).T


def pair_terms(
    said: Sequence[Statement],
    spaces: Mapping[str, Space],
    axle: Sequence[str],
    vehicle: Vehicle,
    known: Mapping[tuple[str, str], Floats] | None = None,
) -> PairTerms:
    """Return the terms of one axle, by what is read beside a mate; `known`: values that still hold."""
    vectors = {place: np.ones((1, len(spaces[place].states))) for place in axle}
    groups: dict[str, frozenset[str]] = {}
    values = dict(known or {})
    own = [one for one in said if one.place in axle]
    for thing, statements in likelihood.mates(own).items():
        by_place: dict[str, list[Statement]] = {}
        for statement in statements:
            by_place.setdefault(statement.place, []).append(statement)
        for couple in _couples(by_place, vehicle):
            for place in filter(None, couple):
                if (thing, place) not in values:
                    values[thing, place] = by_value([one for one in own if one.place == place], spaces[place], thing)
                groups[place] = groups.get(place, frozenset()) | {states()[thing]["group"]}
            more = _of_couple(values, thing, by_place, couple)
            as_many = np.ones((len(more[couple[0]]), 1))
            for place, known_terms in vectors.items():
                each = known_terms[:, None] * more.get(place, as_many)
                vectors[place] = each.reshape(-1, each.shape[-1])
    return PairTerms(vectors if groups else {}, groups, values)


def _couples(by_place: Mapping[str, object], vehicle: Vehicle) -> list[tuple[str, str]]:
    """Return each hub with something read beside its mate, and the mate ('' for none); a couple once."""
    found: dict[frozenset[str], tuple[str, str]] = {}
    for place in by_place:
        mate = vehicle.mate(place)
        couple = (place, mate.id if mate and vehicle.mate(mate.id) == vehicle.hub(place) else "")
        found.setdefault(frozenset(couple), couple)
    return list(found.values())


def _of_couple(
    values: Mapping[tuple[str, str], Floats],
    thing: str,
    by_place: Mapping[str, list[Statement]],
    couple: tuple[str, str],
) -> dict[str, Floats]:
    """Return a term for every value that the mate may have, (terms, states) by place; without a mate the normal one."""
    own, mate = couple
    first = values[thing, own] @ likelihood.pair_table(by_place, own, mate, len(states()[thing]["values"]))
    if not mate:
        return {own: first[:, [NORMAL]].T}
    return {own: first.T, mate: values[thing, mate].T}


def by_value(said: Iterable[Statement], space: Space, thing: str) -> Floats:
    """Return how likely each value of a thing, and all else that reads its group, is at a hub, (states, values)."""
    name = states()[thing]["group"]
    kin = [one for one in said if witnesses()[one.witness].get("reads") == name]
    return likelihood.split(space, thing, likelihood.of_values(name, kin))
