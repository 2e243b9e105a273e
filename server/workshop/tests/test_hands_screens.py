"""Hands in a real browser: four corners by single keys, one test at a time, the gauge, and the evidence."""

import re

from cases.models import Observation
from cases.services import open_case
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import Page, Route, expect

from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, hub_data, vehicle_data

# From the tap to the frame in which the answer stands at its hub.
STOPWATCH = """
addEventListener('click', () => (window.tapped = performance.now()), { capture: true, once: true });
new MutationObserver((_, watch) => {
    const shown = [...document.querySelectorAll('button')].some((one) => /A1L[^]*rumbles/.test(one.textContent));
    if (window.tapped && shown) { window.took = performance.now() - window.tapped; watch.disconnect(); }
}).observe(document.body, { subtree: true, childList: true, characterData: true });
"""


class Hands(BrowserTestCase):
    """One person, one van, an open case."""

    def setUp(self) -> None:
        """Make them."""
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        self.case = open_case(self.user, add_vehicle(self.user, vehicle_data("Mobile reading room")).id, "Growl")

    def at(self, path: str, **more: object) -> Page:
        """Return a page of the case, signed in."""
        page = self.open(**more)
        self.sign_in(page)
        page.goto(f"/cases/{self.case.id}{path}")
        page.locator("h1").first.wait_for()
        return page

    def answers(self, kind: str) -> dict[str, str]:
        """Return what stands in the log of a test, by hub."""
        rows = Observation.objects.filter(kind=kind, superseded_by=None)
        return {row.hub: row.value.get("answer", "") for row in rows}

    def test_four_corners_by_single_keys(self) -> None:
        """From the walkround to a hub, to a test, and an answer a key leads on to the next corner without one."""
        page = self.at("")
        page.keyboard.press("1")
        tests = page.get_by_role("list", name="Tests at A1L")
        expect(tests).to_contain_text("not yet")
        tests.get_by_role("link", name=re.compile("Spun by hand")).click()
        for hub, key in (("A1L", "u"), ("A1R", "f"), ("A2R", "f"), ("A2L", "f")):
            expect(page.get_by_role("radiogroup", name=f"Spun by hand: how it feels at {hub}")).to_be_visible()
            page.keyboard.press(key)
        expect(page.get_by_role("button", name=re.compile("A2L.*free"))).to_be_visible()
        self.all_sent(page)
        self.assertEqual(self.answers("spin"), {"A1L": "rumbles", "A1R": "free", "A2L": "free", "A2R": "free"})
        page.keyboard.press("w")
        expect(page.get_by_role("button", name=re.compile("A1L"))).to_contain_text("1 of")
        self.assertEqual(self.faults, [])

    def test_one_test_at_a_time(self) -> None:
        """The guided path asks one test, takes an answer or a pass, and asks the next; both stand in the same log."""
        page = self.at("/guide")
        seen = []
        for _ in range(3):
            seen.append(page.locator("h1").first.inner_text())
            count = Observation.objects.count()
            if seen[-1].startswith("Ask the driver"):
                page.get_by_role("checkbox").first.click()
                page.get_by_role("button", name="Log what the driver says").click()
            else:
                page.get_by_text("not done", exact=True).or_(page.get_by_role("button", name="Not done")).first.click()
            expect(page.locator("h1").first).not_to_have_text(seen[-1], timeout=15_000)
            self.assertEqual(Observation.objects.count(), count + 1)
        self.assertEqual(len(set(seen)), 3)
        self.assertEqual(self.faults, [])

    def test_the_gauge(self) -> None:
        """The simulated gauge is read, zeroed, held and switched; three spans are logged as end play."""
        page = self.at("/rock?hub=A1L&test=end_play")
        page.get_by_role("button", name="Simulated gauge").click()
        gauge = page.get_by_role("group", name="Gauge on the line")
        expect(gauge.get_by_label("The gauge shows")).to_contain_text("mm")
        gauge.get_by_role("button", name="Hold").click()
        expect(gauge.get_by_role("button", name="Go on")).to_be_visible()
        gauge.get_by_role("button", name="Go on").click()
        gauge.get_by_role("button", name="mm / in").click()
        expect(gauge.get_by_label("The gauge shows")).to_contain_text("in")
        page.keyboard.press("z")
        for n in (1, 2, 3):
            expect(gauge).to_contain_text(re.compile(r"span 0\.0[23]"), timeout=20_000)
            page.keyboard.press("t")
            expect(page.get_by_label(f"Reading {n}")).not_to_have_value("")
        page.get_by_role("button", name="Log readings").click()
        expect(page.get_by_text(re.compile("mean 0.0[23]")).first).to_be_visible()
        row = Observation.objects.get(kind="end_play")
        self.assertEqual((row.hub, row.value["instrument"]), ("A1L", "digital gauge"))
        self.assertEqual(self.faults, [])

    def test_figures_and_contradictions(self) -> None:
        """A thermometer against its mate; a rough spring and a clean look pull apart, and the evidence says so."""
        page = self.at("/test/heat?hub=A2L")
        page.get_by_label("left, A2L").fill("warm")
        expect(page.get_by_text("“warm” was not taken")).to_be_visible()
        page.get_by_role("button", name="Log the figures").click()
        expect(page.get_by_text("Give how warm a hub is.")).to_be_visible()
        page.get_by_label("left, A2L").fill("61,5")
        page.get_by_role("button", name="Log the figures").click()
        expect(page.get_by_text("Give the mate’s of A2L, or the air’s.")).to_be_visible()
        page.get_by_label("right, A2R").fill("24")
        page.get_by_role("button", name="Log the figures").click()
        expect(page.get_by_role("button", name=re.compile("A2L.*much hotter than its mate"))).to_be_visible()
        self.all_sent(page)
        read = {row.hub: row.value for row in Observation.objects.filter(kind="heat")}
        self.assertEqual(read, {"A2L": {"temp_c": 61.5, "mate_c": 24}, "A2R": {"temp_c": 24, "mate_c": 61.5}})
        for kind, answer in (("spin", "grinds"), ("spring_touch", "rough"), ("opened", "clean")):
            Observation.objects.create(case=self.case, hub="A2L", kind=kind, value={"answer": answer}, person=self.user)
        page.goto(f"/cases/{self.case.id}/why?hub=A2L")
        expect(page.get_by_text("Two witnesses pull apart.")).to_be_visible()
        expect(page.get_by_label("Witnesses weighed")).to_contain_text("clean grease, even roller marks")
        page.goto(f"/cases/{self.case.id}/test/singing?hub=A2L")
        expect(page.get_by_text("There is no such test.")).to_be_visible()
        self.assertEqual(self.faults, [])

    def test_the_lever_shows_the_play_at_the_hub(self) -> None:
        """By both radii as soon as they are there: 12 mm at 300 mm are 3 mm at 75; what is logged names all three."""
        page = self.at("/rock?hub=A1L&test=lever")
        page.get_by_label("Movement at the tyre, A1L").fill("12")
        page.get_by_label("Radius of the tyre").fill("300")
        page.get_by_label("Radius of the hub").fill("75")
        expect(page.get_by_text(re.compile("At the hub: 3.000 mm"))).to_be_visible()
        page.get_by_role("button", name="Log the figures").click()
        expect(page.get_by_role("button", name="A1L")).to_contain_text("much movement")
        value = Observation.objects.get(kind="lever").value
        self.assertEqual(value, {"movement_mm": 12, "tyre_radius_mm": 300, "hub_radius_mm": 75})
        self.assertEqual(self.faults, [])

    def test_any_layout(self) -> None:
        """A trike, a quad and a tandem trailer: every hub in its place, on both sizes, its tests behind its number."""
        single = {"driven": False, "steered": False, "hubs": [hub_data("A2C", "centre", "cup_cone")]}
        layouts = [
            vehicle_data("Trike", "cartridge_pair", axles=1),
            vehicle_data("Quad", "pressed_double_row"),
            vehicle_data("Tandem", "taper_pressurised", axles=3),
        ]
        layouts[0]["axles"].append(single)
        page = self.open()
        self.sign_in(page)
        for data in layouts:
            case = open_case(self.user, add_vehicle(self.user, data).id, "")
            names = [hub["id"] for axle in data["axles"] for hub in axle["hubs"]]
            for size in (DESKTOP, PHONE):
                page.set_viewport_size(size)
                page.goto(f"/cases/{case.id}")
                for name in names:
                    expect(page.get_by_role("button", name=re.compile(rf"\b{name}\b"))).to_be_visible()
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), size["width"])
            page.keyboard.press(str(len(names)))
            expect(page.get_by_role("list", name=f"Tests at {names[-1]}")).to_be_visible()
        self.assertEqual(self.faults, [])

    def test_on_a_phone(self) -> None:
        """Every screen of the hands is as wide as the phone, and the next test is a tap away."""
        page = self.at("", size=PHONE, has_touch=True)
        for path in ("", "/guide", "/why", "/test/rock_12_6?hub=A1L", "/test/complaint", "/test/coast_down?hub=A2R"):
            page.goto(f"/cases/{self.case.id}{path}")
            page.locator("h1").first.wait_for()
            self.settle(page)
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"], path)

    def test_an_answer_is_shown_at_once(self) -> None:
        """While the server has not answered it stands there; how soon is printed. Without a line it is said to wait."""
        page = self.at("/test/spin?hub=A1L", size=PHONE)
        held: list[Route] = []

        def hold(route: Route) -> None:
            held.append(route)

        page.route("**/observations*", hold)
        page.evaluate(STOPWATCH)
        page.get_by_role("radio", name="rumbles").click()
        expect(page.get_by_role("button", name="A1L")).to_contain_text("rumbles")
        self.assertEqual(Observation.objects.filter(kind="spin").count(), 0)
        print(f"\nAn answer is shown {page.evaluate('window.took'):.0f} ms after the tap.")
        for route in held:
            route.abort("connectionreset")
        expect(page.get_by_role("button", name="A1L")).to_contain_text("rumbles, waiting")
        page.unroute("**/observations*")
        expect(page.get_by_role("button", name="A1L")).not_to_contain_text("waiting")
