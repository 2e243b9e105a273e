"""The listening bench: marked stretches, corrections, single bands, other formats in and out."""

import io
import json

import numpy as np
import soundfile
from django.core.files.uploadedfile import SimpleUploadedFile
from hematite.recordings import decode, encode_uff
from hematite.simulator.scenes import Scene, Trouble, record, road_run
from hematite.vehicles import Axle, Hub, Vehicle
from workshop.tests.people import AGAIN, WorkshopTestCase, wav

from recordings.models import Analysis, Recording

SEGMENTS = [
    {"start_s": 3.0 * n, "end_s": 3.0 * (n + 1), "state": state, "speed_kmh": 57.0}
    for n, state in enumerate(("straight", "left", "right", "left", "right", "coast"))
]


def bends() -> bytes:
    """Return a road run with a worn front left hub, as heard in the cabin."""
    hubs = tuple(Hub(f"A1{s[0].upper()}", s, "hub_unit") for s in ("left", "right"))
    scene = Scene(Vehicle((Axle(hubs, driven=True),)), {"A1L": "outer_race"}, Trouble(leak_db=-3.0), seed=5)
    drive = road_run(rate=16_000, segments=SEGMENTS, circumference_m=2.0, seed=5)
    sound = record(scene, drive, place="cabin", number=0)
    packed = io.BytesIO()
    soundfile.write(packed, sound.samples, sound.rate, format="WAV", subtype="PCM_16")
    return packed.getvalue()


class Bench(WorkshopTestCase):
    """What the bench asks of the server."""

    def one(self, answer) -> dict:
        """Return the recording that an answer speaks of, heard."""
        return self.client.get(f"/api/recordings/{answer.json()['id']}").json()

    def test_bends_name_the_side(self) -> None:
        """A cabin run with marked bends: louder in right-hand ones, so a left hub is suspected."""
        speed = {"kind": "unknown"}
        made = {"place": "cabin", "sensor": "air", "situation": "road", "speed": speed, "segments": SEGMENTS}
        heard = self.one(self.record("cabin", bends(), **made))
        load = next(test for test in heard["road"] if test["kind"] == "load")
        self.assertGreater(load["db"], 3)
        self.assertTrue(load["surely"])
        self.assertIn("right-hand bends", load["words"])
        judged = self.client.get(f"/api/cases/{self.case.id}/assessment").json()["hubs"]
        self.assertGreater(judged["A1L"]["bearing_fault"], 2 * judged["A1R"]["bearing_fault"])

    def test_marks_dragged_afterwards(self) -> None:
        """Marks set later are kept, the old statement stays beside them, and it is heard again."""
        made = {"place": "cabin", "sensor": "air", "situation": "road", "speed": {"kind": "unknown"}}
        first = self.one(self.record("cabin", bends(), **made))
        self.assertEqual(first["road"], [])
        with self.captureOnCommitCallbacks(execute=True):
            self.send(f"recordings/{first['id']}/made", made | {"segments": SEGMENTS})
        self.assertTrue(self.client.get(f"/api/recordings/{first['id']}").json()["road"])
        self.assertEqual(Recording.objects.get().former[0]["segments"], [])

    def test_a_wrong_mark_is_refused(self) -> None:
        """A stretch that ends before it starts, in words; nothing changes."""
        first = self.one(self.record("A1L", wav()))
        segments = [{"start_s": 5.0, "end_s": 2.0, "state": "left"}]
        answer = self.send(f"recordings/{first['id']}/made", {"place": "A1L", "segments": segments})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Mark it again", answer.json()["message"])
        self.assertEqual(Recording.objects.get().former, [])

    def test_moved_to_another_hub(self) -> None:
        """A file sorted to the wrong corner is put right, and the other corner is accused instead."""
        first = self.one(self.record("A1R", wav("outer_race")))
        with self.captureOnCommitCallbacks(execute=True):
            speed = {"kind": "wheel", "turns_per_s": 8.0}
            self.send(f"recordings/{first['id']}/made", {"place": "A2L", "gain_group": "g", "speed": speed})
        judged = self.client.get(f"/api/cases/{self.case.id}/assessment").json()
        self.assertEqual(judged["decision"]["hub"], "A2L")

    def test_a_band_alone(self) -> None:
        """The band is heard alone at a common loudness, seen per wheel turn, and a band that is none is refused."""
        first = self.one(self.record("A1L", wav("outer_race")))
        path = f"/api/recordings/{first['id']}"
        sound = decode(self.client.get(f"{path}/band?low_hz=2000&high_hz=4000").content)
        power = np.square(np.abs(np.fft.rfft(sound.samples)))
        freqs = np.arange(len(power)) * sound.rate / len(sound.samples)
        self.assertGreater(power[(freqs > 1900) & (freqs < 4100)].sum() / power.sum(), 0.99)
        self.assertAlmostEqual(float(np.sqrt(np.mean(sound.samples**2))), 0.1, delta=0.03)
        plot = self.client.get(f"{path}/plot?low_hz=2000&high_hz=4000").json()
        self.assertGreater(len(plot["orders"]), 100)
        refused = self.client.get(f"{path}/band?low_hz=4000&high_hz=2000")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("no band", refused.json()["message"])

    def test_formats_out(self) -> None:
        """WAV, FLAC and UFF give back the sound; CSV has every line; JSON what was heard and by which core."""
        first = self.one(self.record("A1L", wav("outer_race")))
        path = f"/api/recordings/{first['id']}/export"
        sent = decode(wav("outer_race")).samples
        for form in ("wav", "flac", "uff"):
            answer = self.client.get(f"{path}/{form}")
            self.assertIn(f".{form}", answer["Content-Disposition"])
            back = decode(answer.content).samples
            self.assertEqual(len(back), len(sent))
            self.assertGreater(float(np.corrcoef(back, sent)[0, 1]), 0.9999, form)
        self.assertIn(b"outer_race", self.client.get(f"{path}/csv").content)
        self.assertTrue(json.loads(self.client.get(f"{path}/json").content)["core_version"])

    def test_formats_in(self) -> None:
        """OGG, MP3, a CSV log and a universal file are kept as they came, heard, and played back."""
        sound = decode(wav("outer_race"))
        files = {"uff": encode_uff(sound.samples, rate=sound.rate, name="A1L")}
        for form, kind in (("OGG", "ogg"), ("MP3", "mp3")):
            packed = io.BytesIO()
            soundfile.write(packed, sound.samples, sound.rate, format=form)
            files[kind] = packed.getvalue()
        times = np.arange(len(sound.samples)) / sound.rate
        rows = "\n".join(f"{t:.7f},{v * 200:.5f}" for t, v in zip(times, sound.samples, strict=True))
        files["csv"] = f"time [s],a [m/s2]\n{rows}".encode()
        for kind, data in files.items():
            with self.subTest(kind):
                heard = self.one(self.record("A1L", data))
                self.assertEqual(max(heard["families"], key=lambda f: f["strength"])["kind"], "outer_race")
                played = self.client.get(f"/api/recordings/{heard['id']}/audio")
                self.assertTrue(played["Content-Type"].startswith("audio/"))

    def test_speed_logs(self) -> None:
        """A CSV log is read to points and nothing is stored; nonsense is refused in words."""
        log = SimpleUploadedFile("speed.csv", b"time,km/h\n0,40\n1,44\n2,48\n")
        self.assertEqual(self.client.post("/api/speed-logs", {"log": log}).json()["points"][-1], [2.0, 48.0])
        refused = self.client.post("/api/speed-logs", {"log": SimpleUploadedFile("x.csv", b"nothing")})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("hardly any points", refused.json()["message"])

    def test_a_logged_speed_serves(self) -> None:
        """A profile from a log gives the order spectrum its axis, as a stated speed does."""
        points = [[float(t), 57.6] for t in range(8)]
        speed = {"kind": "profile", "points": points}
        heard = self.one(self.record("A1L", wav("outer_race"), speed=speed))
        self.assertGreater(heard["turns_per_s"], 4)

    def test_a_closed_case_is_not_corrected(self) -> None:
        """What was decided on stays as it was."""
        first = self.one(self.record("A1L", wav()))
        self.send(f"cases/{self.case.id}/finish", {"outcome": "done", "rechecks": [AGAIN], "unproven_because": "x"})
        answer = self.send(f"recordings/{first['id']}/made", {"place": "A1R"})
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "closed"))

    def test_no_other_form(self) -> None:
        """An export that does not exist is refused, and so is one of what was not heard yet."""
        first = self.one(self.record("A1L", wav()))
        self.assertEqual(self.client.get(f"/api/recordings/{first['id']}/export/doc").status_code, 422)
        Analysis.objects.update(state="waiting", heard=None)
        answer = self.client.get(f"/api/recordings/{first['id']}/export/json")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "not_heard"))
