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


@dataclass(frozen=True)
class _State:
    """What has started so far. `free`: before when what a task waits for keeps it, as far as that has started."""

    starts: Mapping[str, float]
    free: Mapping[str, float]
    hands: tuple[float, ...]
    press: float = 0.0


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
        self._search(_State({}, free, (self.means.begins,) * self.means.hands))
        return self.best

    def _search(self, now: _State) -> None:
        self.nodes += 1
        if self.best_end <= self.target:
            return
        if len(now.starts) == len(self.tasks):
            end = max((self.advance(now.starts[id], task.minutes) for id, task in self.tasks.items()), default=0.0)
            if end < self.best_end:
                self.best, self.best_end = dict(now.starts), end
            return
        ready = [self._earliest(task, now) for task in self._ready(now.starts)]
        if self._hopeless(self._bound(now, ready)) or self._seen(now):
            return
        for start, id in sorted(ready, key=self._first):
            if self._hopeless(start + self.tails[id]) or (self.nodes >= self._most and self._enough):
                continue
            # What starts no earlier than another could end gains nothing by going before it.
            if any(s < start and self.advance(s, self.tasks[other].minutes) <= start for s, other in ready):
                continue
            self._search(self._started(id, start, now))

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

    def _started(self, id: str, start: float, now: _State) -> _State:
        end = self.advance(start, self.tasks[id].minutes)
        hands = list(now.hands)
        hands[max((n for n in range(len(hands)) if hands[n] <= start), key=lambda n: hands[n])] = end
        then = {other: max(now.free[other], end + lag) for other, lag in self._next.get(id, ())}
        press = end if self.tasks[id].press else now.press
        return _State({**now.starts, id: start}, {**now.free, **then}, tuple(hands), press)

    def _ready(self, starts: Mapping[str, float]) -> list[Task]:
        return [t for t in self.tasks.values() if t.id not in starts and all(need in starts for need in t.after)]

    def _earliest(self, task: Task, now: _State) -> tuple[float, str]:
        booked = self.means.press_from or 0.0
        start = max(now.free[task.id], min(now.hands), max(now.press, booked) if task.press else 0.0)
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

    def _bound(self, now: _State, ready: Sequence[tuple[float, str]]) -> float:
        """Return what no order can beat: the longest chain, or the work that must be done before the longest tails."""
        chain = max((start + self.tails[id] for start, id in ready), default=0.0)
        hands, share, best = len(now.hands), 0.0, chain
        mean, first = sum(now.hands) / hands, min(now.hands)
        for id, rest in self._rests:
            if id not in now.starts:
                share += self.tasks[id].minutes / hands
                best = max(best, mean + share + rest, self.advance(first, share) + rest)
        return best

    @cached_property
    def _rests(self) -> list[tuple[str, float]]:
        """Return how long at least it takes from the end of each task to the end of everything, the longest first."""
        rests = ((id, self.tails[id] - task.minutes) for id, task in self.tasks.items())
        return sorted(rests, key=lambda one: -one[1])

    def _seen(self, now: _State) -> bool:
        """Return whether the same tasks were done before with all that is left as free, or freer, to start."""
        left = (at for id, at in now.free.items() if id not in now.starts)
        row = (*sorted(now.hands), now.press, *left)
        rows = self._known.setdefault(frozenset(now.starts), [])
        if any(all(was <= is_ for was, is_ in zip(known, row, strict=True)) for known in rows):
            return True
        rows.append(row)
        return False
