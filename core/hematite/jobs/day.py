"""The order of the day: what to start first, what runs while something waits, when it is done, and what blocks it.

Steps take a pair of hands for their minutes; what soaks, dries or warms needs none. A press, a part that is on its way
and the workshop's hours bind as well. Minutes count from the start of the first working day.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from hematite.jobs.schedule import Means, Scheduler, Task
from hematite.jobs.step import Step
from hematite.language import say


@dataclass(frozen=True)
class Slot:
    """When one step is done, in minutes from the start."""

    step: str
    start: float
    end: float


@dataclass(frozen=True)
class Day:
    """The order of the day: each step's time, the end, whether no earlier one is possible, and what blocks.

    `first`: what to start first as something waits on it.
    """

    slots: tuple[Slot, ...]
    end: float
    proven: bool
    blocked: tuple[str, ...] = ()
    first: tuple[str, ...] = field(default=())


def day(steps: Sequence[Step], means: Means | None = None) -> Day:
    """Return the order of the day for steps that are left; what goes on new waits for the parts."""
    means = means or Means()
    left = {step.id for step in steps}
    lags = {step.id: step.wait for step in steps}
    tasks = [
        Task(
            id=step.id,
            minutes=step.minutes,
            after={need: max(lags[need], step.lag_of(need)) for need in step.needs if need in left},
            press=step.press_t > 0,
            release=means.parts_in if step.fate == "new" else 0.0,
        )
        for step in steps
    ]
    slots, proven = _in_order(_reduced(tasks), means)
    end = max((slot.end for slot in slots), default=0.0)
    waits = tuple(slot.step for slot in slots if lags[slot.step] > 0)
    return Day(tuple(slots), end, proven, _blocked(steps, means), waits)


def _in_order(tasks: Sequence[Task], means: Means) -> tuple[list[Slot], bool]:
    """Return the slots of the tasks by their start, and whether no earlier end is possible.

    The order is looked for with chains as one block each. Something that waits may want the hands in the middle of
    a chain, so the tasks one by one have the last word: an earlier order of theirs, or that there is none.
    """
    merged, members = _blocks(tasks)
    whole = Scheduler(tasks, means)
    slots = _spread(Scheduler(merged, means).run()[0], members, whole)
    earlier, proven = whole.earlier_than(max((slot.end for slot in slots), default=0.0))
    if earlier:
        slots = _spread(earlier, {task.id: [task.id] for task in tasks}, whole)
    return sorted(slots, key=lambda slot: slot.start), proven


def _reduced(tasks: Sequence[Task]) -> list[Task]:
    """Return the tasks without needs that are implied by the way through another need."""
    place = {task.id: n for n, task in enumerate(tasks)}
    apart = np.full((len(tasks), len(tasks)), -np.inf)  # minutes from the end of one to the start of another, at least
    found = []
    for n, task in enumerate(tasks):
        ways = {need: apart[:, place[need]] + tasks[place[need]].minutes + lag for need, lag in task.after.items()}
        longest = np.max([*ways.values(), apart[:, n]], axis=0)
        kept = {need: lag for need, lag in task.after.items() if longest[place[need]] < lag}
        for need, lag in task.after.items():
            longest[place[need]] = max(longest[place[need]], lag)
        apart[:, n] = longest
        found.append(replace(task, after=kept))
    return found


def _blocks(tasks: Sequence[Task]) -> tuple[list[Task], dict[str, list[str]]]:
    """Join what follows one from another without a wait, a press or a release between: one block in one go.

    In such a chain each has only the one before it to wait for, and is all that waits for it.
    """
    waits_for: dict[str, int] = {}
    for task in tasks:
        for need in task.after:
            waits_for[need] = waits_for.get(need, 0) + 1
    by_id = {task.id: task for task in tasks}
    head: dict[str, str] = {}
    members: dict[str, list[str]] = {}
    for task in tasks:
        only = next(iter(task.after)) if len(task.after) == 1 else None
        joins = only is not None and waits_for[only] == 1 and task.after[only] == 0 and task.release == 0
        if joins and task.press == by_id[str(only)].press:
            head[task.id] = head[str(only)]
        else:
            head[task.id] = task.id
        members.setdefault(head[task.id], []).append(task.id)
    merged = [
        Task(
            id=first,
            minutes=sum(by_id[id].minutes for id in ids),
            after={head[need]: lag for need, lag in by_id[first].after.items()},
            press=by_id[first].press,
            release=by_id[first].release,
        )
        for first, ids in members.items()
    ]
    return merged, members


def _spread(starts: Mapping[str, float], members: Mapping[str, Sequence[str]], scheduler: Scheduler) -> list[Slot]:
    slots = []
    for first, ids in members.items():
        at = starts[first]
        for id in ids:
            end = scheduler.advance(at, scheduler.tasks[id].minutes)
            slots.append(Slot(id, at, end))
            at = end
    return slots


def _blocked(steps: Sequence[Step], means: Means) -> tuple[str, ...]:
    """Return in words what stands in the way of ending at all."""
    need = max((step.press_t for step in steps), default=0.0)
    if not need or means.press_from is not None:
        return ()
    if means.press_t is None:
        return (say("It takes a press of {need:g} t. Nobody has said which press there is.", need=need),)
    if means.press_t < need:
        have = (
            say("the one here does {press_t:g} t", press_t=means.press_t)
            if means.press_t
            else say("there is none here")
        )
        return (
            say(
                "It takes a press of {need:g} t, and {have}. Book one elsewhere before the wheel is off.",
                need=need,
                have=have,
            ),
        )
    return ()
