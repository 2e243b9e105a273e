"""Taken away for good: what goes, what stays, and what is written down of it."""

import io
import json
import os
import tempfile
import uuid
from datetime import timedelta
from pathlib import Path

from audit.models import Trace
from cases.models import Case, Observation
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings
from django.utils import timezone
from people.models import Role, User
from photos.models import Photo
from PIL import Image
from recordings.models import Analysis, Recording, Sound
from upkeep.models import Reading
from workshop import media
from workshop.tests.people import WorkshopTestCase, wav

from keeping import erasing
from keeping.models import Leaving


class Erasing(WorkshopTestCase):
    """A workshop with a case that has a bit of everything."""

    def setUp(self) -> None:
        """Log, record, photograph."""
        super().setUp()
        folder = self.enterContext(tempfile.TemporaryDirectory())  # what is swept is no other test's
        self.enterContext(override_settings(MEDIA_ROOT=folder))
        self.sound = self.record("A1L", wav(seconds=2, seed=77)).json()["id"]
        self.photo = self.photograph()
        number = str(uuid.uuid4())
        first = self.observe("A1L", "spin", {"answer": "rumbles"}, id=number)
        again = self.observe("A1L", "spin", {"answer": "free"}, supersedes=number)
        self.assertEqual([first.status_code // 100, again.status_code // 100], [2, 2])
        self.files = [Sound.objects.get().file, Photo.objects.get().file]

    def photograph(self) -> str:
        """Send a picture; return its number."""
        buffer, number = io.BytesIO(), str(uuid.uuid4())
        Image.effect_noise((60, 40), 90).convert("RGB").save(buffer, "JPEG")
        form = {"id": number, "hub": "A1L", "part": "unit", "picture": SimpleUploadedFile("a.jpg", buffer.getvalue())}
        self.assertEqual(self.client.post(f"/api/cases/{self.case.id}/photos", form).status_code, 201)
        return number

    def delete(self, path: str) -> None:
        """Ask for something to go."""
        self.assertEqual(self.send(f"{path}/delete").status_code, 204, path)

    def a_day_later(self) -> int:
        """Let the files that were let go be due; return how many went."""
        Leaving.objects.update(since=timezone.now() - timedelta(days=2))
        for name in self.files:
            if media.path(name).exists():
                os.utime(media.path(name), (1, 1))
        return erasing.take_files_away()

    def lie_there(self) -> list[bool]:
        """Return which of the files are on the disk."""
        return [media.path(name).is_file() for name in self.files]

    def last(self) -> Trace:
        """Return what was written down last."""
        return Trace.objects.filter(workshop=self.user.workshop).latest("at", "id")

    def test_a_photograph(self) -> None:
        """Gone at once for everybody; its file a day later, since a backup may be reading it."""
        self.delete(f"photos/{self.photo}")
        self.assertEqual(self.client.get(f"/api/photos/{self.photo}").status_code, 404)
        self.assertEqual(erasing.take_files_away(), 0)
        self.assertEqual(self.lie_there(), [True, True])
        self.a_day_later()
        self.assertEqual(self.lie_there(), [True, False])
        self.assertEqual((self.last().what, self.last().person), (Trace.What.PHOTO_DELETED, self.user))

    def test_a_file_that_another_row_names_stays(self) -> None:
        """The same picture sent to another case is still there when the first is deleted."""
        twin = Photo.objects.get()
        twin.pk, twin._state.adding = uuid.uuid4(), True
        twin.save()
        self.delete(f"photos/{self.photo}")
        self.a_day_later()
        self.assertEqual(self.lie_there(), [True, True])

    def test_what_is_sent_again_on_its_way_out_stays(self) -> None:
        """Its file was written again, and the row that names it is not stored yet: it is no stray."""
        self.delete(f"cases/{self.case.id}")
        Leaving.objects.update(since=timezone.now() - timedelta(days=2))
        for name in self.files:
            os.utime(media.path(name), (1, 1))
        media.write_once(self.files[0], media.path(self.files[0]).read_bytes())
        self.assertEqual(erasing.take_files_away(), 1)
        self.assertEqual(self.lie_there(), [True, False])

    def test_a_case(self) -> None:
        """All that was in it goes, and only that; the log says how much, not what."""
        self.delete(f"cases/{self.case.id}")
        rows = [model.objects.count() for model in (Case, Observation, Recording, Analysis, Sound, Photo)]
        self.assertEqual(rows, [0] * 6)
        self.a_day_later()
        self.assertEqual(self.lie_there(), [False, False])
        self.assertEqual(self.last().details, ["cases: 1", "sounds: 1", "photographs: 1"])
        self.assertNotIn("Since the wheels", json.dumps(list(Trace.objects.values("about", "details"))))

    def test_a_vehicle(self) -> None:
        """With its cases, readings that correct one another, and all."""
        first = {"id": str(uuid.uuid4()), "km": 1000, "on": "2026-01-02"}
        self.assertEqual(self.send(f"vehicles/{self.vehicle.id}/odometer", first).status_code // 100, 2)
        again = {"id": str(uuid.uuid4()), "km": 1100, "on": "2026-01-02", "supersedes": first["id"]}
        self.send(f"vehicles/{self.vehicle.id}/odometer", again)
        self.assertGreaterEqual(Reading.objects.count(), 1)
        self.delete(f"vehicles/{self.vehicle.id}")
        self.assertEqual(self.client.get(f"/api/vehicles/{self.vehicle.id}").status_code, 404)
        self.assertEqual(Reading.objects.count(), 0)
        self.assertNotIn(self.vehicle.label, self.client.get("/api/keeping").content.decode())

    def test_a_vehicle_that_was_sold(self) -> None:
        """Whose it was is forgotten; what was found stays, and counts for the fleet."""
        self.assertEqual(self.send(f"vehicles/{self.vehicle.id}/sold").status_code, 204)
        shown = self.client.get(f"/api/vehicles/{self.vehicle.id}").json()
        self.assertTrue(shown["label"].startswith("Sold 20"))
        self.assertEqual(shown["plate"], "")
        self.assertEqual(Case.objects.get().complaint, "")
        self.assertNotIn("Test van", self.client.get("/api/keeping").content.decode())
        self.assertEqual(Recording.objects.count(), 1)

    def test_a_name(self) -> None:
        """Only of somebody who left; what they entered stays, by nobody in particular, and they can never sign in."""
        person, client = self.person("ours-too")
        User.objects.filter(pk=person.pk).update(workshop=self.user.workshop, role=Role.MECHANIC, first_name="Ada Ray")
        body = {"id": str(uuid.uuid4()), "hub": "A1R", "kind": "spin", "value": {"answer": "free"}}
        sent = client.post(f"/api/cases/{self.case.id}/observations", json.dumps(body), content_type="application/json")
        self.assertEqual(sent.status_code // 100, 2, sent.content)
        erase = f"people/{person.pk}/erase"
        self.assertEqual(self.send(erase).json()["code"], "still_here")
        self.send(f"people/{person.pk}", {"role": "mechanic", "active": False}, method="put")
        self.assertEqual(self.send(erase).status_code, 204)
        said = self.client.get(f"/api/cases/{self.case.id}").content.decode()
        self.assertNotIn("Ada Ray", said)
        self.assertIn("Somebody who left", said)
        person.refresh_from_db()
        self.assertNotIn("ours-too", f"{person.username}{person.first_name}")
        self.assertNotIn("Ada Ray", self.client.get("/api/keeping").content.decode())
        self.assertEqual(self.send("session", {"username": "ours-too", "password": "x"}).status_code // 100, 4)
        self.assertEqual(self.send(erase).status_code, 404)  # once

    def test_sounds_after_some_years(self) -> None:
        """By the workshop's rule: the sound of a case that was closed so long ago goes, what was heard in it stays."""
        old = timezone.now() - timedelta(days=800)
        Case.objects.update(closed_at=old, closed_by=self.user)
        self.assertEqual(erasing.end_old_sounds(), 0)  # nobody set a rule
        self.assertEqual(self.send("keeping", {"sounds_years": 0}, method="put").status_code, 422)
        self.assertEqual(self.send("keeping", {"sounds_years": 3}, method="put").status_code, 200)
        self.assertEqual(erasing.end_old_sounds(), 0)
        shown = self.send("keeping", {"sounds_years": 2}, method="put").json()
        self.assertEqual((shown["sounds_years"], shown["sounds"]), (2, 1))
        heard = Analysis.objects.get().heard
        self.assertEqual([erasing.end_old_sounds() for _ in range(2)], [1, 0])
        self.a_day_later()
        self.assertEqual(self.lie_there(), [False, True])
        gone = self.client.get(f"/api/recordings/{self.sound}/audio")
        self.assertEqual(gone.status_code, 410)
        self.assertIn("rule of years", gone.json()["message"])
        self.assertEqual(self.send(f"recordings/{self.sound}/hear").status_code, 410)
        self.assertEqual(Analysis.objects.get().heard, heard)
        self.assertIsNone(self.last().person)
        Case.objects.update(closed_at=None)
        self.assertEqual(self.record("A1L", wav(seconds=2, seed=77)).status_code, 201)  # sent again, it is kept again
        self.assertTrue(Sound.objects.get().file)

    def test_what_no_row_ever_named(self) -> None:
        """A file that a refused bundle left is swept away after a day; what is new, and a smaller copy, stay."""
        stray, fresh = (
            Path(settings.MEDIA_ROOT) / "sounds" / f"{name}-{uuid.uuid4()}.flac" for name in ("stray", "fresh")
        )
        for one in (stray, fresh):
            one.parent.mkdir(parents=True, exist_ok=True)
            one.write_bytes(b"x")
        os.utime(stray, (1, 1))
        erasing.take_files_away()
        self.assertEqual([stray.exists(), fresh.exists()], [False, True])
        fresh.unlink()
        self.assertEqual(self.lie_there(), [True, True])
