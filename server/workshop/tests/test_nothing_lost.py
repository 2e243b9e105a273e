"""Nothing entered is lost, nor entered by another: a cut line, a reload, two people, a failing server, no room."""

import uuid
from datetime import UTC, datetime, timedelta

from cases.models import Observation
from cases.services import observe, open_case
from django.contrib.sessions.models import Session
from django.utils import timezone
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import Page, Route, expect

from workshop.tests.browser import BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data

ENTRIES = "**/observations*"
NO_ROOM = """
const add = IDBObjectStore.prototype.add;
IDBObjectStore.prototype.add = function (...given) {
    if (window.roomy) return add.apply(this, given);
    throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
};
"""


class NothingLost(BrowserTestCase):
    """Two people of one workshop, a van, an open case."""

    def setUp(self) -> None:
        """Make them."""
        workshop = Workshop.objects.create(name="ours")
        self.user, self.colleague = (
            User.objects.create_user(name, password=PASSWORD, workshop=workshop) for name in ("ours", "col")
        )
        self.case = open_case(self.user, add_vehicle(self.user, vehicle_data("Mobile reading room")).id, "")

    def at(self, page: Page, path: str = "/test/spin?hub=A1L") -> None:
        """Go to a page of the case."""
        page.goto(f"/cases/{self.case.id}{path}")
        page.locator("h1").first.wait_for()

    def signed_in(self) -> Page:
        """Return a page at a test, signed in."""
        page = self.open()
        self.sign_in(page)
        self.at(page)
        return page

    def answer(self, page: Page, hub: str, words: str) -> None:
        """Answer at a hub; the screen goes on to the next one by itself."""
        group = page.get_by_role("radiogroup", name=f"Spun by hand: how it feels at {hub}")
        group.get_by_role("radio", name=words).click()

    def cut(self, route: Route) -> None:
        """Lose what is sent."""
        if route.request.method == "POST":
            route.abort("connectionreset")
        else:
            route.fallback()

    def stored(self) -> dict[str, tuple[str, str]]:
        """Return what the server has, by hub: the answer and who gave it."""
        rows = Observation.objects.filter(kind="spin", superseded_by=None)
        return {row.hub: (row.value["answer"], row.person.username) for row in rows}

    def assert_reached(self, page: Page, expected: dict[str, tuple[str, str]]) -> None:
        """Wait until the server has these, whatever else still waits: an answer is shown long before."""
        for _ in range(100):
            if self.stored() == expected:
                return
            page.wait_for_timeout(100)
        self.assertEqual(self.stored(), expected)

    def assert_stored(self, page: Page, expected: dict[str, tuple[str, str]]) -> None:
        """Wait until the server has these, each once, and nothing waits on the device."""
        self.all_sent(page)
        self.assertEqual(self.stored(), expected)
        self.assertEqual(Observation.objects.filter(kind="spin").count(), len(expected))

    def test_a_cut_line_and_a_reload(self) -> None:
        """Four answers without a line survive a reload and another tab, and are stored once each."""
        page = self.signed_in()
        self.context.route(ENTRIES, self.cut)
        for hub in ("A1L", "A1R", "A2R", "A2L"):  # as one walks
            self.answer(page, hub, "free, even and quiet")
        expect(page.get_by_text("4 entries are kept on this device")).to_be_visible()
        page.reload()
        expect(page.get_by_text("4 waiting")).to_be_visible()
        other = self.context.new_page()
        self.at(other)
        expect(other.get_by_text("4 waiting")).to_be_visible()
        self.assertEqual(self.stored(), {})
        self.context.unroute(ENTRIES)
        self.try_now(page)
        self.assert_stored(page, dict.fromkeys(("A1L", "A1R", "A2L", "A2R"), ("free", "ours")))
        expect(other.get_by_text("waiting")).to_have_count(0)

    def test_a_clock_that_is_two_hours_off(self) -> None:
        """What waited is logged in the order in which it was said, and as found when it was by the server's clock."""
        page = self.signed_in()
        page.clock.set_system_time(datetime.now(UTC) + timedelta(hours=2))
        page.route(ENTRIES, self.cut)
        began = timezone.now()
        self.answer(page, "A1L", "rumbles")
        self.answer(page, "A1R", "free, even and quiet")
        expect(page.get_by_text("2 waiting")).to_be_visible()
        said = timezone.now()
        page.wait_for_timeout(3000)
        page.unroute(ENTRIES)
        self.try_now(page)
        self.assert_stored(page, {"A1L": ("rumbles", "ours"), "A1R": ("free", "ours")})
        found = [row.found_at for row in Observation.objects.order_by("at")]
        self.assertEqual(found, sorted(found))
        for at in found:
            self.assertTrue(began - timedelta(seconds=1) < at < said + timedelta(seconds=1), (began, at, said))

    def test_signed_out_in_the_middle(self) -> None:
        """The server forgets who it is: one signs in on the spot, stays on the page, and goes on."""
        page = self.signed_in()
        Session.objects.all().delete()
        self.answer(page, "A1L", "rumbles")
        again = page.get_by_role("region", name="Sign in again")
        expect(again).to_contain_text("kept on this device and sent then")
        self.assertEqual(self.stored(), {})
        again.get_by_label("Name").fill("ours")
        again.get_by_label("Password").fill(PASSWORD)
        again.get_by_role("button", name="Sign in").click()
        expect(again).to_have_count(0)
        self.assert_stored(page, {"A1L": ("rumbles", "ours")})
        self.assertIn("/test/spin", page.url)

    def test_two_people_on_one_tablet(self) -> None:
        """What one left unsent is neither shown to the next nor sent in the next one's name."""
        page = self.signed_in()
        page.route(ENTRIES, self.cut)
        self.answer(page, "A1L", "rumbles")
        expect(page.get_by_text("1 waiting")).to_be_visible()
        page.get_by_role("button", name="Sign out").click()
        page.get_by_label("Name").wait_for()
        page.unroute(ENTRIES)
        self.sign_in(page, "col")
        self.at(page, "/test/spin?hub=A1R")
        self.answer(page, "A1R", "free, even and quiet")
        expect(page.get_by_role("button", name="A1R", exact=False).first).to_contain_text("free")
        self.assert_reached(page, {"A1R": ("free", "col")})
        page.get_by_role("button", name="Sign out").click()
        page.get_by_label("Name").wait_for()
        self.sign_in(page)
        self.assert_stored(page, {"A1L": ("rumbles", "ours"), "A1R": ("free", "col")})

    def test_somebody_else_signed_in_in_another_tab(self) -> None:
        """The tab that is left goes on as nobody: its entry waits, and is not logged in the other's name."""
        page = self.signed_in()
        other = self.context.new_page()
        other.goto("/")
        other.get_by_role("button", name="Sign out").click()
        other.get_by_label("Name").wait_for()
        self.sign_in(other, "col")
        self.answer(page, "A1L", "rumbles")
        expect(page.get_by_role("region", name="Sign in again")).to_be_visible()
        self.assertEqual(self.stored(), {})

    def test_a_server_that_fails_on_one(self) -> None:
        """Later entries go on; the one is tried again and can be let go."""
        page = self.signed_in()
        failing = [True]

        def first(route: Route) -> None:
            if failing[0] and '"A1L"' in (route.request.post_data or ""):
                route.fulfill(status=500, body="")
            else:
                route.fallback()

        page.route(ENTRIES, first)
        self.answer(page, "A1L", "rumbles")
        self.answer(page, "A1R", "free, even and quiet")
        expect(page.get_by_text("later entries go on")).to_be_visible()
        expect(page.get_by_role("button", name="Let it go")).to_be_visible()
        expect(page.get_by_role("button", name="A1R", exact=False).first).to_contain_text("free")
        self.assert_reached(page, {"A1R": ("free", "ours")})
        failing[0] = False
        self.try_now(page)
        self.assert_stored(page, {"A1L": ("rumbles", "ours"), "A1R": ("free", "ours")})

    def test_a_colleague_was_first(self) -> None:
        """Both answers are shown; the one that the person chooses stands."""
        data = {"hub": "A1L", "kind": "spin", "value": {"answer": "free"}, "withdrawn": False, "waited_s": 0}
        before = observe(self.colleague, self.case.id, observation_id=uuid.uuid4(), data=data)
        page = self.signed_in()
        expect(page.get_by_role("button", name="A1L", exact=False).first).to_contain_text("free")
        data |= {"value": {"answer": "grinds"}, "supersedes": before.id}
        observe(self.colleague, self.case.id, observation_id=uuid.uuid4(), data=data)
        self.answer(page, "A1L", "rumbles")
        expect(page.get_by_text("a colleague corrected the same entry meanwhile")).to_be_visible()
        expect(page.get_by_text("Theirs:")).to_contain_text("col")
        page.get_by_role("button", name="Mine counts").click()
        expect(page.get_by_text("a colleague corrected")).to_have_count(0)
        expect(page.get_by_role("button", name="A1L", exact=False).first).to_contain_text("rumbles")
        self.assert_reached(page, {"A1L": ("rumbles", "ours")})

    def test_no_room_on_the_device(self) -> None:
        """It is said that nothing is kept; what can be sent is sent all the same."""
        page = self.open()
        page.add_init_script(NO_ROOM)
        self.sign_in(page)
        self.at(page)
        page.route(ENTRIES, self.cut)
        self.answer(page, "A1L", "rumbles")
        expect(page.get_by_text("This device has no room left")).to_be_visible()
        page.unroute(ENTRIES)
        self.try_now(page)
        self.assert_stored(page, {"A1L": ("rumbles", "ours")})
        expect(page.get_by_text("no room left")).to_have_count(0)

    def test_a_link_is_kept_through_the_sign_in(self) -> None:
        """Who follows a link signed out arrives where it leads; a foreign address is not followed."""
        page = self.open()
        page.goto(f"/cases/{self.case.id}/test/spin?hub=A2L")
        for to, lands in (("", f"/cases/{self.case.id}/test/spin?hub=A2L"), ("/sign-in?to=//elsewhere.invalid/", "/")):
            if to:
                page.get_by_role("button", name="Sign out").click()
                page.goto(to)
            page.get_by_label("Name").fill("ours")
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.get_by_role("button", name="Sign out").wait_for()
            page.wait_for_url(f"{self.live_server_url}{lands}")
