"""How likely what was said at one hub makes each of its states: hidden things are summed out, group by group."""

from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from hematite.beliefs.space import Space, beside_mate, by_hidden
from hematite.evidence.statement import Statement
from hematite.evidence.witnesses import Floats, group, outcome_index, overall, states, witnesses


def spoken(statement: Statement, table: Floats) -> Floats:
    """Return how likely a table, of shape (outcomes, …), makes a statement, shape (…).

    A certain answer is its row, mixed with any answer by what trust is lacking. Shares are virtual evidence: each
    answer counts by its share over how often it is given at all [published: Pearl 1988, section 2.2.2].
    """
    known = table if statement.trust >= 1 else statement.trust * table + (1 - statement.trust) / len(table)
    at = [outcome_index(statement.witness, name) for name in statement.shares]
    if len(at) == 1:
        return np.asarray(known[at[0]])
    weights = np.array(list(statement.shares.values())) / overall(statement.witness)[at]
    return np.asarray(np.tensordot(weights, known[at], 1))


def kin(said: Iterable[Statement]) -> dict[str, list[Statement]]:
    """Return statements by what they speak through together: the group that they read, else their own witness."""
    found: dict[str, list[Statement]] = {}
    for statement in said:
        found.setdefault(witnesses()[statement.witness].get("reads", statement.witness), []).append(statement)
    return found


def of_values(name: str, said: Sequence[Statement]) -> Floats:
    """Return how likely all statements that read one group make each of its joint values, shape (*values,)."""
    tables = [spoken(one, by_hidden(one.witness)) for one in said if "against" not in witnesses()[one.witness]]
    shape = tuple(len(states()[thing]["values"]) for thing in group(name))
    return np.asarray(np.prod([np.ones(shape), *tables], axis=0))


def summed(space: Space, name: str, values: Floats) -> Floats:
    """Sum out a group's hidden things: from shape (batch, *values) to (batch, states)."""
    (first, *rest), which = space.distinct(name)
    left = np.moveaxis(np.tensordot(first, values, (1, 1)), 0, 1)  # (batch, cases, *other values)
    for table in rest:
        left = np.einsum("bsv...,sv->bs...", left, table)
    return np.asarray(left[:, which])


def split(space: Space, thing: str, values: Floats) -> Floats:
    """Sum out all of a group but one thing: from shape (*values,) to (states, values of that thing)."""
    names = group(states()[thing]["group"])
    tables, which = space.distinct(states()[thing]["group"])
    at = names.index(thing)
    left = np.moveaxis(values, at, 0)  # (values of the thing, *others)
    left = np.broadcast_to(left, (len(tables[at]), *left.shape))
    for table in (*tables[:at], *tables[at + 1 :]):
        left = np.einsum("stv...,sv->st...", left, table)
    return np.asarray((left * tables[at])[which])


def of_kin(space: Space, said: Sequence[Statement]) -> Floats:
    """Return how likely statements of one kin make each state of their hub, those beside its mate left out."""
    name = witnesses()[said[0].witness].get("reads", "")
    if name:
        return np.asarray(summed(space, name, of_values(name, said)[None])[0])
    return np.asarray(np.prod([spoken(one, space.by_cause(one.witness).T) for one in said], axis=0))


def leaving_out_each(space: Space, said: Sequence[Statement]) -> Floats:
    """Return what leaving out each of several statements of one kin makes of their likelihood, (statements, states)."""
    name = witnesses()[said[0].witness].get("reads", "")
    tables = [of_values(name, [one]) if name else spoken(one, space.by_cause(one.witness).T) for one in said]
    left = np.array(
        [np.prod([np.ones_like(tables[n]), *tables[:n], *tables[n + 1 :]], axis=0) for n in range(len(said))]
    )
    return summed(space, name, left) if name else left


def mates(said: Iterable[Statement]) -> dict[str, list[Statement]]:
    """Return the statements that are read beside the mate's, by the thing that they compare."""
    found: dict[str, list[Statement]] = {}
    for statement in said:
        against = witnesses()[statement.witness].get("against", "")
        if against and against != "quietest":
            found.setdefault(against, []).append(statement)
    return found


def pair_table(said: Mapping[str, Sequence[Statement]], own: str, mate: str, values: int) -> Floats:
    """Return how likely what two mates' statements say makes each pair of values, shape (values, values)."""
    found = np.ones((values, values))
    for statement in said.get(own, ()):
        found = found * spoken(statement, beside_mate(statement.witness))
    for statement in said.get(mate, ()):
        found = found * spoken(statement, beside_mate(statement.witness)).T
    return found
