"""Everything that can be wrong at one place at once, and what each of it makes likely."""

import itertools
import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, cached_property

import numpy as np
import numpy.typing as npt

from hematite.evidence.witnesses import Floats, causes, group, outcomes, rows_of, slot_of, states, witnesses

Flags = npt.NDArray[np.bool_]
TINY = 1e-9


@dataclass(frozen=True)
class Space:
    """All states of one place: of every slot at most one fault, all slots independent.

    `faults` are those that can be there; `slack` is what play is normal. Arrays over states have shape (states,).
    """

    faults: tuple[str, ...]
    slack: str

    @cached_property
    def slots(self) -> dict[str, tuple[str, ...]]:
        """Return the faults by slot."""
        found: dict[str, list[str]] = {}
        for cause in self.faults:
            found.setdefault(slot_of(cause), []).append(cause)
        return {slot: tuple(own) for slot, own in found.items()}

    @cached_property
    def states(self) -> tuple[frozenset[str], ...]:
        """Return every state as the faults present in it, the sound one first."""
        choices = [("", *own) for own in self.slots.values()]
        return tuple(frozenset(cause for cause in chosen if cause) for chosen in itertools.product(*choices))

    @cached_property
    def present(self) -> Mapping[str, Flags]:
        """Return for every fault in which states it is present."""
        return {cause: np.array([cause in state for state in self.states]) for cause in self.faults}

    def any_of(self, wanted: Iterable[str]) -> Flags:
        """Return in which states any of some faults is present."""
        there = [self.present[cause] for cause in wanted if cause in self.present]
        return np.asarray(np.any(there or [np.zeros(len(self.states), bool)], axis=0))

    @cache  # noqa: B019 - spaces are few and live as long as the program
    def group(self, name: str) -> Flags:
        """Return in which states a fault of a group, such as 'bearing', is present."""
        return self.any_of(cause for cause in self.faults if causes()[cause]["group"] == name)

    @cached_property
    def loud(self) -> Floats:
        """Return how readily each state's faults together become what the driver complains of."""
        return np.array([sum(int(causes()[cause]["loud"]) for cause in state) for state in self.states], dtype=float)

    @cached_property
    def louds(self) -> Floats:
        """Return each fault's share of that, shape (faults, states)."""
        each = [float(causes()[cause]["loud"]) * self.present[cause] for cause in self.faults]
        return np.array(each).reshape(len(self.faults), len(self.states))

    def prior(self, rates: Mapping[str, float], times: float) -> Floats:
        """Return the prior of every state where bearing faults are `times` as frequent; adds up to 1.

        Of a slot at least one fault comes with 1 − e^(−Σ rates), as rare things do (Poisson), by its share.
        """
        found = np.ones(len(self.states))
        for slot, own in self.slots.items():
            p = {cause: rates[cause] * (times if slot == "bearing" else 1.0) for cause in own}
            total = sum(p.values())
            for cause in own:
                found *= np.where(self.present[cause], -math.expm1(-total) * p[cause] / total, 1.0)
            found *= np.where(self.any_of(own), 1.0, math.exp(-total))
        return found

    @cached_property
    def hidden(self) -> Mapping[str, Floats]:
        """Return for every hidden thing the probability of its values in each state, shape (states, values)."""
        return {name: self._hidden(name) for name in states()}

    def _hidden(self, name: str) -> Floats:
        """The worst of what the base and every fault draw by themselves: their distribution functions multiply."""
        row = states()[name]
        base = row["base_by_slack"][self.slack] if "base_by_slack" in row else row["chances"]["base"]
        hides = [*row.get("hides_base", ())]
        below = np.where(self.any_of(hides)[:, None], 1.0, np.cumsum(base))
        for cause, chances in row["chances"].items():
            if cause in self.present:
                below = below * np.where(self.present[cause][:, None], np.cumsum(chances), 1.0)
        return np.diff(below, axis=1, prepend=0.0)

    @cache  # noqa: B019 - spaces are few and live as long as the program
    def distinct(self, group_name: str) -> tuple[tuple[Floats, ...], npt.NDArray[np.intp]]:
        """Return the hidden things of a group for every distinct case, and the case of each state, shape (states,)."""
        tables = [self.hidden[name] for name in group(group_name)]
        cases, which = np.unique(np.concatenate(tables, axis=1).round(12), axis=0, return_inverse=True)
        edges = np.cumsum([table.shape[1] for table in tables])[:-1]
        return tuple(np.split(cases, edges, axis=1)), which.ravel()

    @cache  # noqa: B019 - spaces are few and live as long as the program
    def by_cause(self, witness: str) -> Floats:
        """Return how likely each outcome of a witness that reads no hidden thing is, shape (states, outcomes)."""
        rows = rows_of(witness)
        there = [(row, self.present[cause]) for cause, row in rows.items() if cause in self.present]
        return combined(rows["base"], there, len(self.states))


@cache
def space_of(faults: tuple[str, ...], slack: str) -> Space:
    """Return a space, worked out once."""
    return Space(faults, slack)


def combined(base: Floats, there: Sequence[tuple[Floats, Flags]], size: int) -> Floats:
    """Return the outcomes' probabilities where several things may show at once, shape (size, outcomes).

    `there`: the row of each thing, and where it is present. Alone it gives its row; where none is present, the base.
    Of several the first outcome ("nothing") needs all of them to be missed (noisy-or: Pearl 1988, section 4.3.2); else
    one of them is named, by its share.
    """
    missed = np.full(size, base[0])
    named = np.zeros((size, len(base) - 1))
    some = np.zeros(size, dtype=bool)
    for row, present in there:
        missed = np.where(present, missed * row[0] / base[0], missed)
        named = named + np.where(present[:, None], row[1:], 0.0)
        some |= present
    missed = np.minimum(missed, 1 - TINY)
    share = named / np.maximum(named.sum(axis=1, keepdims=True), TINY)
    found = np.concatenate([missed[:, None], (1 - missed)[:, None] * share], axis=1)
    return np.asarray(np.where(some[:, None], found, base))


@cache
def by_hidden(witness: str) -> Floats:
    """Return how likely each answer is for every joint value of what a witness reads, shape (outcomes, *values)."""
    row = witnesses()[witness]
    names = group(row["reads"])
    shape = tuple(len(states()[name]["values"]) for name in names)
    rows = rows_of(witness)
    grid = np.indices(shape).reshape(len(names), -1)
    there = [
        (chances, grid[names.index(thing)] == states()[thing]["values"].index(value))
        for key, chances in rows.items()
        if key != "base"
        for thing, value in [key.split(".")]
    ]
    size = grid.shape[1]
    found = _last(rows["base"], there, size) if row.get("combine") == "last" else combined(rows["base"], there, size)
    return found.T.reshape(len(outcomes(witness)), *shape)


def _last(base: Floats, there: Sequence[tuple[Floats, Flags]], size: int) -> Floats:
    """Of several things the one speaks that most gives the last outcome."""
    found = np.tile(base, (size, 1))
    some = np.zeros(size, dtype=bool)
    for row, present in there:
        better = present & (~some | (row[-1] > found[:, -1]))
        found = np.where(better[:, None], row, found)
        some |= present
    return found


@cache
def beside_mate(witness: str) -> Floats:
    """Return how likely each answer is by own value and the mate's, shape (outcomes, values, values)."""
    row = witnesses()[witness]
    values = states()[row["against"]]["values"]
    rows = rows_of(witness)
    return np.array([[rows[f"{own}, {mate}"] for mate in values] for own in values]).transpose(2, 0, 1)
