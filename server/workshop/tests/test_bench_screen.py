"""The listening bench in a real browser: marked while recording, many files at once, seen, heard, marked afterwards."""

import re
from pathlib import Path

from cases.services import open_case
from garage.services import add_vehicle
from hematite.recordings import decode, encode_flac, encode_wav
from hematite.recordings.decoding import Recording as Sound
from hematite.simulator.scenes import Scene, Trouble, record, road_run
from hematite.vehicles import Axle, Hub, Vehicle
from people.models import User, Workshop
from playwright.sync_api import Locator, Page, expect
from recordings.models import Analysis, Recording

from workshop.tests.browser import PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data, wav

BENDS = [
    {"start_s": 3.0 * n, "end_s": 3.0 * (n + 1), "state": state, "speed_kmh": 57.0}
    for n, state in enumerate(("straight", "left", "right", "left", "right"))
]


def bends() -> Sound:
    """Return a cabin run whose left front hub is worn."""
    hubs = tuple(Hub(f"A1{s[0].upper()}", s, "hub_unit") for s in ("left", "right"))
    scene = Scene(Vehicle((Axle(hubs, driven=True),)), {"A1L": "outer_race"}, Trouble(leak_db=-3.0), seed=5)
    return record(scene, road_run(rate=48_000, segments=BENDS, circumference_m=2.0, seed=5), place="cabin", number=0)


class Bench(BrowserTestCase):
    """One person, one van, an open case."""

    def setUp(self) -> None:
        """Make them."""
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        vehicle = add_vehicle(self.user, vehicle_data("Mobile reading room"))
        self.case = open_case(self.user, vehicle.id, "Growl")

    def at(self, path: str, **more: object) -> Page:
        """Return a page of the case, signed in."""
        page = self.open(**more)
        self.sign_in(page)
        page.goto(f"/cases/{self.case.id}{path}")
        return page

    def files(self, sounds: dict[str, bytes]) -> list[str]:
        """Write files and return their names."""
        for name, data in sounds.items():
            (Path(self.folder.name) / name).write_bytes(data)
        return [str(Path(self.folder.name) / name) for name in sounds]

    def drag(self, page: Page, wave: Locator) -> None:
        """Drag across the last third of a waveform."""
        box = wave.bounding_box()
        assert box
        page.mouse.move(box["x"] + 0.7 * box["width"], box["y"] + 30)
        page.mouse.down()
        page.mouse.move(box["x"] + 0.95 * box["width"], box["y"] + 30, steps=8)
        page.mouse.up()

    def test_marks_while_recording_and_afterwards(self) -> None:
        """Guided: what to do, a count-in, marks by key; then a stretch dragged out on the waveform is marked."""
        self.microphone.write_bytes(encode_wav(bends()))
        page = self.at("/hear?hub=A1L")
        page.get_by_role("radio", name="On the road, heard in the cabin").click()
        expect(page.get_by_text("mark each as it begins")).to_be_visible()
        page.get_by_role("radio", name="Not known").click()
        page.get_by_role("checkbox", name=re.compile("Count me in")).click()
        page.get_by_role("button", name="Record in the cabin").click()
        expect(page.get_by_role("button", name="Call it off")).to_be_visible()
        timer = page.get_by_role("timer")
        expect(timer).to_have_text(re.compile(r"^1\."), timeout=20_000)
        page.keyboard.press("ArrowUp")
        expect(timer).to_have_text(re.compile(r"^4\."), timeout=20_000)
        page.get_by_role("button", name="Left bend").click()
        expect(timer).to_have_text(re.compile(r"^7\."), timeout=20_000)
        page.get_by_role("button", name="Stop").click()
        expect(page.get_by_role("button", name=re.compile("^Keep")).first).to_be_visible(timeout=20_000)
        row = Recording.objects.get()
        self.assertEqual((row.place, [s["state"] for s in row.segments]), ("cabin", ["straight", "left"]))
        page.goto(f"/cases/{self.case.id}/bench")
        wave = page.get_by_role("img", name=re.compile("Sound of cabin"))
        expect(page.get_by_text("Fetching the sound")).to_be_hidden(timeout=20_000)
        expect(page.get_by_role("button", name="Play")).to_be_enabled(timeout=20_000)
        chosen = page.get_by_text(re.compile(r"^chosen \d"))
        for _ in range(3):  # while the picture is still being drawn, a busy machine may swallow a drag
            self.drag(page, wave)
            if chosen.is_visible():
                break
            page.wait_for_timeout(1000)
        expect(chosen).to_be_visible()
        marks = page.get_by_role("group", name="Mark the chosen stretch as")
        with page.expect_response(re.compile("/made$")) as answer:
            marks.get_by_role("button", name="Right bend").click()
            page.get_by_role("button", name="Rough").click()  # at once: the first is not stored yet
        self.assertTrue(answer.value.ok, answer.value.text())
        expect(page.get_by_text("Fetching the sound")).to_be_hidden(timeout=20_000)
        for _ in range(60):  # it is heard again; nothing on the screen waits for that
            row.refresh_from_db()
            if len(row.former) == 2 and Analysis.objects.get(recording=row).state == "done":
                break
            page.wait_for_timeout(500)
        self.assertIn(("right", "rough"), [(s["state"], s["surface"]) for s in row.segments])
        self.assertEqual(len(row.former), 2)

    def test_many_files_sorted_seen_and_heard(self) -> None:
        """Four files at once, sorted by name, one put right; then played, looped, soloed, overlaid and exported."""
        sounds = {
            "front-left.flac": encode_flac(decode(wav("outer_race"))),
            "A1R.wav": wav("sound", seed=2),
            "rear left.wav": wav("sound", seed=3),
            "run 17.wav": wav("sound", seed=4),
        }
        page = self.at("/hear?hub=A1L")
        page.get_by_role("radio", name="A file").click()
        page.get_by_role("radio", name="Wheel turns a second").click()
        page.get_by_label("How fast").fill("8")
        page.get_by_label("Choose one file or many").set_input_files(self.files(sounds))
        sorter = page.get_by_role("region", name="Sort the files")
        expect(sorter.get_by_label("Place of front-left.flac: A1L")).to_be_visible()
        expect(sorter.get_by_label("Place of rear left.wav: A2L")).to_be_visible()
        sorter.get_by_label("Place of run 17.wav: Leave it out").click()
        page.get_by_role("option", name="A2R").click()
        sorter.get_by_role("button", name="Send 4 files").click()
        expect(sorter).to_be_hidden(timeout=30_000)
        self.assertEqual(Recording.objects.count(), 4)
        page.get_by_role("link", name="Listening bench").click()
        page.wait_for_url("**/bench*")  # the screen before has a button of that name too
        page.get_by_role("button", name=re.compile("A1L")).click()
        expect(page.get_by_text("a mark on the outer race, unless engine")).to_be_visible()
        expect(page.get_by_text("Fetching the sound")).to_be_hidden(timeout=20_000)
        expect(page.get_by_role("button", name="Play")).to_be_enabled(timeout=20_000)
        page.keyboard.press(" ")
        expect(page.get_by_role("button", name="Pause")).to_be_visible()
        page.keyboard.press("v")
        recordings = page.get_by_role("navigation", name="Recordings")
        expect(recordings.get_by_role("listitem")).to_have_count(4)  # once all are heard there is another to switch to
        corner = recordings.get_by_role("button", name=re.compile("A1L"))
        page.keyboard.press("n")  # the next corner, at the same moment, still playing
        expect(corner).to_have_attribute("aria-pressed", "false")
        expect(page.get_by_role("button", name="Pause")).to_be_visible(timeout=20_000)
        page.keyboard.press("m")
        expect(corner).to_have_attribute("aria-pressed", "true")
        page.keyboard.press("b")
        expect(page.get_by_role("button", name="Hearing only the band")).to_be_visible()
        page.get_by_label("Band from").fill("9000")
        page.get_by_label("to", exact=True).fill("200")
        expect(page.get_by_text("the lower one first")).to_be_visible()
        page.keyboard.press("Tab")
        page.get_by_label("Band from").fill("2000")
        page.get_by_label("to", exact=True).fill("4000")
        page.get_by_role("button", name="All corners on one plot").click()
        expect(page.get_by_label("Which line is which").first.get_by_role("listitem")).to_have_count(4)
        page.keyboard.press("c")
        for corner in ("A1L", "A1R", "A2L", "A2R"):
            expect(page.get_by_label(f"Order spectrum of {corner}")).to_be_visible()
        with page.expect_download() as drawn:
            page.get_by_role("button", name="Picture").click()
        self.assertEqual(Path(drawn.value.path()).read_bytes()[:4], b"\x89PNG")
        page.get_by_text("The numbers").first.click()
        expect(page.get_by_text(re.compile("1 in ")).first).to_be_visible()
        with page.expect_download() as saved:
            page.get_by_role("link", name="UFF").click()
        self.assertTrue(saved.value.suggested_filename.endswith(".uff"))
        self.assertEqual(self.faults, [])

    def test_on_a_phone(self) -> None:
        """Nothing is wider than the screen, and an empty bench says what it is for."""
        page = self.at("/bench", size=PHONE)
        expect(page.get_by_role("link", name="Record the first")).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
