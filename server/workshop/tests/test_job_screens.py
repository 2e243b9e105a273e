"""Whole jobs on a phone: a pressed knuckle, a pair of half-shafts, a trailer's cap; and the torque book."""

import re

from cases.models import Case, Observation
from cases.services import open_case
from garage.models import Vehicle
from garage.services import add_vehicle
from jobs.models import StepEntry
from people.models import User, Workshop
from playwright.sync_api import Page, expect
from verdicts.models import Verdict

from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD

MOST_STEPS = 90
MOVED_ON = """(was) => document.querySelector('article')?.innerText !== was
    || document.body.innerText.includes('All steps done')"""


def axle(n: int, design: str, *, driven: bool = False, steered: bool = False) -> dict:
    """Return an axle as the API takes it."""
    hubs = [
        {"id": f"A{n}{side[0].upper()}", "side": side, "design": design, "bearings": []} for side in ("left", "right")
    ]
    return {"driven": driven, "steered": steered, "hubs": hubs}


class Jobs(BrowserTestCase):
    """On a phone, by touch."""

    def setUp(self) -> None:
        """Make the person only."""
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))

    def case_of(self, label: str, *axles: dict) -> Case:
        """Open a case on a new vehicle."""
        data = {"label": label, "tyre": "", "rolling_circumference_m": None, "axles": list(axles)}
        return open_case(self.user, add_vehicle(self.user, data).id, "Rumbles")

    def found(self, case: Case, hub: str, kind: str, value: dict) -> None:
        """Log what was found."""
        Observation.objects.create(case=case, hub=hub, kind=kind, value=value, person=self.user)

    def at(self, case: Case, stage: str, size: dict[str, int] = PHONE) -> Page:
        """Sign in and open a stage of a case."""
        page = self.open(size=size, has_touch=size is PHONE)
        self.sign_in(page)
        page.goto(f"/cases/{case.id}/{stage}")
        return page

    def accept(self, page: Page) -> None:
        """Accept the advice where the thumb is."""
        page.get_by_role("button", name="Accept:").tap()
        page.wait_for_url("**/verdicts/*")

    def card(self, page: Page):  # type: ignore[no-untyped-def]
        """Return the step at hand."""
        return page.get_by_role("article")

    def walk(self, page: Page, until: str = "") -> list[str]:
        """Tap Done at every step, until one that says something; return what each said, in turn."""
        said: list[str] = []
        for _ in range(MOST_STEPS):
            words = self.card(page).inner_text()
            if (until and until in words) or page.get_by_text("All steps done").count():
                return said
            said.append(words)
            page.get_by_role("button", name="Done", exact=True).tap()
            page.wait_for_function(MOVED_ON, arg=words)
        raise AssertionError("the job never ends")

    def in_turn(self, said: list[str], *words: str) -> None:
        """Hold that steps that say something come in this turn."""
        places = [next(n for n, one in enumerate(said) if word in one) for word in words]
        self.assertEqual(places, sorted(places), words)

    def test_a_pressed_knuckle(self) -> None:
        """What is fitted is said, the circlip will not move, something is found; every step is ticked."""
        case = self.case_of(
            "Quad", axle(1, "pressed_double_row", steered=True), axle(2, "pressed_double_row", driven=True)
        )
        self.found(case, "A1L", "part", {"part": "sealed_bearing", "finds": ["rust"]})
        page = self.at(case, "decide?hub=A1L")
        self.accept(page)
        page.goto(f"/cases/{case.id}/do")
        page.get_by_text("Nobody said what is fitted at").tap()
        asked = page.get_by_role("radiogroup", name="Seals of the knuckle")
        asked.get_by_role("radio", name="Separate").tap()
        expect(asked).to_have_count(0)
        self.all_sent(page)
        self.assertEqual(Vehicle.objects.get().axles.first().hubs.get(name="A1R").fittings, {"seals": "separate"})
        before = self.walk(page, until="Circlip out")
        self.in_turn(before, "Wheel off", "Draw the pin", "Knuckle off and to the vice", "Outer seal out")
        page.get_by_role("button", name="Will not move").tap()
        panel = page.get_by_role("region", name="It will not move")
        expect(panel).to_contain_text("Stop:")
        self.assert_accessible(page, "stuck, on a phone")
        panel.get_by_role("button", name="Try this").first.tap()
        expect(self.card(page)).to_contain_text("Soak it with penetrant")
        page.get_by_role("button", name="Done", exact=True).tap()
        expect(page.get_by_role("list", name="What waits by itself")).to_contain_text("A1L")
        page.get_by_role("link", name="Found something").tap()
        page.wait_for_url("**/open*")
        page.goto(f"/cases/{case.id}/do")
        after = self.walk(page)
        self.in_turn(
            after,
            "Circlip out",
            "Push the hub flange out",
            "Press the outer ring out",
            "New bearing square",
            "Circlip in",
            "New outer seal",
            "Flange in with the inner ring",
            "Knuckle back",
            "Caliper and bracket on",
            "Wheel nuts in a star",
            "Pump the brake pedal",
            "geometry",
        )
        self.assertEqual(StepEntry.objects.filter(kind="stuck").count(), 1)
        self.assertEqual(self.faults, [])

    def test_a_pair_of_half_shafts(self) -> None:
        """Decided for both sides: one plan, lifted once, the plate before the bearing, a torque entered at its step."""
        case = self.case_of("Old truck", axle(1, "taper_castle", steered=True), axle(2, "axle_retained", driven=True))
        self.found(case, "A2L", "part", {"part": "sealed_bearing", "finds": ["rust"]})
        page = self.at(case, "decide?hub=A2L")
        page.get_by_text("Both sides of the axle: A2R as well").tap()
        expect(page.get_by_role("button", name="Accept: Replace the bearing, A2L and A2R")).to_be_visible()
        self.accept(page)
        self.assertEqual({row.hub for row in Verdict.objects.all()}, {"A2L", "A2R"})
        page.goto(f"/cases/{case.id}/do")
        page.get_by_role("tab", name="To lay out").tap()
        lists = page.get_by_role("tabpanel", name="To lay out")
        expect(lists).to_contain_text("Four retainer bolts")
        self.assert_accessible(page, "lists, on a phone")
        before = self.walk(page, until="New bolts through the retainer plate")
        self.assertEqual(sum("lower gently onto stands" in one for one in before), 1)
        self.in_turn(
            before,
            "Wheel nuts a quarter turn loose",
            "lower gently",
            "Shaft drawn",
            "Retainer plate on the shaft first",
            "Warm bearing and ring",
            "bearing pushed on by its inner ring",
            "New ring on after the bearing",
            "shaft in straight",
        )
        plate = page.get_by_label(re.compile("^Torque: ")).first  # the step's own: its sums have a torque as well
        plate.get_by_role("button", name="Enter it").tap()
        plate.get_by_label("Torque, or the least of a range").fill("64")
        plate.get_by_label("The most of a range").fill("72")
        plate.get_by_role("radio", name="the manual").tap()
        plate.get_by_role("button", name="Keep it", exact=True).tap()
        expect(self.card(page)).to_contain_text("68.0 N·m")
        expect(self.card(page)).to_contain_text("the middle of 64.0 N·m to 72.0 N·m")
        rest = self.walk(page)
        self.assertTrue(any("68.0 N·m" in one for one in rest), "kept for its mate as well")
        self.assertEqual(sum("Stands out, and down" in one for one in rest), 1)
        page.get_by_role("link", name="Prove it").tap()
        page.wait_for_url("**/prove*")
        self.assertEqual(self.faults, [])

    def test_a_trailers_cap_is_topped_up(self) -> None:
        """Only the button is down: nothing is opened; two steps, and it is proven."""
        case = self.case_of("Boat trailer", axle(1, "taper_pressurised"))
        for kind, answer in (
            ("cap_button", "flush"),
            ("spin", "free"),
            ("rock_12_6", "nothing"),
            ("rock_3_9", "nothing"),
            ("stethoscope", "quiet"),
            ("in_out", "nothing"),
            ("spring_touch", "smooth"),
        ):
            self.found(case, "A1L", kind, {"answer": answer})
        page = self.at(case, "decide?hub=A1L")
        expect(page.get_by_role("button", name="Accept: Top up the grease")).to_be_visible()
        self.accept(page)
        page.goto(f"/cases/{case.id}/do")
        said = self.walk(page)
        self.assertEqual(len(said), 2)
        self.in_turn(said, "until the button stands proud, and stop", "look at the button on the next trips")
        page.get_by_role("link", name="Prove it").tap()
        expect(page.get_by_role("heading", name="Prove")).to_be_visible()
        self.assertEqual(self.faults, [])

    def test_the_torque_book(self) -> None:
        """Thread and grade give a marked stop-gap; nonsense is refused in words; another vehicle takes it over."""
        case = self.case_of("Van", axle(1, "hub_unit", driven=True, steered=True))
        page = self.at(case, "do", DESKTOP)
        page.goto(f"/vehicles/{case.vehicle_id}/book?hub=A1L")
        page.get_by_role("button", name="Bolts of the unit").click()
        page.get_by_label("Thread, as M12×1.5").locator("visible=true").fill("coarse")
        page.get_by_role("button", name="Keep it").locator("visible=true").click()
        expect(page.get_by_role("alert")).to_contain_text("no thread that is known here")
        page.get_by_label("Thread, as M12×1.5").locator("visible=true").fill("m12 x 1.5")
        page.get_by_label("Grade").locator("visible=true").click()
        page.get_by_role("option", name="10.9").click()
        page.get_by_label("How many there are").locator("visible=true").fill("3")
        page.get_by_role("button", name="Keep it").locator("visible=true").click()
        expect(page.get_by_role("button", name="Bolts of the unit")).to_contain_text("M12×1.5, 3 of them")
        for light in ("day", "under"):
            page.evaluate(f"document.documentElement.dataset.light = '{light}'")
            self.assert_accessible(page, f"torque book, {light}")
        Verdict.objects.create(
            case=case,
            hub="A1L",
            choice="replace_unit",
            advised="replace_unit",
            core_version="x",
            person=self.user,
            assessment={"hubs": {"A1L": {"because": ""}}},
        )
        page.goto(f"/cases/{case.id}/do?step=A1L.unit_bolts.on")
        expect(self.card(page)).to_contain_text("Stop-gap")
        expect(self.card(page)).to_contain_text("ISO 898-1")
        for light in ("day", "under"):
            page.evaluate(f"document.documentElement.dataset.light = '{light}'")
            self.assert_accessible(page, f"do, {light}")
        page.keyboard.press("k")
        expect(page.get_by_text("of 34 steps left")).to_contain_text("33 of 34")
        expect(self.card(page)).to_contain_text("19/34")
        self.all_sent(page)
        noted = page.locator("details", has=page.get_by_text("Note, figure, photograph"))
        noted.evaluate("(found) => (found.open = true)")
        noted.get_by_label("Note", exact=True).fill("studs cleaned")
        noted.get_by_label("Note", exact=True).press("Enter")
        expect(page.get_by_role("list", name="Every step")).to_contain_text("studs cleaned")
        self.assertEqual([fault for fault in self.faults if "422" not in fault], [])
