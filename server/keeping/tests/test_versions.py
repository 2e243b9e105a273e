"""A version that hears differently: said on what an older one heard, heard again in the background; verdicts stay."""

import hematite
from people.models import Workshop
from recordings import hearing
from recordings.models import Analysis
from verdicts.models import Verdict
from workshop.tests.people import WorkshopTestCase, wav


class AnotherVersion(WorkshopTestCase):
    """Seven recordings that version 0.0 heard, and a verdict that rests on them."""

    def setUp(self) -> None:
        """Record, decide, and let it be long ago."""
        super().setUp()
        for seed in range(7):
            self.recorded = self.record("A1L", wav("outer_race", seconds=2, seed=seed)).json()["id"]
        said = {"hub": "A1L", "choice": "replace_unit", "reason": "sure"}
        self.assertEqual(self.send(f"cases/{self.case.id}/verdicts", said).status_code, 201)
        self.verdict = Verdict.objects.values().get()
        Analysis.objects.update(core_version="0.0.3", heard=Analysis.objects.values_list("heard", flat=True).first())

    def kept(self) -> tuple[int, bool]:
        """Return how many were heard by others, and whether they are being heard again."""
        said = self.client.get("/api/keeping").json()
        return said["heard_by_others"], said["hearing_again"]

    def test_said_and_heard_again_a_few_at_a_time(self) -> None:
        """Only where an owner wants it, and only while nobody waits; in the end all are this version's."""
        shown = self.client.get(f"/api/recordings/{self.recorded}").json()
        self.assertEqual((shown["heard_by"], shown["heard_by_another"]), ("0.0.3", True))
        self.assertEqual(self.kept(), (7, False))
        self.assertEqual(hearing.hear_some_again(), 0)
        self.assertTrue(self.send("keeping/hear-again").json()["hearing_again"])
        Analysis.objects.filter(recording=self.recorded).update(state="waiting")
        self.assertEqual(hearing.hear_some_again(), 0)
        Analysis.objects.update(state="done")
        for left, again in ((2, 5), (0, 2), (0, 0)):
            with self.captureOnCommitCallbacks(execute=True):
                self.assertEqual(hearing.hear_some_again(), again)
            self.assertEqual(self.kept()[0], left)
        self.assertEqual(set(Analysis.objects.values_list("core_version", "state")), {(hematite.__version__, "done")})
        self.assertFalse(Workshop.objects.get(pk=self.user.workshop_id).hear_again)
        self.assertEqual(Verdict.objects.values().get(), self.verdict)

    def test_which_versions_hear_differently(self) -> None:
        """The middle number counts up when what is heard changes; the last one does not."""
        first, middle, last = hematite.__version__.split(".")
        self.assertFalse(hearing.of_another_hearing(f"{first}.{middle}.{int(last) + 3}"))
        self.assertTrue(hearing.of_another_hearing(f"{first}.{int(middle) + 1}.{last}"))
        self.assertTrue(hearing.of_another_hearing(""))

    def test_a_neighbours_are_not_ours(self) -> None:
        """Another workshop has nothing to hear again."""
        self.assertEqual(self.neighbour.get("/api/keeping").json()["heard_by_others"], 0)
