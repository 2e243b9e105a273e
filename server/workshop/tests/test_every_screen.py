"""Every screen of the demo, in both lights and on a phone: accessible, no wider than it, nothing from elsewhere."""

import gzip
import re
from pathlib import Path

from cases.models import Observation
from cases.services import open_case
from demo.services import load
from django.conf import settings
from django.test import override_settings
from garage.services import add_vehicle
from people.demo import SIGN_IN
from people.models import User, Workshop
from playwright.sync_api import expect
from verdicts.models import Verdict

from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data

STAGES = ("", "?hub=A1R", "/hear", "/bench", "/lift", "/rock", "/spin", "/do", "/prove", "/owner", "/sums?hub=A1R",
          "/open?hub=A1R&part=outer_cup", "/decide",
          "/why?hub=A1R", "/guide", "/test/complaint", "/test/heat?hub=A1R", "/test/rock_3_9?hub=A1L")  # fmt: skip
WIRE_LIMIT = 150_000  # bytes of JavaScript at the first load


@override_settings(DEMO=True)  # else its person may not sign in
class EveryScreen(BrowserTestCase):
    """The demo, walked through."""

    def setUp(self) -> None:
        """Load the demo."""
        load()

    def enter(self, page) -> None:
        """Sign in to the demo."""
        page.goto("/sign-in")
        page.get_by_label("Name").fill(SIGN_IN["username"])
        page.get_by_label("Password").fill(SIGN_IN["password"])
        self.assert_accessible(page, "sign-in")
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="open cases").wait_for()

    def test_accessible_in_both_lights(self) -> None:
        """axe-core finds nothing serious on any screen, and no phone screen scrolls sideways."""
        page = self.open()
        self.enter(page)
        heritage = page.locator("a[href^='/cases/']", has_text="Heritage display van").first.get_attribute("href")
        vehicle = page.get_by_role("region", name="Vehicles").get_by_role("link").nth(1).get_attribute("href")
        verdict = f"/verdicts/{Verdict.objects.filter(choice='adjust').latest('at').id}"
        addresses = [
            "/",
            "/vehicles/new",
            vehicle,
            *(f"{vehicle}/{room}" for room in ("bearings", "trend", "logbook", "road")),
            f"{vehicle}/logbook/table",
            "/due",
            "/fleet",
            "/practice",
            "/practice/listen",
            "/practice/group",
            "/people",
            "/me",
            "/phone",
            "/keeping",
            "/bundles",
            "/policy",
            verdict,
            *(f"{heritage}{stage}" for stage in STAGES),
        ]
        for address in addresses:  # opened once each: most of the time goes into opening
            page.set_viewport_size(DESKTOP)
            page.goto(str(address))
            page.locator("h1, h2").first.wait_for()
            for light in ("day", "under"):
                page.evaluate("light => { document.documentElement.dataset.light = light; }", light)
                self.assert_accessible(page, f"{address} in {light}")
            page.set_viewport_size(PHONE)
            self.settle(page)
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"], address)
        self.assertEqual(self.faults, [])


class FirstSteps(BrowserTestCase):
    """What needs no demo: the first load, and the keys."""

    def setUp(self) -> None:
        """Make a person with an open case."""
        user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        self.case = open_case(user, add_vehicle(user, vehicle_data("Mobile reading room")).id, "Growl")

    def test_first_load_is_small_and_stays_at_home(self) -> None:
        """At most 150 kB of JavaScript over the wire, and no request leaves the origin."""
        page = self.open()
        asked: list[str] = []
        page.on("request", lambda request: asked.append(request.url))
        page.goto("/")
        page.wait_for_load_state("networkidle")
        home = self.live_server_url
        self.assertEqual([url for url in asked if not url.startswith((home, "data:", "blob:"))], [])
        scripts = {url.removeprefix(home) for url in asked if url.endswith(".js")}
        files = [Path(settings.WEB_BUILD) / script.lstrip("/") for script in scripts]
        self.assertTrue(files)
        self.assertLessEqual(sum(len(gzip.compress(file.read_bytes())) for file in files), WIRE_LIMIT)

    def test_a_case_that_nobody_changes_is_fetched_once(self) -> None:
        """Then it is asked for its state alone, until somebody else logs something: that is shown within seconds."""
        page = self.open()
        self.sign_in(page)
        asked: list[str] = []
        page.on("request", lambda request: asked.append(request.url.rsplit("/", 1)[-1]))
        page.goto(f"/cases/{self.case.id}")
        page.locator("h1").first.wait_for()
        page.wait_for_timeout(7000)
        self.assertEqual((asked.count("assessment"), asked.count("recordings")), (1, 1))
        self.assertIn(asked.count("state"), (1, 2))
        Observation.objects.create(
            case=self.case, hub="A1R", kind="spin", value={"answer": "grinds"}, person=self.case.opened_by
        )
        expect(page.get_by_label("Log").get_by_text("grinds")).to_be_visible(timeout=8000)

    def test_back_to_another_case(self) -> None:
        """Two steps back from one case to another: the address, the screen and its title are the other's."""
        user = self.case.opened_by
        other = open_case(user, add_vehicle(user, vehicle_data("Book trailer", design="taper_castle")).id, "Hum")
        page = self.open()
        self.sign_in(page)
        page.goto(f"/cases/{self.case.id}/spin?hub=A1R")
        expect(page).to_have_title("Spin A1R, Mobile reading room · Hematite")
        page.get_by_role("link", name="Hematite").click()
        page.get_by_role("region", name="Open cases").get_by_role("link", name="Book trailer").click()
        expect(page.get_by_role("heading", name="Book trailer")).to_be_visible()
        page.evaluate("history.go(-2)")
        expect(page).to_have_title("Spin A1R, Mobile reading room · Hematite")
        page.get_by_role("radio", name="rumbles").click()
        expect(page.get_by_role("button", name=re.compile("A1R"))).to_contain_text("rumbles")
        self.all_sent(page)
        self.assertEqual([row.case_id for row in Observation.objects.filter(kind="spin")], [self.case.id])
        self.assertFalse(other.observations.filter(kind="spin").exists())

    def test_keyboard_help(self) -> None:
        """`?` lists the keys, and a stage is one key away."""
        page = self.open()
        self.sign_in(page)
        page.goto(f"/cases/{self.case.id}")
        page.get_by_role("heading", name="Mobile reading room").wait_for()
        page.keyboard.press("?")
        dialog = page.get_by_role("dialog")
        dialog.wait_for()
        self.assertIn("Walkround", dialog.inner_text())
        page.keyboard.press("Escape")
        dialog.wait_for(state="hidden")
        page.keyboard.press("r")
        page.get_by_role("heading", name="Rock").wait_for()
