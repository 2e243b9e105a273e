"""At arm's length: what answers stands in reach at both sizes, zoomed, and in the reader's own colours."""

from cases.models import Observation
from cases.services import open_case
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import Page, expect

from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data

# Every screen that takes something in: its first answer, and what finishes it.
CAPTURE = (
    ("/test/complaint", ("checkbox", "growl"), ("button", "Log what the driver says")),
    ("/spin?hub=A1L", ("radio", "free, even and quiet"), ("button", "Next hub")),
    ("/spin?hub=A1L&test=coast_down", ("radio", "runs down like its mate"), ("button", "Log the figures")),
    ("/rock?hub=A1L", ("radio", "nothing moved"), ("button", "Next hub")),
    ("/rock?hub=A1L&test=end_play", ("textbox", "Reading 1"), ("button", "Log readings")),
    ("/rock?hub=A1L&test=lever", ("radio", "hardly any movement"), ("button", "Log the figures")),
    ("/test/spring_touch?hub=A1L", ("radio", "nothing felt"), ("button", "Next hub")),
    ("/test/heat?hub=A1L", ("radio", "about as cool as its mate"), ("button", "Log the figures")),
    ("/hear?hub=A1L", ("button", "Record A1L"), ("button", "Record A1L")),
    ("/open?hub=A2L", ("button", ""), ("button", "Next part")),
    ("/lift", ("checkbox", ""), ("button", "It stands safe")),
    ("/decide?hub=A1L", ("button", "Accept: "), ("button", "Accept")),
)
FIELDS_TOO = "main :is([role=radio], [role=checkbox], input:not([type=hidden]):not(.sr-only))"


class WithinReach(BrowserTestCase):
    """One person, one van, an open case."""

    def setUp(self) -> None:
        """Make them."""
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        vehicle = add_vehicle(self.user, vehicle_data("Mobile reading room", "taper_castle"))
        self.case = open_case(self.user, vehicle.id, "Growl")

    def at(self, path: str, **more: object) -> Page:
        """Return a page of the case, signed in."""
        page = self.open(**more)
        self.sign_in(page)
        self.go(page, path)
        return page

    def go(self, page: Page, path: str) -> None:
        """Open a screen of the case."""
        page.goto(f"/cases/{self.case.id}{path}")
        page.locator("h1").first.wait_for()

    def test_at_arms_length_on_a_phone(self) -> None:
        """The first answer lies over the thumb, big enough for a glove; the chrome takes little, no key is printed."""
        page = self.at("", size=PHONE)
        for path, (role, name), _ in CAPTURE:
            self.go(page, path)
            within = page.locator("main section[aria-label^='Finds']") if path.startswith("/open") else page
            box = within.get_by_role(role, name=name).first.bounding_box()
            with self.subTest(path):
                self.assertLess(box["y"] + box["height"], PHONE["height"] - 48)
                if "decide" not in path:  # which is not answered in a row with gloves on
                    self.assertLess(box["y"], 700)
                    self.assertGreaterEqual(box["height"], 48 if role in ("textbox", "checkbox") else 56)
        self.assertEqual(page.locator("kbd:visible").count(), 0)
        bars = (page.locator("header"), page.get_by_role("navigation", name="Stages of the work"))
        self.assertLessEqual(sum(bar.bounding_box()["height"] for bar in bars), 95)
        self.assertEqual(self.faults, [])

    def test_a_whole_capture_screen_fits_on_a_desk(self) -> None:
        """At 1280 x 800 every answer and what finishes it are in sight at once: nothing is scrolled for."""
        page = self.at("")
        for path, _, (role, name) in CAPTURE:
            self.go(page, path)
            last = page.get_by_role(role, name=name).first
            last.wait_for()
            lowest = page.locator(FIELDS_TOO).evaluate_all(
                "(all) => Math.max(0, ...all.filter((one) => one.checkVisibility() && !one.closest('details'))"
                ".map((one) => one.getBoundingClientRect().bottom))"
            )
            box = last.bounding_box()
            with self.subTest(path):
                self.assertLessEqual(round(max(lowest, box["y"] + box["height"])), DESKTOP["height"])
        self.assertEqual(self.faults, [])

    def test_at_twice_the_size(self) -> None:
        """Zoomed to 200 %, a desk is 640 by 400: everything is there, nothing is cut off or slides sideways."""
        page = self.at("", size={"width": 640, "height": 400})
        for path in ("", "/bench", "/guide", *(path for path, _, _ in CAPTURE)):
            self.go(page, path)
            self.settle(page)
            with self.subTest(path):
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 640)
        page.goto(f"/cases/{self.case.id}/spin?hub=A1L")
        page.get_by_role("radio", name="rumbles").click()
        expect(page.get_by_role("button", name="A1L")).to_contain_text("rumbles")
        self.assertEqual(self.faults, [])

    def test_in_the_reader_s_own_colours_and_without_motion(self) -> None:
        """Where colours are forced a chosen answer is still told from the others; where motion is not liked none is."""
        page = self.at("/spin?hub=A1L", forced_colors="active", reduced_motion="reduce")
        chosen, other = (page.get_by_role("radio", name=name) for name in ("rumbles", "drags"))
        chosen.click()
        expect(page.get_by_role("heading", name="Spin")).to_contain_text("A1R")
        page.get_by_role("button", name="A1L").click()
        expect(chosen).to_be_checked()
        outline = "(one) => getComputedStyle(one).outlineStyle + getComputedStyle(one).outlineWidth"
        self.assertEqual(chosen.evaluate(outline), "solid3px")
        self.assertNotEqual(other.evaluate(outline), "solid3px")
        slowest = page.evaluate(
            "Math.max(...[...document.querySelectorAll('*')].flatMap((one) => {"
            " const style = getComputedStyle(one);"
            " return [...style.transitionDuration.split(','), ...style.animationDuration.split(',')].map(parseFloat);"
            "}))"
        )
        self.assertLess(slowest, 0.001)
        self.assertEqual(self.faults, [])

    def test_what_comes_of_it_is_spoken(self) -> None:
        """Who listens to the screen is told what the case comes to when that changes, and what the recorder does."""
        page = self.at("/spin?hub=A1L")
        spoken = page.get_by_role("status", name="What the case comes to")
        before = spoken.text_content()
        for kind, answer in (("spin", "grinds"), ("spring_touch", "rough"), ("rock_12_6", "hub")):
            Observation.objects.create(case=self.case, hub="A2R", kind=kind, value={"answer": answer}, person=self.user)
        page.get_by_role("radio", name="free, even and quiet").click()
        expect(spoken).not_to_have_text(before)
        expect(spoken).to_contain_text("A2R")
        self.go(page, "/hear?hub=A1L")
        page.get_by_role("radio", name="Simulated pickup").click()
        page.get_by_role("button", name="Record A1L").click()
        expect(page.get_by_role("status").filter(has_text="Stopped, kept and heard")).to_have_count(1)
        self.assertEqual(self.faults, [])
