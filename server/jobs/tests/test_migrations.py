"""What was ticked before a case had one plan is kept by the change to it."""

import uuid

from django.apps.registry import Apps
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase

OLD = [
    ("jobs", "0002_initial"),
    ("cases", "0004_at_arms_length"),
    ("garage", "0005_at_arms_length"),
    ("verdicts", "0003_what_follows"),
]


class Kept(TransactionTestCase):
    """The database as it was, with a tick and one taken back, and as it is after the change."""

    def setUp(self) -> None:
        """Go back, and forward again whatever happens."""
        self.addCleanup(lambda: self.to(MigrationExecutor(connection).loader.graph.leaf_nodes()))

    def to(self, where: list[tuple[str, str]]) -> Apps:
        """Migrate the database; return its models as they are then."""
        executor = MigrationExecutor(connection)
        executor.migrate(where)
        return MigrationExecutor(connection).loader.project_state(where).apps

    def test_ticks_belong_to_the_case_afterwards(self) -> None:
        """Each keeps its person, its step and its note, says what it was, and stands at its verdict's case."""
        old = self.to(OLD)
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
        new = self.to([("jobs", "0003_the_hub_itself")])
        rows = new.get_model("jobs", "StepEntry").objects.order_by("step")
        said = [(row.step, row.kind, row.note, row.case_id, row.person_id) for row in rows]
        whose = ("by hand", case.id, person.id)
        self.assertEqual(said, [("clean", "done", *whose), ("grease", "undone", *whose)])
