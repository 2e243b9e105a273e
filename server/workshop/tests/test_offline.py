"""Without the server, and over a line that drops what it carries: the app opens, takes entries, and loses none."""

import io
from collections import Counter
from contextlib import suppress
from pathlib import Path

import numpy as np
import soundfile
from cases.models import Observation
from cases.services import open_case
from django.test import override_settings
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import Error as BrowserError
from playwright.sync_api import Page, expect
from recordings.models import Recording

from workshop.tests.browser import PHONE, BrowserTestCase
from workshop.tests.link import Link
from workshop.tests.people import PASSWORD, vehicle_data, wav

CONTROLLED = "navigator.serviceWorker.ready.then(() => navigator.serviceWorker.controller !== null)"
MANY, CRASHES = 200, 3
HUBS = ("A1L", "A1R", "A2L", "A2R")


class Offline(BrowserTestCase):
    """A mechanic whose line to the server is cut, or bad."""

    def setUp(self) -> None:
        """Make the mechanic, a case, and the line."""
        self.microphone.write_bytes(wav("outer_race", seconds=20.0))
        user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        self.case = open_case(user, add_vehicle(user, vehicle_data("Mobile reading room")).id, "Growl")
        self.link = Link(self.server_thread.host, self.server_thread.port, seed=5)
        self.addCleanup(self.link.close)

    def signed_in(self, **options: object) -> Page:
        """Return a page at the case, over the line."""
        page = self.open(base_url=self.link.url, service_workers="allow", **options)
        self.sign_in(page)
        page.goto(f"/cases/{self.case.id}")
        page.locator("h1").first.wait_for()
        return page

    def test_opens_and_takes_entries_without_the_server(self) -> None:
        """It opens from the device, says so, keeps an answer and a recording, and sends both when the line is back."""
        page = self.signed_in(size=PHONE)
        page.wait_for_function(CONTROLLED)
        for path in ("", "/test/spin?hub=A1L", "/hear?hub=A1L"):
            page.goto(f"/cases/{self.case.id}{path}")
            page.locator("h1").first.wait_for()
            self.settle(page)
        self.link.cut()
        page.goto(f"/cases/{self.case.id}/test/spin?hub=A1L")
        expect(page.get_by_text("what this device saw last")).to_be_visible()
        page.get_by_role("radiogroup", name="Spun by hand: how it feels at A1L").get_by_role(
            "radio", name="rumbles"
        ).click()
        expect(page.get_by_text("1 waiting")).to_be_visible()
        page.goto(f"/cases/{self.case.id}/hear?hub=A1L")
        page.get_by_role("button", name="Record").click()
        page.wait_for_timeout(3000)
        page.get_by_role("button", name="Stop").first.click()
        expect(page.get_by_text("2 waiting")).to_be_visible()
        page.reload()
        expect(page.get_by_text("2 waiting")).to_be_visible()
        self.assertEqual((Observation.objects.filter(kind="spin").count(), Recording.objects.count()), (0, 0))
        self.link.up = True
        self.try_now(page)
        expect(page.get_by_role("status").filter(has_text="waiting")).to_have_count(0)
        self.assertEqual(Observation.objects.get(kind="spin").value["answer"], "rumbles")
        self.assertEqual(Recording.objects.get().place, "A1L")
        page.reload()
        expect(page.get_by_text("what this device saw last")).to_have_count(0)

    @override_settings(TASKS={"default": {"BACKEND": "django_tasks.backends.dummy.DummyBackend"}})
    def test_two_hundred_recordings_over_a_bad_line(self) -> None:
        """The line drops one piece in forty and is cut, the page crashes three times: each is kept once, at its hub."""
        page = self.signed_in()
        page.goto(f"/cases/{self.case.id}/hear?hub=A1L")
        page.get_by_role("radio", name="A file").click()
        page.get_by_role("radio", name="Wheel turns a second").click()
        page.get_by_label("How fast").fill("8")
        page.get_by_label("Choose one file or many").set_input_files(self.sounds())
        self.link.loss = 1 / 40
        page.get_by_role("button", name=f"Send {MANY} files").click()
        expect(page.get_by_text("You may leave this page")).to_be_visible(timeout=60_000)
        for _ in range(CRASHES):
            page.wait_for_timeout(2500)
            page = self.crashed(page)
        self.link.cut()
        page.wait_for_timeout(500)
        self.link.up = True
        self.until(lambda: Recording.objects.count() >= MANY, "the server has them all", seconds=240)
        self.all_sent(page)
        kept = Recording.objects.select_related("sound")
        self.assertEqual(Counter(row.place for row in kept), Counter({hub: MANY // len(HUBS) for hub in HUBS}))
        self.assertEqual(len({row.sound.sha256 for row in kept}), MANY)
        said = Counter((row.place, HUBS[round(row.sound.duration_s * 1000) % len(HUBS)]) for row in kept)
        self.assertTrue(all(place == meant for place, meant in said), said)
        self.assertGreater(self.link.dropped, MANY // 40)

    def sounds(self) -> list[str]:
        """Return files that a hub's name is in; their length says which, too."""
        names = []
        for n in range(MANY):
            buffer, hiss = io.BytesIO(), np.random.default_rng(n).standard_normal(8 * (1000 + n)) * 0.1
            soundfile.write(buffer, hiss, 8000, format="WAV", subtype="PCM_16")
            names.append(str(Path(self.folder.name) / f"{n}-{HUBS[(1000 + n) % len(HUBS)]}.wav"))
            Path(names[-1]).write_bytes(buffer.getvalue())
        return names

    def crashed(self, page: Page) -> Page:
        """Crash a page as a tab does that runs out of memory, and return the case in a new one."""
        with suppress(BrowserError):
            page.goto("chrome://crash", timeout=3000)
        after = self.context.new_page()
        for _ in range(20):  # the page itself may be what the line drops
            with suppress(BrowserError):
                after.goto(f"/cases/{self.case.id}", timeout=5000)
                after.locator("h1").first.wait_for(timeout=3000)
                break
        page.close()
        return after
