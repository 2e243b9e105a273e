"""Putting steps in order: nothing before what it needs, and one hub finished before the next is opened."""

import heapq
from collections.abc import Mapping, Sequence
from dataclasses import replace

from hematite.jobs.step import Step
from hematite.language import say


def in_order(steps: Sequence[Step]) -> tuple[Step, ...]:
    """Return steps so that each comes after all it needs, otherwise as given. Steps of one id are one.

    Raises `ValueError` where steps wait for each other in a ring, which no table may ask for.
    """
    merged = _merged(steps)
    place = {id: n for n, id in enumerate(merged)}
    waiting = {id: {need for need in step.needs if need in merged} for id, step in merged.items()}
    after: dict[str, list[str]] = {}
    for id, needs in waiting.items():
        for need in needs:
            after.setdefault(need, []).append(id)
    ready = [place[id] for id, needs in waiting.items() if not needs]
    heapq.heapify(ready)
    ids, done = list(merged), []
    while ready:
        id = ids[heapq.heappop(ready)]
        done.append(_tidy(merged[id], merged))
        for other in after.get(id, ()):
            waiting[other].discard(id)
            if not waiting[other]:
                heapq.heappush(ready, place[other])
    if len(done) < len(merged):
        raise ValueError(
            say("These steps wait for each other: {steps}", steps=sorted(set(ids) - {step.id for step in done}))
        )
    return tuple(done)


def _tidy(step: Step, known: Mapping[str, Step]) -> Step:
    if all(need in known for need in step.needs):
        return step
    return replace(step, needs=tuple(need for need in step.needs if need in known))


def _merged(steps: Sequence[Step]) -> dict[str, Step]:
    found: dict[str, Step] = {}
    for step in steps:
        known = found.get(step.id)
        found[step.id] = replace(known, needs=tuple(dict.fromkeys((*known.needs, *step.needs)))) if known else step
    return found
