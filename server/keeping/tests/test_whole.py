"""A whole workshop, out of one installation and into another."""

import io
import json
import zipfile

from cases.models import Case
from cases.services import open_case
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from garage.models import Vehicle
from garage.services import add_vehicle
from recordings.models import Recording, Sound
from workshop.tests.people import WorkshopTestCase, vehicle_data, wav


class Whole(WorkshopTestCase):
    """Ours leaves, and comes to the neighbour."""

    def setUp(self) -> None:
        """Two vehicles, one with a case and a sound; ways of its own."""
        super().setUp()
        self.record("A1L", wav(seconds=2, seed=5))
        open_case(self.user, add_vehicle(self.user, vehicle_data("Second van")).id, "Hums")
        ways = self.send("policy", {"shop": {"hands": 3}, "revision": 0}, method="put")
        self.assertEqual(ways.status_code, 200, ways.content)

    def leave(self) -> bytes:
        """Take the whole workshop along."""
        answer = self.client.get("/api/workshop/archive")
        self.assertEqual(answer["Content-Type"], "application/zip")
        return b"".join(answer.streaming_content)

    def arrive(self, data: bytes, client: Client | None = None):
        """Take an archive in."""
        form = {"archive": SimpleUploadedFile("workshop.zip", data)}
        with self.captureOnCommitCallbacks(execute=True):
            return (client or self.neighbour).post("/api/workshop/archive", form)

    def test_from_one_workshop_to_another(self) -> None:
        """Vehicles, cases, sounds and ways; the second time nothing is added."""
        data = self.leave()
        self.assertIsNone(zipfile.ZipFile(io.BytesIO(data)).testzip())
        first = self.arrive(data).json()
        self.assertEqual((first["vehicles"], first["new_vehicles"], first["cases"], first["ways"]), (2, 2, 2, True))
        self.assertEqual(first["left_out"], [])
        theirs = Vehicle.objects.filter(workshop=self.other.workshop)
        self.assertEqual(sorted(theirs.values_list("label", flat=True)), ["Second van", "Test van"])
        self.assertEqual(Recording.objects.filter(case__workshop=self.other.workshop).count(), 1)
        self.assertEqual(len(Sound.objects.values_list("file_sha256", flat=True)), 2)
        self.assertEqual(len(set(Sound.objects.values_list("file_sha256", flat=True))), 1)
        self.assertEqual(self.neighbour.get("/api/policy").json()["shop"]["hands"], 3)
        again = self.arrive(data).json()
        self.assertEqual((again["vehicles"], again["new_vehicles"], again["cases"], again["rows"]), (2, 0, 0, 0))
        self.assertIn("The ways: this workshop has its own.", again["left_out"])
        self.assertEqual(Case.objects.filter(workshop=self.other.workshop).count(), 2)

    def test_what_cannot_be_read_is_named_and_the_rest_goes_on(self) -> None:
        """A damaged vehicle, a missing one, nonsense for the ways."""
        source = zipfile.ZipFile(io.BytesIO(self.leave()))
        about = json.loads(source.read("workshop.json"))
        about["vehicles"].append({"file": "vehicles/gone.zip"})
        about["ways"] = {"prices": ["nonsense"]}
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as changed:
            changed.writestr(about["vehicles"][0]["file"], b"no archive")
            changed.writestr(about["vehicles"][1]["file"], source.read(about["vehicles"][1]["file"]))
            changed.writestr("workshop.json", json.dumps(about))
        found = self.arrive(out.getvalue()).json()
        self.assertEqual((found["vehicles"], found["ways"]), (1, False))
        self.assertEqual(len(found["left_out"]), 3)

    def test_no_archive_of_a_workshop(self) -> None:
        """Refused in words, and nothing is stored."""
        empty, other = io.BytesIO(), io.BytesIO()
        zipfile.ZipFile(empty, "w").close()
        with zipfile.ZipFile(other, "w") as archive:
            archive.writestr("workshop.json", json.dumps({"format": "hematite-workshop", "version": 9}))
        for data in (b"", b"PK\x03\x04 broken", empty.getvalue(), other.getvalue()):
            answer = self.arrive(data)
            self.assertEqual(answer.status_code, 422, data[:20])
        self.assertEqual(Vehicle.objects.filter(workshop=self.other.workshop).count(), 0)
