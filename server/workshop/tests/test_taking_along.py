"""A bundle taken from one workshop into another in the browser, and equal there."""

import tempfile
from pathlib import Path

from bundles.leaving import vehicle_bundle
from bundles.tests.test_bundles import facts
from cases.services import open_case
from garage.models import Vehicle
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import expect

from workshop.tests.browser import PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data, wav


class TakingAlong(BrowserTestCase):
    """Two workshops, a person each."""

    def setUp(self) -> None:
        """Make a vehicle with a case in the first."""
        self.microphone.write_bytes(wav("outer_race", seconds=8.0))
        for name in ("ours", "theirs"):
            workshop = Workshop.objects.create(name=f"Workshop of {name}")
            User.objects.create_user(name, password=PASSWORD, workshop=workshop)
        self.ours, self.theirs = User.objects.get(username="ours"), User.objects.get(username="theirs")
        self.vehicle = add_vehicle(self.ours, vehicle_data("Mobile reading room") | {"plate": "QM 12"})
        self.case = open_case(self.ours, self.vehicle.id, "Growls at 60")

    def test_from_one_workshop_into_another(self) -> None:
        """Found, heard and taken along; there it is looked at, taken in, worked on, and said to be here already."""
        page = self.open()
        self.sign_in(page)
        page.goto(f"/cases/{self.case.id}/test/spin?hub=A1L")
        page.get_by_role("radio", name="rumbles").first.click()
        self.all_sent(page)
        page.goto(f"/cases/{self.case.id}/hear?hub=A1L")
        page.get_by_role("button", name="Record").click()
        page.wait_for_timeout(6000)
        page.get_by_role("button", name="Stop").first.click()
        self.until(lambda: self.case.recordings.filter(analysis__state="done").exists(), "the recording is heard")
        page.goto(f"/vehicles/{self.vehicle.id}")
        with tempfile.TemporaryDirectory() as folder, page.expect_download() as taken:
            page.get_by_role("link", name="Take along").click()
            file = Path(folder) / "vehicle.zip"
            taken.value.save_as(file)
            self.there(file)

    def there(self, file: Path) -> None:
        """Take it in at the other workshop, on a phone."""
        page = self.open(size=PHONE)
        self.sign_in(page, "theirs")
        page.get_by_role("link", name="Take in a bundle").click()
        page.get_by_label("Choose a bundle").set_input_files(__file__)
        expect(page.get_by_role("alert")).to_contain_text("is no bundle")
        page.get_by_label("choose another").set_input_files(file)
        held = page.get_by_role("region", name="What it holds")
        expect(held).to_contain_text("From Workshop of ours")
        expect(held.get_by_role("row").filter(has_text="Recordings")).to_contain_text("1")
        self.assertEqual(Vehicle.objects.seen_by(self.theirs).count(), 0)
        self.assert_accessible(page, "a bundle looked at")
        held.get_by_role("button", name="Take it in").click()
        page.get_by_role("region", name="What was taken in").get_by_role("link", name="Growls at 60").click()
        expect(page.get_by_text("from a bundle of Workshop of ours")).to_be_visible()
        expect(page.get_by_role("heading", name="Mobile reading room").first).to_be_visible()
        vehicle = Vehicle.objects.seen_by(self.theirs).get()
        for mine, other in zip(
            facts(vehicle_bundle(self.ours, self.vehicle.id).read()),
            facts(vehicle_bundle(self.theirs, vehicle.id).read()),
            strict=True,
        ):
            self.assertEqual(other, mine)
        self.until(lambda: vehicle.cases.get().recordings.get().analysis.state == "done", "it is heard there too")
        page.goto("/bundles")
        page.get_by_label("Choose a bundle").set_input_files(file)
        expect(page.get_by_text("There is nothing to take in")).to_be_visible()
