"""What every plan keeps, over every design × what is fitted × school × choice; slips in the tables are caught."""

import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from random import Random
from typing import Any

from hematite.assembly import assembly, hub_facts, possible_choices
from hematite.assembly.facts import built
from hematite.assembly.hub import _assembly
from hematite.assembly.parts import library, listed, parts_of
from hematite.errors import UnknownName
from hematite.hubs import designs
from hematite.jobs import HubJob, plan
from hematite.policy import defaults
from hematite.tables import table
from hematite.vehicles import Vehicle
from hematite.verdict import choices

from tests.job_facts import ONCE, violations
from tests.job_space import TABLES, hubs, jobs, vehicle, ways

ODD = ("wheel_spacer", "wear_sensor", "sensor")  # what hangs around a hub


def parts_at(wagon: Vehicle, job: HubJob) -> dict[str, bool]:
    """Return the parts of a job's hub, true where one can come off."""
    hub = wagon.hub(job.hub)
    assert hub is not None
    facts = hub_facts(hub, wagon, defaults() | dict(job.ways))
    return {key: not placed.fixed for key, placed in assembly(hub.design_key, facts).items()}


def everywhere(design: str) -> Iterator[tuple[Vehicle, HubJob]]:
    """Yield every job at every hub of a design."""
    for kind, driven, steered, said in hubs(design):
        wagon = vehicle(design, kind=kind, driven=driven, steered=steered, said=said)
        for way in ways(design, words=False):
            for job in jobs(design, way):
                yield wagon, job


def sampled(design: str) -> Iterator[tuple[Vehicle, HubJob]]:
    """Yield every choice at every hub of a design, each with one way after another of all there are."""
    any_way, every = Random(3), list(ways(design, words=True))
    for kind, driven, steered, said in hubs(design):
        wagon = vehicle(design, kind=kind, driven=driven, steered=steered, said=said)
        for job in jobs(design, {}):
            yield wagon, replace(job, ways=any_way.choice(every))


class Everywhere(unittest.TestCase):
    """Properties over the whole space."""

    def checked(self, design: str, wagon: Vehicle, job: HubJob) -> None:
        """Hold one plan against everything: no hand is asked for what it cannot do, and what is new is on the list."""
        made = plan(wagon, [job])
        wrong = list(violations(design, made.steps, parts_at(wagon, job)))
        new = {one.part for one in made.renewed}
        off = {step.part for step in made.steps if step.act == "off"}
        wrong += [f"{part} is used once, and is not on the list" for part in off & set(ONCE) - new]
        wrong += [
            f"{s.part} goes on new, and is not on the list" for s in made.steps if s.fate == "new" and s.part not in new
        ]
        self.assertEqual(wrong, [], (design, job, wagon.axles[0]))

    def test_everything_that_can_be_fitted(self) -> None:
        """Every choice at every hub there can be, with one way after another."""
        for design in designs():
            for wagon, job in sampled(design):
                self.checked(design, wagon, job)

    def test_every_way_of_doing_it(self) -> None:
        """The schools that change the order, each at every hub that differs by more than what hangs around it."""
        for design in designs():
            for wagon, job in everywhere(design):
                if all(wagon.axles[0].hubs[0].fittings.get(key) != "yes" for key in ODD):
                    self.checked(design, wagon, job)

    def test_a_choice_that_no_hand_could_carry_out_is_refused(self) -> None:
        """Nothing to adjust at a sealed unit, no cap to fill at a castle nut; every other choice has steps."""
        for design in designs():
            possible = possible_choices(design)
            for choice in choices():
                wagon = vehicle(design, kind="powered", driven=False, steered=False, said={})
                if choice in possible:
                    self.assertTrue(plan(wagon, [HubJob("A1L", choice)]).steps, (design, choice))
                else:
                    self.assertRaises(UnknownName, plan, wagon, [HubJob("A1L", choice)])


class Tables(unittest.TestCase):
    """The tables name what exists."""

    def test_every_name_is_known(self) -> None:
        """Parts, tools, consumables, cautions, torques; and every part of the library is on some hub."""
        tools, cautions = table("assembly/tools.toml"), table("assembly/cautions.toml")
        on_hubs = {row["key"] for design in designs() for row in listed(design)}
        self.assertEqual(set(library()) - on_hubs, set())
        said = set()
        for part in library().values():
            for act in (*part.off, *part.on, *part.work):
                self.assertLessEqual(set(act.tools), set(tools["tool"]), act)
                self.assertLessEqual(set(act.uses), set(tools["use"]), act)
                self.assertLessEqual({act.torque} - {""}, set(table("fastenings.toml")), act)
                said |= set(act.cautions)
        for rows in (
            table("jobs/frame.toml")["begin"],
            table("jobs/frame.toml")["end"],
            table("jobs/ladder.toml")["rung"].values(),
        ):
            said |= {caution for row in rows for caution in row.get("cautions", ())}
        self.assertEqual(said, set(cautions), "a caution that is nowhere said, or one that nobody wrote")

    def test_a_part_comes_off_where_it_can_and_goes_back(self) -> None:
        """Who has a way off has a way on, and the reverse; a part that never comes off has neither."""
        for key, part in library().items():
            self.assertEqual(bool(part.off), bool(part.on), key)

    def test_open_and_plan_know_the_same_parts(self) -> None:
        """What is looked at in Open is what the plan takes off or reaches: one list of parts."""
        for design in designs():
            keys = {part.key for part in parts_of(design)}
            listed_keys = {row["key"] for row in listed(design)}
            self.assertLessEqual(keys, listed_keys)


@contextmanager
def changed(rows: dict[str, Any] | list[Any], key: Any, value: Any) -> Iterator[None]:
    """Change one cell of a table for a while; `None` takes it away."""
    old = rows[key]
    try:
        if value is None:
            del rows[key]
        else:
            rows[key] = value
        forget()
        yield
    finally:
        if value is None and isinstance(rows, list):
            rows.insert(key, old)
        else:
            rows[key] = old
        forget()


def forget() -> None:
    """Read the tables anew."""
    library.cache_clear()
    _assembly.cache_clear()
    parts_of.cache_clear()


class Slips(unittest.TestCase):
    """A table with one slip makes a plan that is caught."""

    def wrong(self, design: str) -> bool:
        """Return whether any plan of a design is wrong, or cannot be made."""
        for n, (wagon, job) in enumerate(self.plans[design]):
            if self.breaks(design, wagon, job):
                self.plans[design].insert(
                    0, self.plans[design].pop(n)
                )  # what caught one slip is tried first for the next
                return True
        return False

    def breaks(self, design: str, wagon: Vehicle, job: HubJob) -> bool:
        """Return whether one plan is wrong, or cannot be made."""
        try:
            steps = plan(wagon, [job]).steps
        except (StopIteration, RuntimeError, KeyError, ValueError):
            return True
        return bool(next(violations(design, steps, parts_at(wagon, job)), ""))

    @classmethod
    def setUpClass(cls) -> None:
        """Choose the plans: every choice at hubs that differ in one thing from the usual, and in all."""
        cls.plans = {design: list(few(design)) for design in designs()}

    def test_every_need(self) -> None:
        """A need that is taken out of any row, one at a time, as well as what has to be on first."""
        shared: dict[int, tuple[dict[str, Any], list[str]]] = {}
        for design in designs():
            self.assertFalse(self.wrong(design), design)
            for row in listed(design):
                shared.setdefault(id(row), (row, []))[1].append(design)
        for row, at in shared.values():
            for column in ("needs", "on_after"):
                for n, need in enumerate(row.get(column, ())):
                    with changed(row[column], n, None):
                        self.assertTrue(any(map(self.wrong, at)), (at, row["key"], column, need))

    def test_every_way_back(self) -> None:
        """A way back on that is taken out of any part."""
        for name in TABLES:
            for key, part in table(f"assembly/{name}.toml").items():
                at = [design for design in designs() if any(row["key"] == key for row in listed(design))]
                for n in range(len(part.get("on", ()))):
                    with changed(part["on"], n, None):
                        self.assertTrue(any(self.wrong(design) for design in at), (key, n))


def few(design: str) -> Iterator[tuple[Vehicle, HubJob]]:
    """Yield hubs with at most one odd thing around them, every choice, and any way."""
    any_way, every = Random(3), list(ways(design, words=True))
    for kind, driven, steered, said in hubs(design):
        facts = built(design, kind=kind, driven=driven, steered=steered, said=said, ways={})
        if sum(facts[key] == "yes" for key in ODD) > 1:
            continue
        wagon = vehicle(design, kind=kind, driven=driven, steered=steered, said=said)
        for job in jobs(design, {}):
            if job.choice in ("adjust", "repack", "replace_bearing", "replace_unit"):
                yield wagon, replace(job, ways=any_way.choice(every))
