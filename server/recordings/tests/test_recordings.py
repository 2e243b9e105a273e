"""Recordings: kept before they are heard, once, losslessly; and what is refused."""

import io
import json
import uuid
import zipfile
from pathlib import Path
from unittest import mock

import numpy as np
import soundfile
from cases.services import open_case
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from garage.services import add_vehicle
from hematite.bundles import assess_case, read_bundle
from workshop import media
from workshop.tests.people import WHEEL, WorkshopTestCase, vehicle_data, wav

from recordings import hearing, storage
from recordings.models import Analysis, Recording, Sound


class Recordings(WorkshopTestCase):
    """Uploads."""

    def test_kept_and_heard(self) -> None:
        """A worn hub is named in the answer's analysis."""
        stored = self.record("A1L", wav("outer_race")).json()
        heard = self.client.get(f"/api/recordings/{stored['id']}").json()
        self.assertEqual(heard["state"], "done")
        self.assertEqual(max(heard["families"], key=lambda f: f["strength"])["kind"], "outer_race")
        plot = self.client.get(f"/api/recordings/{stored['id']}/plot").json()
        self.assertEqual(len(plot["orders"]), len(plot["db"]))
        self.assertGreater(len(plot["orders"]), 100)

    def live(self, data: bytes, made: object, case_id: object = None):
        """Ask what a sound tells that is still being made."""
        form = {"made": json.dumps(made), "sound": SimpleUploadedFile("a.wav", data)}
        return self.client.post(f"/api/cases/{case_id or self.case.id}/live", form)

    def test_heard_while_recording(self) -> None:
        """A worn hub is decided; a second of it is not asked yet; nothing is kept of either."""
        made = {"place": "A1L", "speed": WHEEL, "situation": "stand_spin"}
        found = self.live(wav("outer_race"), made).json()
        self.assertEqual((found["families"][0]["kind"], found["decided"]), ("outer_race", True))
        self.assertEqual(found["families"][0]["surely"], 1.0)
        short = self.live(wav("outer_race", seconds=1.0), made).json()
        self.assertEqual((short["families"], short["decided"], short["turns_per_s"]), ([], False, None))
        self.assertEqual(Recording.objects.count() + Sound.objects.count(), 0)

    def test_what_is_not_heard_while_recording(self) -> None:
        """No sound, no such place, a mangled form, too much of it, and another workshop's case."""
        made = {"place": "A1L", "speed": WHEEL}
        for data, how, status in (
            (b"", made, 422), (b"RIFF nonsense", made, 422), (wav(), made | {"place": "A9L"}, 422), (wav(), [], 422),
        ):  # fmt: skip
            answer = self.live(data, how)
            self.assertEqual(answer.status_code, status)
            self.assertTrue(answer.json()["message"])
        with self.settings(LARGEST_LIVE_BYTES=1000):
            self.assertEqual(self.live(wav(), made).status_code, 413)
        theirs = open_case(self.other, add_vehicle(self.other, vehicle_data()).id, "Theirs")
        self.assertEqual(self.live(wav(), made, theirs.id).status_code, 404)

    def test_lossless(self) -> None:
        """What is kept gives back every sample of 16 and 24 bits, as FLAC; floats are kept as they came."""
        samples = np.random.default_rng(1).integers(-(2**23), 2**23, 30_000) << 8
        for subtype, suffix in (("PCM_16", ".flac"), ("PCM_24", ".flac"), ("FLOAT", ".wav")):
            buffer = io.BytesIO()
            soundfile.write(buffer, samples.astype(np.int32), 48_000, format="WAV", subtype=subtype)
            with storage.as_file(buffer.getvalue()) as sent_file:
                kept = media.path(storage.keep(self.user.workshop_id, subtype, sent_file)["file"])
            self.assertEqual(kept.suffix, suffix)
            sent, _ = soundfile.read(io.BytesIO(buffer.getvalue()), dtype="int32")
            back, _ = soundfile.read(kept, dtype="int32")
            np.testing.assert_array_equal(sent, back)

    def test_sent_twice_is_kept_once(self) -> None:
        """The same id and sound twice is one recording; the same sound under two ids is one file."""
        name, data = str(uuid.uuid4()), wav()
        self.assertEqual([self.record("A1L", data, recording_id=name).status_code for _ in range(2)], [201, 201])
        self.assertEqual(self.record("A1R", data).status_code, 201)
        self.assertEqual((Recording.objects.count(), Sound.objects.count()), (2, 1))
        other = self.record("A1L", wav("outer_race"), recording_id=name)
        self.assertEqual((other.status_code, other.json()["code"]), (409, "id_taken"))

    def test_kept_though_hearing_fails(self) -> None:
        """A crash while hearing loses no recording, and hearing it again mends the analysis."""
        with mock.patch.object(hearing.confined, "heard", side_effect=MemoryError):
            stored = self.record("A1L", wav("outer_race"))
        self.assertEqual(stored.status_code, 201)
        recording = Recording.objects.get()
        self.assertEqual(Analysis.objects.get().state, "failed")
        self.assertTrue((Path(settings.MEDIA_ROOT) / recording.sound.file).is_file())
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.send(f"recordings/{recording.id}/hear").json()["state"], "waiting")
        hearing.hear_recording(str(recording.id))  # tasks may run twice
        self.assertEqual(Analysis.objects.get().state, "done")

    def test_an_older_hearing_never_wins(self) -> None:
        """While a recording is heard its speed is corrected: what comes of the old speed is not kept."""
        recorded = self.record("A1L", wav("outer_race")).json()["id"]
        faster = {"place": "A1L", "gain_group": "g", "speed": {"kind": "wheel", "turns_per_s": 4.0}}
        self.send(f"recordings/{recorded}/hear")

        def corrected_meanwhile(*args: object, **kinds: object) -> object:
            self.send(f"recordings/{recorded}/made", faster)
            return listen(*args, **kinds)

        listen = hearing.confined.heard
        with mock.patch.object(hearing.confined, "heard", side_effect=corrected_meanwhile) as listened:
            hearing.hear_recording(recorded)
        self.assertEqual(listened.call_count, 2)  # by the worker that had it, at once
        self.assertAlmostEqual(Analysis.objects.get().heard["turns_per_s"], 4.0, delta=0.1)

    def test_a_file_that_changed_on_the_disk_is_said_so(self) -> None:
        """Neither played nor heard as if it were what was recorded; one that is gone likewise."""
        recorded = self.record("A1L", wav()).json()["id"]
        kept = Path(settings.MEDIA_ROOT) / Recording.objects.get().sound.file
        whole = kept.read_bytes()
        for broken in (whole[:-1] + bytes([whole[-1] ^ 1]), None):
            kept.unlink() if broken is None else kept.write_bytes(broken)
            played = self.client.get(f"/api/recordings/{recorded}/audio")
            self.assertEqual(played.status_code, 410)
            with self.captureOnCommitCallbacks(execute=True):
                self.send(f"recordings/{recorded}/hear")
            self.assertEqual(Analysis.objects.get().state, "failed")
            self.assertIn("backup", Analysis.objects.get().error)

    def test_ranges_and_what_the_browser_has_already(self) -> None:
        """A player asks for a part; what never changes is not sent twice. RFC 9110, sections 13.1.2 and 14."""
        path = f"/api/recordings/{self.record('A1L', wav()).json()['id']}/audio"
        whole = self.client.get(path)
        data = b"".join(whole.streaming_content)
        ends = [("bytes=0-9", data[:10]), ("bytes=10-", data[10:]), ("bytes=-7", data[-7:]), ("bytes=5-5", data[5:6])]
        for asked, part in ends:
            answer = self.client.get(path, headers={"Range": asked})
            self.assertEqual((answer.status_code, b"".join(answer.streaming_content)), (206, part), asked)
        past = self.client.get(path, headers={"Range": f"bytes={len(data)}-"})
        self.assertEqual((past.status_code, past["Content-Range"]), (416, f"bytes */{len(data)}"))
        for unread in ("bytes=0-1,4-5", f"bytes={'9' * 5000}-", "bytes=-", "metres=0-9"):
            self.assertEqual(self.client.get(path, headers={"Range": unread}).status_code, 200, unread[:20])
        again = self.client.get(path, headers={"If-None-Match": whole["ETag"]})
        self.assertEqual((again.status_code, again.content), (304, b""))

    def test_refusals(self) -> None:
        """Every useless file gets a clear answer, and nothing is stored."""
        cases = [
            (b"", {}, "empty"),
            (b"not a sound at all", {}, "no sound file"),
            (wav()[:30], {}, "sound"),
            (wav(), {"place": "A7L"}, "place on this vehicle"),
            (wav(), {"speed": {"kind": "wheel", "turns_per_s": 0.01}}, "Spin it faster"),
            (wav(), {"speed": {"kind": "wheel", "turns_per_s": -4}}, "cannot be read"),
            (wav(), {"sensor": "ear"}, "cannot be read"),
        ]
        for data, made, words in cases:
            with self.subTest(words):
                answer = self.record("A1L", data, **made)
                self.assertEqual(answer.status_code, 422, answer.content)
                self.assertIn(words, answer.json()["message"])
        self.assertEqual(Recording.objects.count(), 0)

    def test_poor_recordings_are_kept_but_do_not_speak(self) -> None:
        """A silent recording is kept, said to be silent, and convicts nobody."""
        silent = io.BytesIO()
        soundfile.write(silent, np.zeros(48_000 * 6), 48_000, format="WAV")
        stored = self.record("A1L", silent.getvalue()).json()
        heard = self.client.get(f"/api/recordings/{stored['id']}").json()
        self.assertEqual((heard["usable"], heard["quality"][0]["id"]), (False, "silent"))
        hubs = self.client.get(f"/api/cases/{self.case.id}/assessment").json()["hubs"]
        self.assertEqual(hubs["A1L"]["standing"], "unheard")

    def test_setting_aside(self) -> None:
        """A recording set aside is kept, but no witness."""
        stored = self.record("A1L", wav("outer_race")).json()
        before = self.client.get(f"/api/cases/{self.case.id}/assessment").json()["hubs"]["A1L"]["bearing_fault"]
        self.send(f"recordings/{stored['id']}/withdraw", {"withdrawn": True})
        after = self.client.get(f"/api/cases/{self.case.id}/assessment").json()["hubs"]["A1L"]["bearing_fault"]
        self.assertLess(after, before / 2)
        self.assertEqual(Recording.objects.count(), 1)

    def test_simulated_pickup(self) -> None:
        """The stand-in plays what it is told, without a file."""
        body = {"id": str(uuid.uuid4()), "made": {"place": "A1L", "speed": WHEEL}, "condition": "inner_race"}
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.send(f"cases/{self.case.id}/recordings/simulated", body).status_code, 201)
        heard = self.client.get(f"/api/recordings/{body['id']}").json()
        # the load zone makes a mark on the turning ring beat once a turn as well
        marks = [family for family in heard["families"] if family["kind"] != "once_a_turn"]
        self.assertEqual(max(marks, key=lambda f: f["strength"])["kind"], "inner_race")

    def test_simulated_wheel_that_is_let_go(self) -> None:
        """It slows to rest within what was counted: the run-down is heard, and as many turns."""
        made = {"place": "A1L", "situation": "stand_spin", "speed": {"kind": "counted", "turns": 28}}
        body = {"id": str(uuid.uuid4()), "made": made, "condition": "outer_race"}
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.send(f"cases/{self.case.id}/recordings/simulated", body).status_code, 201)
        heard = self.client.get(f"/api/recordings/{body['id']}").json()
        self.assertIn("its run-down found", heard["speed_words"])
        self.assertEqual(max(heard["families"], key=lambda f: f["strength"])["kind"], "outer_race")

    def test_bundle_is_judged_like_the_screen(self) -> None:
        """The case taken along gives the same culprit at the command line as on the screen."""
        for n, hub in enumerate(("A1L", "A1R", "A2L", "A2R")):
            self.record(hub, wav("outer_race" if hub == "A2L" else "sound", seed=n))
        self.observe("A2L", "spin", {"answer": "rumbles"})
        self.observe("", "load_test", {"answer": "right"})
        self.observe("", "complaint", {"words": ["growl"]})
        screen = self.client.get(f"/api/cases/{self.case.id}/assessment").json()
        taken = b"".join(self.client.get(f"/api/cases/{self.case.id}/bundle").streaming_content)
        folder = Path(settings.MEDIA_ROOT) / f"taken-{self.case.id}.zip"
        folder.parent.mkdir(parents=True, exist_ok=True)
        folder.write_bytes(taken)
        self.assertEqual(json.loads(zipfile.ZipFile(folder).read("case.json"))["format"], "hematite-case")
        along, _ = assess_case(read_bundle(folder))
        self.assertEqual([c.hub for c in along.culprits], [c["hub"] for c in screen["culprits"]])
        for mine, shown in zip(along.culprits, screen["culprits"], strict=True):
            self.assertAlmostEqual(mine.probability, shown["probability"], delta=1e-3)  # the screen rounds
        self.assertEqual(along.culprits[0].hub, "A2L")
        folder.unlink()
