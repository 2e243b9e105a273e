"""The setting bench in the browser: nuts set from loose to locked by the simulated gauge, a press, wheel nuts."""

import re
from datetime import timedelta

from cases.models import Case, Observation
from cases.services import open_case
from garage.services import add_vehicle, write_book
from people.models import User, Workshop
from playwright.sync_api import Locator, Page, expect
from policies.services import policy_of
from sums.models import Worked
from verdicts.services import accept

from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD
from workshop.tests.test_job_screens import axle

TRIES = 4  # at getting the dial into the window
# The simulated hand has pushed in and pulled out: the span is more than the gauge's shake.
SWUNG = """() => Number(/span\\s*([\\d.]+)/.exec(
    document.querySelector('[aria-label="Gauge on the line"]')?.innerText ?? '')?.[1] ?? 0) > 0.02"""
NUTS = {
    "taper_pressurised": ("set-dial", {"thread": "1-14 UNS", "slots": 6, "holes": 2, "least_nm": 2.0, "most_nm": 2.3}),
    "taper_locknut": ("set-dial-plate", {"thread": "M50×1.5", "slots": 12, "least_nm": 24.0}),
    "taper_castle": ("set-dial", {"thread": "3/4-16 UNF", "slots": 6, "holes": 2, "least_nm": 12.0}),
}


class Setting(BrowserTestCase):
    """By touch, on a phone, but where a desktop is said."""

    def setUp(self) -> None:
        """Make the person only."""
        self.user = User.objects.create_user(
            "ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"), role="owner"
        )

    def case_of(self, design: str, choice: str, book: dict, *, fittings: dict | None = None, hidden: str = "") -> Case:
        """Open a case on a new vehicle with its torque book, and decide at its left hub."""
        axles = [axle(1, design, steered=design != "taper_pressurised")]
        if design in ("hub_unit", "pressed_double_row"):
            axles.append(axle(2, design, driven=True))
        data = {"label": design, "tyre": "", "rolling_circumference_m": None, "axles": axles}
        vehicle = add_vehicle(self.user, data)
        said = {"fittings": fittings or {}, "fastenings": book, "both_sides": True}
        write_book(self.user, vehicle.id, "A1L", said)
        case = open_case(self.user, vehicle.id, "Rumbles")
        if hidden:
            Case.objects.filter(id=case.id).update(simulated={"A1L": hidden})
        accept(self.user, case.id, hub="A1L", choice=choice, reason="so it is shown")
        return case

    def at(self, case: Case, step: str, size: dict[str, int] = PHONE) -> Page:
        """Sign in and open a step of a case's job."""
        page = self.open(size=size, has_touch=True)
        self.sign_in(page)
        page.goto(f"/cases/{case.id}/do?step={step}")
        return page

    def read_three(self, page: Page, here: Locator) -> None:
        """Take three spans from the simulated gauge."""
        if here.get_by_role("button", name="Simulated gauge").count():
            here.get_by_role("button", name="Simulated gauge").tap()
        for n in range(3):
            page.wait_for_function(SWUNG)
            here.get_by_role("button", name="Take the span").tap()
            expect(here.get_by_label(f"Reading {n + 1}")).not_to_have_value("")

    def set_from_loose_to_locked(self, design: str) -> None:
        """Move by move: the angle from the sum, the dial's word, the next angle from the dial, the lock, the proof."""
        act, nut = NUTS[design]
        fittings = {"nut_lock": "plate"} if design == "taper_locknut" else {}
        case = self.case_of(design, "adjust", {"nut_set": nut}, fittings=fittings, hidden="loose")
        page = self.at(case, f"A1L.nut.{act}")
        here = page.get_by_role("region", name="Setting the nut at A1L")
        expect(here).to_contain_text("until it drags")
        for _ in range(3):
            here.get_by_role("button", name="Next move").tap()
        expect(here).to_contain_text("Back off")
        angle = re.search(r"Back off (\d+)°", here.inner_text())
        assert angle
        here.get_by_role("textbox", name="Backed off by").fill(angle[1])
        expect(here).to_contain_text("end play")
        self.assert_accessible(page, f"{design}, backing off")
        here.get_by_role("button", name="Next move").tap()
        for _ in range(TRIES):
            self.read_three(page, here)
            expect(here).to_contain_text("by the dial")
            further = here.get_by_role("button", name=re.compile("It is turned to"))
            if not further.count():
                break
            angle = re.search(r"to (\d+)°", further.inner_text())
            further.tap()
            expect(here.get_by_label("Reading 1")).to_have_value("")
        expect(here).to_contain_text("by the dial: in the window")
        here.get_by_role("button", name="Next move").tap()
        assert angle
        here.get_by_label("First place lies back by").fill(angle[1])
        expect(here).to_contain_text(f"Lock it {angle[1]}° back")
        here.get_by_role("button", name="Next move").tap()
        here.get_by_role("button", name="Next move").tap()
        self.read_three(page, here)
        expect(here).to_contain_text("mm locked: in the window")
        here.get_by_role("button", name="Keep the setting").tap()
        expect(here).to_contain_text("The readings prove the job")
        self.all_sent(page)
        proof = Observation.objects.get(kind="end_play")
        self.assertEqual((proof.hub, proof.job), ("A1L", case.verdicts.get().id))
        self.assertEqual(set(Worked.objects.values_list("sum", flat=True)), {"nut", "setting"})
        self.assertEqual(self.faults, [])

    def test_a_trailer_hub(self) -> None:
        """Six slots, two pounds-inch, from loose to locked."""
        self.set_from_loose_to_locked("taper_pressurised")

    def test_a_ring_nut_with_lock_plate(self) -> None:
        """Twelve holes, from 24 N·m, from loose to locked."""
        self.set_from_loose_to_locked("taper_locknut")

    def test_a_castle_nut(self) -> None:
        """An inch thread, from loose to locked."""
        self.set_from_loose_to_locked("taper_castle")

    def test_a_worn_set_drags(self) -> None:
        """It drags before the slack is gone: said and entered, it changes the advice; nothing is entered as proof."""
        case = self.case_of("taper_castle", "adjust", {"nut_set": NUTS["taper_castle"][1]}, hidden="distributed_wear")
        page = self.at(case, "A1L.nut.set-dial")
        here = page.get_by_role("region", name="Setting the nut at A1L")
        for _ in range(3):
            here.get_by_role("button", name="Next move").tap()
        here.get_by_role("textbox", name="Backed off by").fill("15")
        expect(here).to_contain_text("drags at this angle")
        here.get_by_role("button", name="It drags before").tap()
        expect(here.get_by_role("alert")).to_contain_text("the set is worn")
        here.get_by_role("button", name="Keep the setting").tap()
        expect(here).to_contain_text("Kept with this step")
        self.all_sent(page)
        self.assertEqual(Worked.objects.get().level, "bad")
        self.assertEqual(Observation.objects.get(kind="set_by_nut").value, {"answer": "drags_first"})
        here.get_by_role("link", name="Decide anew").tap()
        expect(page.get_by_label("Advice")).to_contain_text("Replace the bearing")
        self.assertFalse(Observation.objects.filter(kind="end_play").exists())

    def test_a_gauge_that_ran_backwards(self) -> None:
        """330 is asked about, and answered with one tap; figures survive a reload; inches as the person likes."""
        case = self.case_of("taper_castle", "adjust", {"nut_set": {"thread": "M24×1.5"}})
        page = self.at(case, "A1L.nut.set-dial", DESKTOP)
        page.get_by_role("tab", name="Nut and end play").click()
        nut = page.get_by_role("region", name="Nut and end play")
        nut.get_by_role("textbox", name="Backed off by").fill("330")
        expect(nut).to_contain_text("Say which")
        nut.get_by_role("radio", name="ran backwards from 0").click()
        expect(nut).to_contain_text("0.11 to 0.14 mm end play: perhaps")
        page.reload()
        page.get_by_role("tab", name="Nut and end play").click()
        expect(nut.get_by_role("textbox", name="Backed off by")).to_have_value("330")
        expect(nut).to_contain_text("0.11 to 0.14 mm")
        nut.get_by_label("Thread of the nut").fill("coarse")
        expect(nut.get_by_role("alert")).to_contain_text("no thread that is known here")
        self.assertEqual([fault for fault in self.faults if "422" not in fault], [])

    def test_a_press_step(self) -> None:
        """Sizes give the press, the sleeve and the ring that is pushed; warmth beside it; kept with the step."""
        case = self.case_of("pressed_double_row", "replace_bearing", {})
        page = self.at(case, "A1L.sealed_bearing.on")
        press = page.get_by_role("region", name="Press", exact=True)
        for label, figure in (("Bore", "40"), ("Outside", "74"), ("Width", "36")):
            press.get_by_label(label, exact=True).fill(figure)
        expect(press).to_contain_text("2 t press presses it on; a 15 t press")
        expect(press.get_by_role("img")).to_have_accessible_name(re.compile("push on the outer ring"))
        self.assert_accessible(page, "a press, on a phone")
        press.get_by_role("button", name="Keep this sum").tap()
        expect(press).to_contain_text("Last: A 2 t press")
        page.get_by_role("tab", name="Warm it").tap()
        warm = page.get_by_role("region", name="Warm it")
        warm.get_by_label("Tighter than its seat by").fill("0.03")
        for label, figure in (("Bore", "40"), ("Outside", "74"), ("Width", "36")):
            warm.get_by_label(label, exact=True).fill(figure)
        expect(warm).to_contain_text("80 °C is the most")
        self.assertEqual(Worked.objects.get().step, "A1L.sealed_bearing.on")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        self.assertEqual(self.faults, [])

    def test_wheel_nuts_through_both_timers(self) -> None:
        """Five and six nuts: the star; again after half an hour, the clock moved; and after 70 km by the odometer."""
        for count, star in ((5, "1, 3, 5, 2, 4"), (6, "1, 4, 2, 5, 3, 6")):
            case = self.case_of("hub_unit", "replace_unit", {"wheel_nut": {"least_nm": 110, "count": count}})
            page = self.at(case, "A1L.wheel_nuts.on")
            nuts = page.get_by_role("region", name="Wheel nuts", exact=True)
            expect(nuts).to_contain_text("110 N·m all round, in a star")
            expect(nuts.get_by_role("img")).to_have_accessible_name(re.compile(f"{count} nuts: {star}"))
            nuts.get_by_label("Which wrench").fill("the long one")
            nuts.get_by_text("More that it rests on").tap()
            nuts.get_by_label("Odometer now").fill("81200")
            nuts.get_by_role("button", name="Keep this sum").tap()
            expect(nuts).to_contain_text("Last: ")
            first = Worked.objects.get(case=case)
            Worked.objects.filter(case=case).update(at=first.at - timedelta(minutes=31))
            page.goto(f"/cases/{case.id}/do?step=nuts_again")
            again = page.get_by_role("region", name="Wheel nuts", exact=True)
            expect(again).to_contain_text("Half an hour is up: due now")
            again.get_by_role("button", name="Keep this sum").tap()
            expect(again).to_contain_text("Due again between 81250 and 81300 km")
            again.get_by_text("More that it rests on").tap()
            again.get_by_label("Odometer now").fill("81270")
            expect(again).to_contain_text("70 km driven: due now")
            again.get_by_label("a nut moved at").fill("60")
            again.get_by_role("button", name="Keep this sum").tap()
            expect(again).to_contain_text("Last: 70 km driven")
            last = Worked.objects.filter(case=case).last()
            self.assertEqual((last.person, last.keep["wrench"]), (self.user, "the long one"))
            page.close()

    def test_shims_and_wrenches_of_the_workshop(self) -> None:
        """Entered with the workshop's ways; a pack is made of what is there, and leaves the stock when it is kept."""
        case = self.case_of("taper_shimmed", "adjust", {})
        page = self.at(case, "A1L.retainer.depth", DESKTOP)
        page.goto("/policy")
        page.get_by_role("button", name="Another wrench").click()
        page.get_by_label("What it is called").fill("Click")
        page.get_by_label("From", exact=True).fill("20")
        page.get_by_label("To", exact=True).fill("200")
        for n, (thickness, many) in enumerate((("1", "3"), ("0.1", "2"))):
            page.get_by_role("button", name="Another thickness").click()
            page.get_by_label("Thickness").nth(n).fill(thickness)
            page.get_by_label("How many").nth(n).fill(many)
        page.get_by_role("button", name="Save the workshop’s ways").click()
        expect(page.get_by_text("Saved. Open cases are judged by it")).to_be_visible()
        page.goto(f"/cases/{case.id}/sums?hub=A1L")
        page.get_by_role("tab", name="Shim pack").click()
        shims = page.get_by_role("region", name="Shim pack")
        for n in (1, 2, 3):
            shims.get_by_label(str(n), exact=True).fill("3")
            expect(shims.get_by_label(str(n), exact=True)).to_have_value("3")
        shims.get_by_label("End play wanted, a side").fill("0.05")
        shims.get_by_text("This pack sets both sides").click()
        expect(shims.get_by_role("checkbox", name="This pack sets both sides")).to_be_checked()
        expect(shims).to_contain_text("3.10 mm: 1.00 + 1.00 + 1.00 + 0.10 mm")
        self.assert_accessible(page, "shims")
        shims.get_by_role("button", name="Keep this sum").click()
        expect(shims).to_contain_text("Last: 3.10 mm")
        self.assertEqual(dict(policy_of(self.user.workshop_id).shop.shims), {1.0: 0, 0.1: 1})
        self.assertEqual(self.faults, [])
