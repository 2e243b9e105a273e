"""The earliest end of steps for some pairs of hands, with waits, a press and opening hours: a search with a bound."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

DAY = 1440.0  # minutes
MOST_TIDYING = 400  # of the search for an order of the same end that is near to the plan's
MOST_NODES = 1_500  # of the search for the earliest end; beyond it the best that was found stands, and says so


@dataclass(frozen=True)
class Means:
    """What a workshop has. `hands`: people on the job; `press_t`: the press in the house, 0 for none, None unknown.

    `press_from`: when a press elsewhere is booked; `open_for`: how long the workshop is open each day; `parts_in`: when
    what has to be bought is here; `begins`: when work begins.
    """

    hands: int = 1
    press_t: float | None = None
    press_from: float | None = None
    open_for: float = 540.0
    parts_in: float = 0.0
    begins: float = 0.0


@dataclass(frozen=True)
class Task:
    """One step as the scheduler sees it: minutes by hand, and how long after what else it may start."""

    id: str
    minutes: float
    after: Mapping[str, float]
    press: bool = False
    release: float = 0.0


class Scheduler:
    """The earliest end of tasks for some pairs of hands: depth first over which task starts next."""

    def __init__(self, tasks: Sequence[Task], means: Means) -> None:
        """Take the tasks, each after what it needs."""
        self.tasks, self.means = {task.id: task for task in tasks}, means
        self.best: dict[str, float] | None = None
        self.best_end, self.nodes = float("inf"), 0
        self.target = float("-inf")  # an end that is good enough: nothing better is looked for
        self.longest_first = True
        self.place = {task.id: n for n, task in enumerate(tasks)}
        self._known: dict[frozenset[str], list[tuple[float, ...]]] = {}

    @cached_property
    def tails(self) -> dict[str, float]:
        """Return how long at least it takes from the start of each task to the end of everything."""
        tails: dict[str, float] = {}
        for id in reversed(list(self.tasks)):
            rest = max((lag + tails[other] for other, lag in self._next.get(id, ())), default=0.0)
            tails[id] = self.tasks[id].minutes + rest
        return tails

    @cached_property
    def _next(self) -> dict[str, list[tuple[str, float]]]:
        """Return what waits for each task, and how long after its end."""
        after: dict[str, list[tuple[str, float]]] = {}
        for task in self.tasks.values():
            for need, lag in task.after.items():
                after.setdefault(need, []).append((task.id, lag))
        return after

    def run(self) -> tuple[dict[str, float], bool]:
        """Return when each task starts, near to their order, and whether no earlier end is possible."""
        best = self._best_of(longest_first=True) or {}
        proven = self.nodes < MOST_NODES
        self.target = self.best_end
        return self._best_of(longest_first=False) or best, proven

    def earlier_than(self, end: float) -> tuple[dict[str, float] | None, bool]:
        """Return starts that end before `end`, where any were found, and whether no earlier end is possible."""
        found = self._best_of(longest_first=True, before=end)
        return found, self.nodes < MOST_NODES

    def _best_of(self, *, longest_first: bool, before: float = float("inf")) -> dict[str, float] | None:
        self.best, self.best_end, self.nodes = None, before, 0
        self._known = {}
        self.longest_first = longest_first
        free = {task.id: task.release for task in self.tasks.values()}
        self._search({}, free, [self.means.begins] * self.means.hands, 0.0)
        return self.best

    def _search(
        self, starts: dict[str, float], free: dict[str, float], hands: list[float], press_free: float
    ) -> None:
        """Try what may start next. `free`: before when what a task waits for keeps it, as far as that has started."""
        self.nodes += 1
        if self.best_end <= self.target:
            return
        if len(starts) == len(self.tasks):
            end = max((self._end(id, starts) for id in starts), default=0.0)
            if end < self.best_end:
                self.best, self.best_end = dict(starts), end
            return
        ready = [self._earliest(task, free, hands, press_free) for task in self._ready(starts)]
        if self._hopeless(self._bound(starts, ready, hands)) or self._seen(starts, free, hands, press_free):
            return
        for start, id in sorted(ready, key=self._first):
            if self._hopeless(start + self.tails[id]) or (self.nodes >= self._most and self._enough):
                continue
            # What starts no earlier than another could end gains nothing by going before it.
            if any(s < start and self.advance(s, self.tasks[other].minutes) <= start for s, other in ready):
                continue
            self._start(id, start, starts, free, hands, press_free)

    def _hopeless(self, end: float) -> bool:
        return end >= self.best_end or (self.target > float("-inf") and end > self.target)

    @property
    def _most(self) -> int:
        return MOST_NODES if self.longest_first else MOST_TIDYING

    @property
    def _enough(self) -> bool:
        return self.best_end < float("inf") or not self.longest_first

    def _first(self, one: tuple[float, str]) -> tuple[float, float]:
        """Return by what the ready tasks are tried: the longest tail first, or as they are listed."""
        start, id = one
        return (start, -self.tails[id]) if self.longest_first else (self.place[id], start)

    def _start(
        self,
        id: str,
        start: float,
        starts: dict[str, float],
        free: Mapping[str, float],
        hands: list[float],
        press_free: float,
    ) -> None:
        end = self.advance(start, self.tasks[id].minutes)
        taken = list(hands)
        taken[max((n for n in range(len(hands)) if hands[n] <= start), key=lambda n: hands[n])] = end
        then = {other: max(free[other], end + lag) for other, lag in self._next.get(id, ())}
        starts[id] = start
        self._search(starts, {**free, **then}, taken, end if self.tasks[id].press else press_free)
        del starts[id]

    def _ready(self, starts: Mapping[str, float]) -> list[Task]:
        return [t for t in self.tasks.values() if t.id not in starts and all(need in starts for need in t.after)]

    def _end(self, id: str, starts: Mapping[str, float]) -> float:
        return self.advance(starts[id], self.tasks[id].minutes)

    def _earliest(
        self, task: Task, free: Mapping[str, float], hands: Sequence[float], press_free: float
    ) -> tuple[float, str]:
        booked = self.means.press_from or 0.0
        start = max(free[task.id], min(hands), max(press_free, booked) if task.press else 0.0)
        into = start % DAY
        return (start if into < self.means.open_for else start + DAY - into), task.id

    def advance(self, start: float, minutes: float) -> float:
        """Return when work ends that begins at `start`: what is not done at closing time goes on the next morning."""
        into = start % DAY
        left = self.means.open_for - into
        while minutes > left:
            minutes -= left
            start, left = start + (DAY - into), self.means.open_for
            into = 0.0
        return start + minutes

    def _bound(self, starts: Mapping[str, float], ready: Sequence[tuple[float, str]], hands: Sequence[float]) -> float:
        """Return what no order can beat: the longest chain, or the work that must be done before the longest tails."""
        chain = max((start + self.tails[id] for start, id in ready), default=0.0)
        mean, first, share, best = sum(hands) / len(hands), min(hands), 0.0, chain
        for id, rest in self._rests:
            if id not in starts:
                share += self.tasks[id].minutes / len(hands)
                best = max(best, mean + share + rest, self.advance(first, share) + rest)
        return best

    @cached_property
    def _rests(self) -> list[tuple[str, float]]:
        """Return how long at least it takes from the end of each task to the end of everything, the longest first."""
        rests = ((id, self.tails[id] - task.minutes) for id, task in self.tasks.items())
        return sorted(rests, key=lambda one: -one[1])

    def _seen(
        self, starts: Mapping[str, float], free: Mapping[str, float], hands: Sequence[float], press: float
    ) -> bool:
        """Return whether the same tasks were done before with all that is left as free, or freer, to start."""
        now = (*sorted(hands), press, *(at for id, at in free.items() if id not in starts))
        rows = self._known.setdefault(frozenset(starts), [])
        if any(all(was <= is_ for was, is_ in zip(row, now, strict=True)) for row in rows):
            return True
        rows.append(now)
        return False
