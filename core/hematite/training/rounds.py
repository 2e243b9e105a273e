"""What a round holds: what is due first, then what was never met, topics taken in turn; and when somebody moves up."""

from collections.abc import Collection, Mapping, Sequence

import numpy as np

from hematite.training.levels import levels, topics

A_ROUND = 5
LOOKED_BACK = 6  # answers at a level that speak for moving; judgement
UP_AT, DOWN_AT = 5, 2  # right of those
Place = tuple[str, str]  # topic and matter


def compose(
    due: Sequence[Place],
    met: Collection[Place],
    *,
    topic: str = "",
    seed: int,
    many: int = A_ROUND,
    own: Sequence[Place] = (),
) -> list[Place]:
    """Return the matters of a round, in order. `due` come first, the longest due foremost; then new ones; then any.

    `topic`: only of that one; `own`: the workshop's cases that may be learnt on. Never the same twice, while there are
    others.
    """
    dice = np.random.default_rng(seed)
    drawn = [(key, matter) for key, row in topics().items() for matter in row.matters]
    every = [place for place in (*drawn, *own) if topic in ("", place[0])]
    again = [place for place in drawn if topic in ("", place[0])]  # drawn anew they differ; real work is ever the same
    first = [place for place in dict.fromkeys(due) if place in every][:many]
    new = _in_turn([place for place in every if place not in met and place not in first], dice)
    rest = _in_turn([place for place in every if place in met and place not in first], dice)
    filled = [again[int(n)] for n in dice.integers(len(again), size=many)] if again else []
    chosen = [*first, *new, *rest, *filled][:many]
    return [chosen[int(n)] for n in dice.permutation(len(chosen))]


def _in_turn(places: Sequence[Place], dice: np.random.Generator) -> list[Place]:
    """Shuffle within each topic, and take one of each in turn."""
    by_topic: dict[str, list[Place]] = {}
    for n in dice.permutation(len(places)):
        by_topic.setdefault(places[int(n)][0], []).append(places[int(n)])
    found: list[Place] = []
    while any(by_topic.values()):
        found += [own.pop() for own in by_topic.values() if own]
    return found


def level_after(answers: Sequence[tuple[int, bool]]) -> int:
    """Return the level that comes next from answers, oldest first, each with its level: one up or down, or the same."""
    if not answers:
        return 1
    now = answers[-1][0]
    own = [right for number, right in answers if number == now][-LOOKED_BACK:]
    if len(own) < LOOKED_BACK:
        return now
    step = 1 if sum(own) >= UP_AT else -1 if sum(own) <= DOWN_AT else 0
    return min(max(now + step, 1), max(levels()))


def levels_after(answers: Mapping[str, Sequence[tuple[int, bool]]]) -> dict[str, int]:
    """Return the level of every topic."""
    return {key: level_after(answers.get(key, ())) for key in topics()}
