"""One field for every figure: a quantity, whatever the unit, and nothing that is no figure gets in."""

import re

from cases.models import Observation
from cases.services import open_case
from garage.models import Hub
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import Locator, Page, expect
from policies.models import WorkshopPolicy

from workshop.tests.browser import BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data


class Figures(BrowserTestCase):
    """In the real browser, as a hand types, pastes and switches."""

    def setUp(self) -> None:
        """A trailer with castle nuts and one open case."""
        self.user = User.objects.create_user(
            "ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"), role="owner"
        )
        self.vehicle = add_vehicle(self.user, vehicle_data("Book trailer", design="taper_castle"))
        self.case = open_case(self.user, self.vehicle.id, "Rumbles")

    def at(self, path: str) -> Page:
        """Return a page, signed in."""
        page = self.open()
        self.sign_in(page)
        page.goto(path)
        page.locator("h1").first.wait_for()
        return page

    def units(self, page: Page, unit: str) -> None:
        """Choose a unit."""
        page.get_by_role("button", name="Units").click()
        page.get_by_role("radio", name=unit, exact=True).click()
        page.keyboard.press("Escape")

    def most(self, page: Page) -> Locator:
        """Return the field of the castle nut's largest end play, its row opened."""
        limits = page.get_by_label("Limits of end play")
        limits.get_by_role("button", name=re.compile("castle nut")).click()
        return limits.get_by_role("group", name=re.compile("castle nut")).get_by_label("Most", exact=True)

    def test_a_unit_switched_leaves_stored_limits(self) -> None:
        """Nothing was typed, so nothing changes; what is changed afterwards is read in the unit that is shown."""
        limits = {"taper_castle": {"least_mm": 0.0, "most_mm": 0.05, "source": "manual"}}
        WorkshopPolicy.objects.create(workshop=self.user.workshop, data={"limits": limits}, changed_by=self.user)
        page = self.at("/policy")
        most = self.most(page)
        expect(most).to_have_value("0.05")
        self.units(page, "in")
        expect(most).to_have_value("0.002")
        page.get_by_label("Word for money").fill("Kr")
        page.get_by_role("button", name="Save the workshop’s ways").click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        self.assertEqual(WorkshopPolicy.objects.get().data["limits"]["taper_castle"]["most_mm"], 0.05)
        most.fill("0.004")
        page.get_by_role("button", name="Save the workshop’s ways").click()
        expect(page.get_by_role("button", name="Save the workshop’s ways")).to_be_disabled()
        self.assertAlmostEqual(WorkshopPolicy.objects.get().data["limits"]["taper_castle"]["most_mm"], 0.1016)

    def test_a_unit_switched_in_the_middle_of_typing(self) -> None:
        """Readings typed in millimetres stay what they were when inches are chosen before they are logged."""
        page = self.at(f"/cases/{self.case.id}/rock?hub=A1L&test=end_play")
        for n in (1, 2):
            page.get_by_label(f"Reading {n}").fill("0.08")
        self.units(page, "in")
        expect(page.get_by_label("Reading 1")).to_have_value("0.0031")
        page.get_by_label("Reading 3").fill("0.003")
        page.reload()
        expect(page.get_by_label("Reading 3")).to_have_value("0.003")
        page.get_by_role("button", name="Log readings").click()
        expect(page.get_by_text("Logged by").first).to_be_visible()
        self.assertEqual(Observation.objects.get(kind="end_play").value["readings_mm"], [0.08, 0.08, 0.0762])

    def test_words_for_a_number_do_not_get_in(self) -> None:
        """A vehicle's form takes no words, reads thousands, and is not sent with half a figure."""
        page = self.at(f"/vehicles/{self.vehicle.id}")
        page.get_by_role("button", name="Correct").click()
        age, distance = page.get_by_label("Age"), page.get_by_label("Distance on these bearings")
        age.fill("12")
        age.press_sequentially(" about")
        expect(age).to_have_value("12 ")
        expect(page.get_by_text("was not taken").first).to_be_visible()
        distance.fill("240,000")
        expect(page.get_by_text("Read as 240000 km.")).to_be_visible()
        page.get_by_text("Limits of end play from its own manual").first.click()
        most = page.get_by_label("Most").first
        most.fill("1.2.3")
        page.get_by_role("button", name="Save vehicle").click()
        expect(page.get_by_text("“1.2.3” is not a whole figure")).to_be_visible()
        expect(most).to_be_focused()
        most.fill("0.05 mm")  # as it is pasted
        expect(page.get_by_text("Read as 0.05 mm.")).to_be_visible()
        page.get_by_role("button", name="Save vehicle").click()
        expect(page.get_by_role("button", name="Correct")).to_be_visible()
        self.vehicle.refresh_from_db()
        self.assertEqual((self.vehicle.age_years, self.vehicle.distance_km), (12, 240000))
        self.assertEqual(set(Hub.objects.values_list("play_max_mm", flat=True)), {0.05, None})
        self.assertEqual(self.faults, [])
