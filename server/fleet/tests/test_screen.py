"""The fleet in the browser: from the yard to what is to come, what to order and what came back."""

import csv
from pathlib import Path

from cases.services import open_case
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import expect
from verdicts.services import accept
from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data

from fleet.tests.repairs import repaired


class Fleet(BrowserTestCase):
    """A workshop with work, and with a past."""

    def setUp(self) -> None:
        """Make a person and an open case."""
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        self.case = open_case(self.user, add_vehicle(self.user, vehicle_data()).id, "Growl")

    def test_a_monday_morning(self) -> None:
        """How full the weeks are, what to order for all jobs, how little the comebacks prove; on a phone as well."""
        accept(self.user, self.case.id, hub="A1L", choice="replace_unit", reason="sure")
        for n in range(6):
            repaired(self.user, f"Van {n}", days_ago=500, back_after=100 if n == 0 else None)
        page = self.open(size=DESKTOP)
        self.sign_in(page)
        page.get_by_role("link", name="The fleet").click()
        weeks = page.get_by_role("region", name="Work by weeks")
        expect(weeks.get_by_role("listitem").nth(1)).to_contain_text("Next week")
        orders = page.get_by_role("region", name="Parts to order")
        unit = orders.get_by_role("listitem").filter(has_text="Hub unit")
        expect(unit).to_contain_text("1 ×")
        back = page.get_by_role("region", name="Back too soon")
        expect(back.get_by_text("1 of 7 (3% to 51%)").first).to_be_visible()
        costs = page.get_by_role("region", name="Cost by vehicle")
        expect(costs).to_contain_text("No case with a decision was closed within a year.")
        with page.expect_download() as got:
            back.get_by_role("link", name="CSV").click()
        with Path(got.value.path()).open(encoding="utf-8", newline="") as file:
            rows = list(csv.DictReader(file))
        self.assertIn(("All", "1", "7"), [(row["by"], row["came_back"], row["of"]) for row in rows])
        unit.get_by_role("link", name="Test van").click()
        page.wait_for_url(f"**/cases/{self.case.id}/do")
        page.set_viewport_size(PHONE)
        page.goto("/fleet")
        expect(back).to_contain_text("All repairs")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])

    def test_a_line_that_is_lost(self) -> None:
        """It says so, and asks again."""
        page = self.open(size=DESKTOP)
        self.sign_in(page)
        page.route("**/api/fleet**", lambda route: route.abort())
        page.goto("/fleet")
        page.get_by_role("alert").first.wait_for()
        page.unroute("**/api/fleet**")
        page.get_by_role("button", name="Try again").click()
        expect(page.get_by_role("region", name="Work by weeks")).to_contain_text("Next week")
        expect(page.get_by_role("region", name="Back too soon")).to_contain_text("No repair is a year old")
