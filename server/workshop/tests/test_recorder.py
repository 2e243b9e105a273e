"""The recorder goes on without its screen, keeps what it has through a reload, and never leaves a microphone open."""

import re

from cases.services import open_case
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import Page, expect
from recordings.models import Recording

from workshop.tests.browser import BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data, wav

# The microphone takes its time to open; all that were ever opened are remembered.
SLOW = """
window.tracks = [];
const open = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
navigator.mediaDevices.getUserMedia = async (wanted) => {
    await new Promise((done) => setTimeout(done, 700));
    const stream = await open(wanted);
    window.tracks.push(...stream.getTracks());
    return stream;
};
"""


class Recorder(BrowserTestCase):
    """One person, one van, an open case, a microphone fed from a file."""

    def setUp(self) -> None:
        """Make them."""
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        self.case = open_case(self.user, add_vehicle(self.user, vehicle_data("Mobile reading room")).id, "")
        self.microphone.write_bytes(wav("sound", seconds=30))

    def at_the_recorder(self) -> Page:
        """Return the page where A1L is heard, signed in, the microphone chosen."""
        page = self.open()
        page.add_init_script(SLOW)
        self.sign_in(page)
        page.goto(f"/cases/{self.case.id}/hear?hub=A1L")
        page.get_by_role("radio", name="Microphone or pickup").click()
        return page

    def recording(self, page: Page, seconds: int) -> None:
        """Begin at A1L, and wait until it has run so long."""
        page.get_by_role("button", name="Record A1L").click()
        expect(page.get_by_role("timer")).to_have_text(re.compile(rf"^[{seconds}-9]\."))

    def open_tracks(self, page: Page) -> int:
        """Return how many microphones are live."""
        return page.evaluate("window.tracks.filter(track => track.readyState === 'live').length")

    def test_it_is_of_the_place_where_it_began(self) -> None:
        """Another hub chosen meanwhile, another screen, the yard: it goes on, and is kept where it was begun."""
        page = self.at_the_recorder()
        self.recording(page, 2)
        page.keyboard.press("4")
        page.wait_for_url("**hub=A2R")
        expect(page.get_by_label("Recorder")).to_contain_text("A1L")
        page.keyboard.press("w")
        page.keyboard.press("y")
        goes_on = page.get_by_label("Recording goes on")
        expect(goes_on).to_contain_text(re.compile(r"Recording at A1L, [4-9] s"))
        goes_on.get_by_role("link").click()
        expect(page.get_by_role("timer")).to_be_visible()
        page.keyboard.press("r")
        page.get_by_role("button", name="Stop and keep").click()
        expect(goes_on).to_have_count(0)
        page.keyboard.press("h")
        expect(page.get_by_label("Recording at A1L")).to_contain_text("Heard:", timeout=30_000)
        row = Recording.objects.get()
        self.assertEqual(row.place, "A1L")
        self.assertGreater(row.sound.duration_s, 4.0)
        self.assertEqual((self.open_tracks(page), self.faults), (0, []))

    def test_a_reload_leaves_what_there_was(self) -> None:
        """What was recorded up to then is offered, kept and heard at its place."""
        page = self.at_the_recorder()
        self.recording(page, 4)
        page.reload()
        offered = page.get_by_text(re.compile(r"A recording at A1L was cut off after [3-9] s"))
        expect(offered).to_be_visible()
        page.get_by_role("button", name="Keep it").click()
        expect(offered).to_have_count(0)
        expect(page.get_by_label("Recording at A1L")).to_contain_text("Heard:", timeout=30_000)
        self.assertGreater(Recording.objects.get().sound.duration_s, 2.9)
        page.reload()
        expect(page.get_by_label("Recording at A1L")).to_be_visible()
        expect(offered).to_have_count(0)

    def test_no_microphone_is_left_open(self) -> None:
        """Space twice while it opens, or leaving; a key held down is pressed once."""
        page = self.at_the_recorder()
        page.locator("h1").click()
        for _ in range(2):
            page.keyboard.press(" ")
        expect(page.get_by_role("button", name="Record A1L")).to_be_visible()
        opened = "window.tracks.length"
        for _ in range(50):
            if page.evaluate(opened) == 1 and not self.open_tracks(page):
                break
            page.wait_for_timeout(100)
        self.assertEqual((page.evaluate(opened), self.open_tracks(page)), (1, 0))
        page.keyboard.down(" ")
        for _ in range(5):
            page.keyboard.down(" ")
        page.keyboard.up(" ")
        expect(page.get_by_role("timer")).to_have_text(re.compile(r"^[1-9]\."))
        self.assertEqual(self.open_tracks(page), 1)
        page.keyboard.press(" ")
        expect(page.get_by_role("button", name="Take again")).to_be_visible(timeout=30_000)
        self.assertEqual((self.open_tracks(page), Recording.objects.count()), (0, 1))
