"""Bundles out of one workshop and into another: equal there, never overwriting, refused in words."""

import hashlib
import io
import json
import tempfile
import uuid
import zipfile
from contextlib import redirect_stdout
from pathlib import Path

from cases.models import Case, Observation
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase
from django.utils import timezone
from garage.models import Vehicle
from hematite.__main__ import main
from hematite.bundles import assess_case, read_bundle
from people.models import User
from photos.models import Photo
from photos.tests.test_photos import camera_jpeg
from recordings.models import Recording, Sound
from workshop.tests.people import AGAIN, WorkshopTestCase, wav

from bundles.carried import OF_A_CASE, OF_A_VEHICLE, WORDS
from bundles.numbers import own, renumbered, turned


class BundleTestCase(WorkshopTestCase):
    """A vehicle with a closed case in which everything was done that can be, and an open one."""

    def setUp(self) -> None:
        """Work on it."""
        super().setUp()
        self.path = f"vehicles/{self.vehicle.id}"
        self.observe("A1L", "spin", {"answer": "free"})
        old = Observation.objects.get(kind="spin")
        self.observe("A1L", "spin", {"answer": "rumbles"}, supersedes=str(old.id))
        self.observe("A1R", "end_play", {"readings_mm": [0.02, 0.03, 0.02], "resolution_mm": 0.01})
        for n, hub in enumerate(("A1L", "A1R")):
            self.record(hub, wav("outer_race" if hub == "A1L" else "sound", seed=n))
        self.record("A1R", wav(seed=9))
        Recording.objects.filter(sound__sha256=Recording.objects.last().sound.sha256).update(withdrawn=True)
        picture = {"id": str(uuid.uuid4()), "hub": "A1L", "part": "unit"}
        picture["picture"] = SimpleUploadedFile("a.jpg", camera_jpeg((640, 480)))
        self.assertEqual(self.client.post(f"/api/cases/{self.case.id}/photos", picture).status_code, 201)
        body = {"hub": "A1L", "choice": "replace_unit", "reason": "sure"}
        job = self.send(f"cases/{self.case.id}/verdicts", body).json()["id"]
        self.send(
            f"cases/{self.case.id}/job/entries", {"id": str(uuid.uuid4()), "step": "A1L.wheel.off", "kind": "done"}
        )
        self.observe("A1L", "check", {"check": "spins", "answer": "good"}, job=job)
        self.send(f"{self.path}/odometer", {"id": str(uuid.uuid4()), "on": str(timezone.localdate()), "km": 52_000})
        felt = {"id": str(uuid.uuid4()), "trip": str(uuid.uuid4()), "hub": "A1L", "felt": "warm", "place": "Pass"}
        self.send(f"{self.path}/feels", felt)
        line = {"id": str(uuid.uuid4()), "on": str(timezone.localdate()), "kind": "fitted", "part": "Seal"}
        self.send(f"{self.path}/logbook", line)
        self.send(f"{self.path}/logbook", line | {"id": str(uuid.uuid4()), "batch": "7", "supersedes": line["id"]})
        self.send(f"{self.path}/rechecks", AGAIN)
        closing = {"outcome": "Quiet", "rechecks": [AGAIN], "unproven_because": "It had to go", "odometer_km": 52_010}
        self.assertEqual(self.send(f"cases/{self.case.id}/finish", closing).status_code, 200)

    def bundle(self, of: str = "", client=None) -> bytes:
        """Return the bundle of the vehicle, or of another address."""
        answer = (client or self.client).get(f"/api/{of or self.path}/bundle")
        self.assertEqual(answer.status_code, 200)
        return b"".join(answer.streaming_content)

    def give(self, data: bytes, *, look: bool = False, client=None, **more: str):
        """Hand a bundle to the neighbour."""
        form = {"bundle": SimpleUploadedFile("taken.zip", data), **more}
        with self.captureOnCommitCallbacks(execute=True):
            return (client or self.neighbour).post(f"/api/bundles{'/look' if look else ''}", form)

    @staticmethod
    def changed(data: bytes, change, member: str = "") -> bytes:
        """Return a bundle with something changed in one of its JSON members."""
        old, made = zipfile.ZipFile(io.BytesIO(data)), io.BytesIO()
        member = member or next(name for name in old.namelist() if name.endswith("case.json"))
        with zipfile.ZipFile(made, "w") as new:
            for name in old.namelist():
                content = old.read(name)
                if name == member:
                    read = json.loads(content)
                    change(read)
                    content = json.dumps(read).encode()
                new.writestr(name, content)
        return made.getvalue()


def facts(data: bytes) -> list:
    """Return all that a bundle says but for who made it and who did what."""
    archive = zipfile.ZipFile(io.BytesIO(data))

    def plain(value: object) -> object:
        if isinstance(value, dict):
            said = {key: plain(one) for key, one in value.items() if key not in OF_WHO}
            return {key: one for key, one in said.items() if one not in (None, {}, "")}
        return [plain(one) for one in value] if isinstance(value, list) else value

    names = sorted(archive.namelist())
    said = [(name, plain(json.loads(archive.read(name)))) for name in names if name.endswith(".json")]
    files = [(name, hashlib.sha256(archive.read(name)).hexdigest()) for name in names if not name.endswith(".json")]
    return [*said, *files]


OF_WHO = {"person", "opened_by", "closed_by", "planned_by", "done_by", "workshop", "made_at"}


class FromOneToAnother(BundleTestCase):
    """The same case in two workshops."""

    def test_a_vehicle_is_equal_there(self) -> None:
        """Every row, every sound and every picture comes through, by other hands; it can be worked on there."""
        sent = self.bundle()
        seen = self.give(sent, look=True)
        self.assertEqual(seen.status_code, 200, seen.content)
        self.assertFalse(Vehicle.objects.seen_by(self.other).exists())  # looking takes nothing in
        self.assertFalse(User.objects.filter(is_active=False).exists())
        taken = self.give(sent)
        self.assertEqual(taken.status_code, 201, taken.content)
        body = taken.json()
        self.assertEqual((body["new_vehicle"], body["left_out"], len(body["cases"])), (True, [], 1))
        self.assertEqual({row["label"]: row["new"] for row in body["kinds"]}, self.counts())
        self.assertEqual(body | {"kinds": 0}, seen.json() | {"kinds": 0})
        back = self.bundle(f"vehicles/{body['vehicle']['id']}", self.neighbour)
        for mine, theirs in zip(facts(sent), facts(back), strict=True):
            self.assertEqual(theirs, mine)
        theirs = self.neighbour.get(f"/api/cases/{body['cases'][0]['id']}").json()
        self.assertEqual(theirs["came_from"]["workshop"], "ours")
        self.assertIn("ours (ours)", {row["person"] for row in theirs["observations"]})
        self.assertTrue(all(row.analysis.state == "done" for row in Recording.objects.seen_by(self.other)))

    def counts(self) -> dict[str, int]:
        """Return how many rows of each kind this workshop has."""
        models = {**OF_A_CASE, **OF_A_VEHICLE}
        found = {WORDS[name]: model.objects.seen_by(self.user).count() for name, model in models.items()}
        return {label: count for label, count in found.items() if count}

    def test_taken_in_twice_it_is_there_once(self) -> None:
        """The second time adds nothing; at home, where all of it is, nothing changes at all."""
        sent = self.bundle()
        self.give(sent)
        once = {model: model.objects.count() for model in (Vehicle, Case, Observation, Recording, Photo, Sound, User)}
        again = self.give(sent).json()
        self.assertEqual((again["new_vehicle"], [case["added"] for case in again["cases"]]), (False, [0]))
        self.assertTrue(all(row["new"] == 0 for row in again["kinds"]))
        home = self.give(sent, client=self.client).json()
        self.assertEqual((home["vehicle"]["id"], home["new_vehicle"]), (str(self.vehicle.id), False))
        self.assertEqual({model: model.objects.count() for model in once}, once)

    def test_what_was_added_elsewhere_comes_back(self) -> None:
        """Worked on there, it brings home what is new and leaves what is here as it is."""
        from cases.services import open_case  # noqa: PLC0415

        case = open_case(self.user, self.vehicle.id, "Hums")
        taken = self.give(self.bundle(f"cases/{case.id}")).json()
        there = taken["cases"][0]["id"]
        entry = {"id": str(uuid.uuid4()), "hub": "A2L", "kind": "spin", "value": {"answer": "rumbles"}}
        self.assertEqual(self.send(f"cases/{there}/observations", entry, client=self.neighbour).status_code, 201)
        back = self.bundle(f"cases/{there}", self.neighbour)
        Case.objects.filter(id=case.id).update(complaint="Hums at 80")
        home = self.give(back, client=self.client, onto=str(self.vehicle.id)).json()
        self.assertEqual([(row["label"], row["new"]) for row in home["kinds"] if row["new"]], [("Finds", 1)])
        case.refresh_from_db()
        self.assertEqual((case.complaint, case.log[-1].value), ("Hums at 80", {"answer": "rumbles"}))

    def test_a_case_is_judged_the_same(self) -> None:
        """The bundle of a case is what the command line reads, and it says what is in it."""
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "case.zip"
            path.write_bytes(self.bundle(f"cases/{self.case.id}"))
            found, left_out = assess_case(read_bundle(path))
            with redirect_stdout(io.StringIO()) as said:
                self.assertEqual(main(["bundle", str(path), "--json"]), 0)
        self.assertEqual(json.loads(said.getvalue())["cases"][0]["kept"]["recordings"], 3)
        self.assertEqual((left_out, [c.hub for c in found.culprits][:1]), ((), ["A1L"]))

    def test_a_bundle_that_no_workshop_wrote(self) -> None:
        """Only what the core reads: vehicle, sounds and finds come in as a case of a new vehicle."""
        data = self.changed(self.bundle(f"cases/{self.case.id}"), lambda case: case.pop("kept"))
        taken = self.give(data).json()
        self.assertEqual({row["label"]: row["new"] for row in taken["kinds"]}, {"Finds": 2, "Recordings": 2})
        again = self.give(data).json()
        self.assertEqual((again["new_vehicle"], again["cases"][0]["added"]), (False, 0))


class Refused(BundleTestCase):
    """What is not taken in, or not all of it."""

    def refused(self, data: bytes, words: str, **more: str) -> None:
        """Expect a refusal with these words, and nothing taken in."""
        for look in (True, False):
            answer = self.give(data, look=look, **more)
            self.assertEqual(answer.status_code, 422, answer.content[:300])
            self.assertIn(words, answer.json()["message"])
        self.assertFalse(Vehicle.objects.seen_by(self.other).exists())

    def test_no_bundle(self) -> None:
        """Text, an empty file, another archive, a damaged one, a later version."""
        sent = self.bundle()
        self.refused(b"not a zip", "is no bundle")
        self.refused(b"", "is no bundle")
        other = io.BytesIO()
        with zipfile.ZipFile(other, "w") as archive:
            archive.writestr("notes.txt", "x")
        self.refused(other.getvalue(), "lacks case.json")
        self.refused(sent[: len(sent) // 2], "is no bundle")
        self.refused(self.changed(sent, lambda v: v.update(version=2), "vehicle.json"), "version 2")
        self.refused(self.changed(sent, lambda v: v.update(cases=["../x"]), "vehicle.json"), "no folder of a case")
        self.refused(self.changed(sent, lambda v: v.update(kept=[1]), "vehicle.json"), "must be named fields")

    def test_rows_that_cannot_be_are_named(self) -> None:
        """A date to come, a hub that is not there, a lost sound, a text for a number: left out, in words."""

        def spoil(case: dict) -> None:
            kept = case["kept"]
            for row in kept["verdicts"]:
                row["person"] = "Somebody else"  # so that who found it is first named by a row that is left out
            kept["observations"][0]["at"] = "2199-01-01T00:00:00+00:00"
            kept["observations"][2]["hub"] = "A9L"
            kept["observations"][3]["job"] = str(uuid.uuid4())
            kept["recordings"][0]["file"] = "audio/gone.flac"
            kept["photos"][0]["part"] = "x" * 400
            kept["rechecks"][0]["after_km"] = "soon"

        body = self.give(self.changed(self.bundle(), spoil)).json()
        said = " / ".join(body["left_out"])
        for words in (
            "has not come yet",
            "no hub A9L",
            "lacks",
            "at most 32",
            "must be an integer",
            "is not in the bundle",
        ):
            self.assertIn(words, said)
        self.assertEqual(len(body["left_out"]), 6, body["left_out"])

    def test_what_cannot_be_shown_is_not_taken_in(self) -> None:
        """A verdict whose frozen parts are no verdict would break every page of its case."""

        def spoil(case: dict) -> None:
            case["kept"]["verdicts"][0]["assessment"] = {"decision": 7}

        with self.assertLogs("bundles.shows", "WARNING"):
            self.refused(self.changed(self.bundle(), spoil), "cannot be shown")

    def test_a_verdict_that_rests_on_nothing_we_know(self) -> None:
        """A frozen part of another shape, from which lists could tell nothing, leaves the verdict out."""
        for name, wrong in (("vehicle", {"axles": [7]}), ("prices", {"rows": [{"choice": "replace_unit"}]})):
            spoil = lambda case: case["kept"]["verdicts"][0]["snapshot"].update({name: wrong})  # noqa: B023, E731
            with self.subTest(name):
                body = self.give(self.changed(self.bundle(), spoil), look=True).json()
                self.assertIn("what it rested on cannot be read", " ".join(body["left_out"]))

    def test_somebody_elses(self) -> None:
        """A neighbour gets no bundle of ours, and cannot put one onto our vehicle."""
        for path in (self.path, f"cases/{self.case.id}"):
            self.assertEqual(self.neighbour.get(f"/api/{path}/bundle").status_code, 404)
        answer = self.give(self.bundle(), onto=str(self.vehicle.id))
        self.assertEqual(answer.status_code, 404)

    def test_a_sound_that_is_gone(self) -> None:
        """It does not keep the rest at home: it is named, in the bundle and where it is taken in."""
        Sound.objects.filter(id=Recording.objects.first().sound_id).update(file="sounds/gone.flac")
        body = self.give(self.bundle()).json()
        self.assertIn("no longer on the disk", " ".join(body["left_out"]))
        self.assertEqual(Recording.objects.seen_by(self.other).count(), 2)


class Numbered(SimpleTestCase):
    """Numbers that go to a neighbour and come back."""

    def test_turned_again_it_is_the_same(self) -> None:
        """Another workshop, another number; its own in every bundle."""
        for number in [uuid.uuid4() for _ in range(200)]:
            there = [turned(number, workshop) for workshop in (1, 2)]
            self.assertEqual(len({number, *there}), 3)
            self.assertEqual([own(one, workshop) for workshop, one in enumerate(there, 1)], [number, number])
            self.assertEqual(own(number, 1), number)
            self.assertEqual({(one.version, one.variant) for one in there}, {(6, uuid.RFC_4122)})

    def test_numbers_inside_of_what_is_kept(self) -> None:
        """Wherever they stand; a text that only looks like one stays."""
        one, other = uuid.uuid4(), uuid.uuid4()
        kept = {"a": [str(one), {str(one): "x" * 36}], "b": 7}
        self.assertEqual(renumbered(kept, lambda _: other), {"a": [str(other), {str(other): "x" * 36}], "b": 7})
