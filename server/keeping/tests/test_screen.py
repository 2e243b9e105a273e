"""What is kept, in the browser: an owner on a desktop, then on a phone."""

import io
import zipfile
from pathlib import Path

from audit.models import Trace
from cases.services import open_case
from garage.models import Vehicle
from garage.services import add_vehicle
from people.models import Role, User, Workshop
from playwright.sync_api import expect
from workshop.tests.browser import PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data


class Kept(BrowserTestCase):
    """A workshop with one van, and a colleague."""

    def setUp(self) -> None:
        """Make them."""
        ours = Workshop.objects.create(name="ours")
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=ours, role=Role.OWNER)
        User.objects.create_user("other", password=PASSWORD, workshop=ours, role=Role.MECHANIC, first_name="Ada Ray")
        self.van = add_vehicle(self.user, vehicle_data("Mobile reading room"))
        open_case(self.user, self.van.id, "Growls")

    def test_a_workshop_taken_along_then_a_vehicle_deleted_and_brought_back(self) -> None:
        """No backup is said to be missing; the archive brings back what was deleted; the log says who."""
        page = self.open()
        self.sign_in(page)
        page.get_by_role("link", name="You and the workshop’s people").click()
        page.get_by_role("link", name="What is kept").click()
        expect(page.get_by_text("None are made")).to_be_visible()
        with page.expect_download() as taken:
            page.get_by_role("link", name="Take it all along").click()
        archive = Path(taken.value.path())
        self.assertIn("workshop.json", zipfile.ZipFile(io.BytesIO(archive.read_bytes())).namelist())
        page.goto(f"/vehicles/{self.van.id}")
        page.get_by_text("Sold, or to be deleted").click()
        page.get_by_role("button", name="Delete the vehicle with all its cases …").click()
        expect(page.get_by_text("Mobile reading room goes with 1 case,")).to_be_visible()
        self.assert_accessible(page, "a vehicle to be deleted")
        page.get_by_role("button", name="yes, for good").click()
        expect(page.get_by_role("heading", name="0 open cases")).to_be_visible()
        self.assertFalse(Vehicle.objects.exists())
        page.goto("/keeping")
        page.get_by_label("Choose an archive to take in").set_input_files(
            files=[{"name": "workshop.zip", "mimeType": "application/zip", "buffer": archive.read_bytes()}]
        )
        expect(page.get_by_text("1 vehicle, 1 of them new")).to_be_visible()
        self.assertEqual(Vehicle.objects.get().label, "Mobile reading room")
        whats = list(Trace.objects.values_list("what", flat=True))
        self.assertIn(Trace.What.VEHICLE_DELETED, whats)
        expect(page.get_by_text("Taken in from a bundle")).to_be_visible()
        self.assertEqual(self.faults, [])

    def test_a_name_erased_and_a_rule_of_years_on_a_phone(self) -> None:
        """Somebody has left; their name goes; sounds of closed cases are kept for three years."""
        phone = self.open(size=PHONE)
        self.sign_in(phone)
        phone.goto("/people")
        row = phone.get_by_label("Ada Ray")
        row.get_by_role("button", name="Has left").click()
        row.get_by_role("button", name="Erase the name …").click()
        self.assert_accessible(phone, "a name to be erased, on a phone")
        row.get_by_role("button", name="yes, for good").click()
        expect(phone.get_by_text("Ada Ray")).to_have_count(0)
        phone.goto("/keeping")
        phone.get_by_label("Of closed cases they are kept").click()
        phone.get_by_role("option", name="3 years").click()
        self.until(lambda: Workshop.objects.get().sounds_years == 3, "the rule is kept")
        expect(phone.get_by_text("Rule of years changed (years: 3)")).to_be_visible()
        self.assert_accessible(phone, "what is kept, on a phone")
        self.assertEqual(self.faults, [])
