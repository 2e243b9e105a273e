"""The order of the day against a general-purpose solver; presses, hours and parts that are on their way."""

import unittest
from itertools import pairwise
from random import Random

import numpy as np
from hematite.errors import HematiteError
from hematite.jobs import HubJob, Means, Step, both_sides, day, plan
from hematite.jobs.schedule import Scheduler, Task
from hematite.policy import read_policy
from scipy.optimize import Bounds, LinearConstraint, milp

from tests.job_space import vehicle

ALWAYS = 1e9
OPEN = 1440.0


def solved(tasks: list[Task], hands: int) -> float:
    """Return the earliest end by a mixed-integer program (scipy's HiGHS): big-M disjunctions, each task on one hand."""
    n = len(tasks)
    place = {task.id: i for i, task in enumerate(tasks)}
    together = [(i, j) for i in range(n) for j in range(i + 1, n)]
    on = {(i, h): n + 1 + i * hands + h for i in range(n) for h in range(hands)}  # task i by hand h
    first = {pair: n + 1 + n * hands + k for k, pair in enumerate(together)}  # i before j
    columns = n + 1 + n * hands + len(together)
    most = sum(t.minutes + max(t.after.values(), default=0) + t.release for t in tasks) + 1.0
    rows: list[np.ndarray] = []
    least: list[float] = []

    def add(entries: dict[int, float], low: float) -> None:
        row = np.zeros(columns)
        for column, value in entries.items():
            row[column] = value
        rows.append(row)
        least.append(low)

    for i, task in enumerate(tasks):
        add({n: 1.0, i: -1.0}, task.minutes)
        for need, lag in task.after.items():
            add({i: 1.0, place[need]: -1.0}, tasks[place[need]].minutes + lag)
        add({on[i, h]: 1.0 for h in range(hands)}, 1.0)
    for i, j in together:
        presses = tasks[i].press and tasks[j].press
        for h in [None] if presses else range(hands):
            shared = {} if h is None else {on[i, h]: -most, on[j, h]: -most}
            room = 0.0 if h is None else -2 * most
            # i before j: s_j ≥ s_i + p_i, unless j comes first or they are not on the same hand
            add({j: 1.0, i: -1.0, first[i, j]: -most, **shared}, tasks[i].minutes - most + room)
            add({i: 1.0, j: -1.0, first[i, j]: most, **shared}, tasks[j].minutes + room)
    low = np.zeros(columns)
    low[:n] = [task.release for task in tasks]
    high = np.full(columns, np.inf)
    high[n + 1 :] = 1
    whole = np.zeros(columns)
    whole[n + 1 :] = 1
    cost = np.zeros(columns)
    cost[n] = 1
    found = milp(
        cost,
        constraints=LinearConstraint(np.array(rows), np.array(least), np.inf),
        bounds=Bounds(low, high),
        integrality=whole,
    )
    assert found.success, found.message
    return float(found.fun)


def random_tasks(by: Random, most: int = 6) -> list[Task]:
    """Return a few tasks: whole minutes, some waits, some that need the press, some that wait for parts."""
    tasks: list[Task] = []
    for n in range(by.randint(3, most)):
        needs = by.sample(tasks, by.randint(0, min(2, n)))
        after = {need.id: float(by.choice((0, 0, 0, 10, 25))) for need in needs}
        late = by.choice((0.0, 0.0, 0.0, 15.0))
        tasks.append(Task(f"t{n}", float(by.randint(1, 20)), after, by.random() < 0.3, late))
    return tasks


def two_chains(by: Random) -> list[Step]:
    """Return two sides of an axle in small: chains of steps with a wait here and there, and an end that needs both."""
    steps: list[Step] = []
    for side in "LR":
        before: tuple[str, ...] = ()
        for n in range(by.randint(2, 4)):
            wait = float(by.choice((0, 0, 12, 30)))
            steps.append(Step(f"{side}{n}", side, "", "work", "", before, minutes=float(by.randint(1, 15)), wait=wait))
            before = (steps[-1].id,)
    return [*steps, Step("end", "", "", "check", "", tuple(step.id for step in steps), minutes=2.0)]


class AgainstASolver(unittest.TestCase):
    """Two hundred small cases."""

    def test_two_hundred_random_cases(self) -> None:
        """As early as the solver, for one pair of hands and for two; and nothing before what it waits for."""
        by = Random(2026)
        for case in range(200):
            tasks, hands = random_tasks(by), 1 + case % 2
            scheduler = Scheduler(tasks, Means(hands=hands, open_for=OPEN))
            starts, proven = scheduler.run()
            self.assertTrue(proven)
            for task in tasks:
                for need, lag in task.after.items():
                    self.assertGreaterEqual(starts[task.id], starts[need] + scheduler.tasks[need].minutes + lag)
                at_once = [t for t in tasks if starts[t.id] <= starts[task.id] < starts[t.id] + t.minutes]
                self.assertLessEqual(len(at_once), hands)
                self.assertLessEqual(sum(t.press for t in at_once), 1)
            end = max(starts[task.id] + task.minutes for task in tasks)
            self.assertAlmostEqual(end, solved(tasks, hands), places=4, msg=str((case, hands, tasks)))

    def test_chains_as_a_job_has_them(self) -> None:
        """Whole days, whose chains are taken as one: as early as the solver, and proven."""
        by = Random(7)
        for case in range(60):
            steps, hands = two_chains(by), 1 + case % 2
            waits = {step.id: step.wait for step in steps}
            tasks = [Task(s.id, s.minutes, {need: waits[need] for need in s.needs}) for s in steps]
            found, best = day(steps, Means(hands=hands, open_for=OPEN)), solved(tasks, hands)
            self.assertTrue(found.proven)
            self.assertAlmostEqual(found.end, best, places=4, msg=str((case, hands, steps)))


class Days(unittest.TestCase):
    """Whole jobs."""

    def setUp(self) -> None:
        """Both rusted units of an axle."""
        what = vehicle("hub_unit", kind="powered", driven=True, steered=True, said={"rust": "yes"})
        self.steps = plan(what, both_sides(what, [HubJob("A1L", "replace_unit", ways={"sides": "both"})])).steps
        self.byhand = sum(step.minutes for step in self.steps)

    def test_what_soaks_costs_no_time(self) -> None:
        """While one side soaks the other comes off: the day is as long as the work."""
        found = day(self.steps)
        self.assertEqual((found.end, found.proven), (self.byhand, True))
        self.assertEqual(found.first, ("A1L.unit_bolts.soak", "A1R.unit_bolts.soak"))
        alone = sum(step.minutes + step.wait for step in self.steps)
        self.assertLess(found.end, alone)
        for earlier, later in pairwise(found.slots):
            self.assertLessEqual(earlier.end, later.start + 1e-9)

    def test_a_second_pair_of_hands(self) -> None:
        """Halves it nearly, never more."""
        self.assertGreaterEqual(day(self.steps, Means(hands=2)).end, self.byhand / 2)
        self.assertLess(day(self.steps, Means(hands=2)).end, 0.8 * self.byhand)

    def test_closing_time(self) -> None:
        """What is not done when the shop closes goes on the next morning; begun in the afternoon it ends tomorrow."""
        self.assertEqual(day(self.steps, Means(begins=480.0)).end, 1440 + self.byhand - 60)

    def test_parts_on_their_way(self) -> None:
        """Nothing new goes on before it is here."""
        found = {slot.step: slot for slot in day(self.steps, Means(parts_in=300.0)).slots}
        self.assertGreaterEqual(found["A1L.unit.on"].start, 300.0)
        self.assertLess(found["A1L.unit.off"].start, 300.0)

    def test_no_press_of_that_class(self) -> None:
        """Said before the wheel is off: none here, too small, nobody said; booked elsewhere it waits for it."""
        what = vehicle("pressed_double_row", kind="powered", driven=True, steered=True, said={})
        steps = plan(what, [HubJob("A1L", "replace_bearing")]).steps
        for press, words in ((None, "Nobody has said"), (0.0, "none here"), (10.0, "does 10 t")):
            self.assertIn(words, day(steps, Means(press_t=press)).blocked[0])
        self.assertEqual(day(steps, Means(press_t=20.0)).blocked, ())
        booked = day(steps, Means(press_from=400.0))
        self.assertEqual(booked.blocked, ())
        self.assertGreaterEqual(next(slot.start for slot in booked.slots if slot.step == "A1L.hub_flange.off"), 400.0)

    def test_what_is_left(self) -> None:
        """Of a job half done only the rest is planned."""
        left = [step for step in self.steps if step.act in ("on", "check")]
        self.assertEqual({slot.step for slot in day(left).slots}, {step.id for step in left})
        self.assertEqual(day([]).end, 0.0)


class Shops(unittest.TestCase):
    """What a workshop has."""

    def test_what_cannot_be_is_refused(self) -> None:
        """No hands, too many, a press below nothing, a day of no hours; unknown stays unknown."""
        self.assertIsNone(read_policy({}).shop.press_t)
        self.assertEqual(read_policy({"shop": {"press_t": 0, "hands": 2}}).shop.press_t, 0.0)
        for wrong in (
            {"hands": 40},
            {"hands": 1.5},
            {"press_t": -1},
            {"press_t": "big"},
            {"opens_h": 9, "closes_h": 9},
            {"opens_h": 25},
        ):
            self.assertRaises(HematiteError, read_policy, {"shop": wrong})
