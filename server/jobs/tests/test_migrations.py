"""What was ticked and planned before a change of the tables is kept by it."""

import uuid
from datetime import timedelta

from django.apps.registry import Apps
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase
from django.utils import timezone

OLD = [
    ("jobs", "0002_initial"),
    ("cases", "0004_at_arms_length"),
    ("garage", "0005_at_arms_length"),
    ("verdicts", "0003_what_follows"),
    ("people", "0001_initial"),
]


def migrated(where: list[tuple[str, str | None]]) -> Apps:
    """Migrate the database; return its models as they are then."""
    executor = MigrationExecutor(connection)
    executor.migrate(where)
    return MigrationExecutor(connection).loader.project_state([one for one in where if one[1]]).apps


class Kept(TransactionTestCase):
    """The database as it was, with a tick and one taken back, and as it is after the change."""

    def setUp(self) -> None:
        """Go back, and forward again whatever happens."""
        self.addCleanup(lambda: migrated(MigrationExecutor(connection).loader.graph.leaf_nodes()))

    def test_ticks_belong_to_the_case_afterwards(self) -> None:
        """Each keeps its person, its step and its note, says what it was, and stands at its verdict's case."""
        old = migrated(OLD)
        workshop = old.get_model("people", "Workshop").objects.create(name="Before")
        person = old.get_model("people", "User").objects.create(username="before", workshop=workshop)
        vehicle = old.get_model("garage", "Vehicle").objects.create(workshop=workshop, label="Old trailer")
        case = old.get_model("cases", "Case").objects.create(
            workshop=workshop, vehicle=vehicle, opened_by=person, complaint="Growl"
        )
        verdict = old.get_model("verdicts", "Verdict").objects.create(
            case=case, person=person, hub="A1L", choice="repack", advised="repack", assessment={}, core_version="0"
        )
        ticks = old.get_model("jobs", "StepTick").objects
        for step, done in (("clean", True), ("grease", False)):
            ticks.create(id=uuid.uuid4(), verdict=verdict, person=person, step=step, done=done, note="by hand")
        new = migrated([("jobs", "0003_the_hub_itself")])
        rows = new.get_model("jobs", "StepEntry").objects.order_by("step")
        said = [(row.step, row.kind, row.note, row.case_id, row.person_id) for row in rows]
        whose = ("by hand", case.id, person.id)
        self.assertEqual(said, [("clean", "done", *whose), ("grease", "undone", *whose)])


class RechecksKept(TransactionTestCase):
    """A case's one recheck, before the vehicle had several."""

    def setUp(self) -> None:
        """Go back, and forward again whatever happens."""
        self.addCleanup(lambda: migrated(MigrationExecutor(connection).loader.graph.leaf_nodes()))

    def test_none_is_lost(self) -> None:
        """One still to come is to come; one that a later case of the vehicle ended is done, by whoever opened that."""
        where = [("jobs", "0003_the_hub_itself"), ("garage", "0006_torque_book"), ("cases", "0004_at_arms_length")]
        old = migrated([*where, ("people", "0001_initial"), ("upkeep", None)])
        workshop = old.get_model("people", "Workshop").objects.create(name="Before")
        person = old.get_model("people", "User").objects.create(username="before", workshop=workshop)
        now, cases = timezone.now(), old.get_model("cases", "Case").objects
        for label, closed_ago in (("Old trailer", (30,)), ("Old van", (200, 20))):
            vehicle = old.get_model("garage", "Vehicle").objects.create(workshop=workshop, label=label)
            for ago in closed_ago:
                at = now - timedelta(days=ago)
                case = cases.create(
                    workshop=workshop, vehicle=vehicle, opened_by=person, closed_by=person, closed_at=at
                )
                cases.filter(pk=case.pk).update(opened_at=at - timedelta(hours=3))
                due = at.date() + timedelta(days=60)
                old.get_model("jobs", "Recheck").objects.create(case=case, due_on=due, after_km=30, why="It settles.")
        new = migrated(MigrationExecutor(connection).loader.graph.leaf_nodes())
        rows = new.get_model("upkeep", "Recheck").objects.order_by("vehicle__label", "due_on")
        said = [(row.vehicle.label, row.done_at is None, row.why, row.after_km, row.planned_by_id) for row in rows]
        kept = ("It settles.", 30, person.pk)
        self.assertEqual(said, [("Old trailer", True, *kept), ("Old van", False, *kept), ("Old van", True, *kept)])
        self.assertEqual(new.get_model("people", "User").objects.get().role, "owner")  # could do everything before
