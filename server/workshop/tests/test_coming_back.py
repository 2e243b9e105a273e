"""Coming back in the browser: a recheck answered and opening a case, an odometer, a trend, a tow without a line."""

import uuid
from datetime import timedelta

from cases.models import Case, Observation
from cases.services import open_case
from django.utils import timezone
from garage.models import Vehicle
from garage.services import add_vehicle
from people.models import User, Workshop
from playwright.sync_api import Page, expect
from upkeep.models import Feel, Reading, Recheck
from upkeep.services import plan, read

from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data


class ComingBack(BrowserTestCase):
    """A trailer that is looked at again."""

    def setUp(self) -> None:
        """Make a person and a trailer."""
        workshop = Workshop.objects.create(name="Ours")
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=workshop)
        data = vehicle_data("Boat trailer", "taper_pressurised", axles=1)
        data["axles"][0] |= {"driven": False, "steered": False}
        self.vehicle: Vehicle = add_vehicle(self.user, data)
        self.today = timezone.localdate()

    def at(self, path: str, size: dict[str, int], **options: object) -> Page:
        """Open a screen of the vehicle, signed in."""
        page = self.open(size=size, **options)
        self.sign_in(page)
        page.goto(f"/vehicles/{self.vehicle.id}{path}")
        return page

    def recheck(self, key: str, asks: str, label: str, days: int) -> Recheck:
        """Plan a recheck that many days from now, or ago."""
        number = uuid.uuid4()
        one = {"id": number, "hub": "A1L", "key": key, "label": label, "asks": asks, "why": "It settles."}
        plan(self.user, self.vehicle, [one | {"due_on": self.today + timedelta(days=max(days, 0)), "after_km": 30}])
        due = self.today + timedelta(days=days)
        Recheck.objects.filter(id=number).update(due_on=due, expected_on=due)
        return Recheck.objects.get(id=number)

    def test_overdue_done_outside_and_a_case(self) -> None:
        """From the yard to the vehicle; one is good in two taps; another's readings lie outside and open a case."""
        self.recheck("warmth", "warmth", "Warmth after the first runs", -3)
        nut = self.recheck("set_nut", "play", "Play and lock of the set nut", 2)
        page = self.at("", DESKTOP)
        page.goto("/")
        again = page.get_by_role("region", name="To be looked at again")
        expect(again.get_by_role("listitem").first).to_contain_text("overdue")
        again.get_by_role("link", name="Warmth after the first runs").click()
        rows = page.get_by_role("region", name="To be looked at again")
        warm = rows.get_by_role("listitem").filter(has_text="Warmth after")
        warm.get_by_role("button", name="Look now").click()
        warm.get_by_role("button", name="cool, or hand-warm").click()
        expect(page.get_by_text("Looked at, 1")).to_be_visible()
        loose = rows.get_by_role("listitem").filter(has_text="set nut")
        loose.get_by_role("button", name="Look now").click()
        for n in (1, 2, 3):
            loose.get_by_label(f"Dial {n}").fill("0.3")
        self.assert_accessible(page, "an answer by dial")
        loose.get_by_role("button", name="Enter the readings").click()
        page.get_by_text("Looked at, 2").click()
        page.get_by_role("link", name="The case that it opened").click()
        page.wait_for_url("**/cases/*")
        expect(page.get_by_text("Recheck at A1L, play and lock of the set nut").first).to_be_visible()
        nut.refresh_from_db()
        case = Case.objects.get()
        self.assertEqual((nut.outside, nut.opened_id), (True, case.id))
        self.assertEqual(Observation.objects.get(case=case, kind="end_play").value["readings_mm"], [0.3, 0.3, 0.3])
        self.assertEqual(self.faults, [])

    def test_an_odometer_turns_distances_into_dates(self) -> None:
        """Read by the month; the rate with its doubt; a reading that goes back is refused in words."""
        self.recheck("next_service", "play", "Play at the next service", 200)
        Recheck.objects.update(after_km=1000)
        for ago, km in ((90, 10_000), (60, 10_900), (30, 11_900)):
            read(self.user, self.vehicle.id, {"id": uuid.uuid4(), "on": self.today - timedelta(days=ago), "km": km})
        page = self.at("", DESKTOP)
        plate = page.get_by_role("form", name="Odometer")
        plate.get_by_label("It shows now").fill("900")
        plate.get_by_role("button", name="Enter", exact=True).click()
        expect(plate).to_contain_text("does not go with that")
        plate.get_by_label("It shows now").fill("12800")
        plate.get_by_role("button", name="Enter", exact=True).click()
        expect(plate).to_contain_text("12,800 km")
        expect(plate).to_contain_text("a week")
        rows = page.get_by_role("region", name="To be looked at again")
        expect(rows.get_by_role("listitem").first).to_contain_text(
            "overdue"
        )  # its distance began with the first reading
        self.assertEqual(Reading.objects.count(), 4)
        page.get_by_role("button", name="Through water just now").click()
        expect(rows).to_contain_text("Look at every hub after the water")
        self.assert_accessible(page, "a vehicle with what is due")
        self.assertEqual(len(self.faults), 1, self.faults)  # the refusal

    def test_a_trend_and_the_logbook(self) -> None:
        """The hub that grows stands first, with the dates to act between; its plot is read by arrow keys."""
        for n, (left, right) in enumerate(((0.05, 0.05), (0.06, 0.06), (0.075, 0.05), (0.085, 0.06), (0.1, 0.05))):
            case = open_case(self.user, self.vehicle.id, "Season")
            at = timezone.now() - timedelta(days=800 - 200 * n)
            for hub, mm in (("A1L", left), ("A1R", right)):
                Observation.objects.create(
                    case=case, hub=hub, kind="end_play", value={"readings_mm": [mm] * 3}, person=self.user, found_at=at
                )
        page = self.at("/trend", DESKTOP)
        first = page.get_by_role("region", name="End play at").first
        expect(first).to_contain_text("Act between")
        expect(first).to_contain_text("A1L")
        expect(first).to_contain_text("It grows faster than its mate.")
        plot = first.get_by_role("slider", name="End play at A1L")
        plot.focus()
        page.keyboard.press("ArrowLeft")
        expect(first.get_by_role("figure")).to_contain_text("0.085 mm")
        with page.expect_download() as saved:
            first.get_by_role("button", name="CSV").click()
        self.assertIn("A1L,0.1", saved.value.path().read_text())
        self.assert_accessible(page, "trend")
        page.goto(f"/vehicles/{self.vehicle.id}/logbook")
        expect(page.get_by_role("list", name="Entries")).to_contain_text("0.100 mm")
        page.get_by_label("A word in it").fill("nothing like it")
        expect(page.get_by_text("Nothing of that is written down.")).to_be_visible()
        self.assert_accessible(page, "logbook")
        self.written_by_hand(page)
        self.assertEqual(self.faults, [])

    def written_by_hand(self, page: Page) -> None:
        """A part with its batch, struck out again; then a book from elsewhere, asked which is the month."""
        page.get_by_label("A word in it").fill("")
        page.get_by_text("Write a line").click()
        line = page.get_by_role("form", name="Write a line")
        line.get_by_label("Part").fill("Double-lip seal")
        line.get_by_label("Batch").fill("L3")
        self.assert_accessible(page, "a line written by hand")
        line.get_by_role("button", name="Write it down").click()
        entries = page.get_by_role("list", name="Entries")
        mine = entries.get_by_role("listitem").filter(has_text="Double-lip seal (batch L3)")
        mine.get_by_role("button", name="Strike out").click()
        expect(mine).to_contain_text("struck out")
        page.get_by_role("link", name="Bring a book along").click()
        book = "Date,Hub,What,Play (mm),Odometer\n03/04/2024,A1L,measured,0.04,41000\nsoon,A1L,measured,0.05,\n"
        file = {"name": "book.csv", "mimeType": "text/csv", "buffer": book.encode()}
        page.get_by_label("Choose a table").set_input_files([file])
        seen = page.get_by_role("region", name="What it says")
        expect(seen).to_contain_text("It would write: one line")
        expect(seen).to_contain_text("Line 3")
        expect(seen.get_by_role("button", name="Write it down")).to_be_disabled()
        seen.get_by_role("radio", name="The month").click()
        expect(seen).to_contain_text("Mar 4, 2024")
        self.assert_accessible(page, "a book from elsewhere")
        seen.get_by_role("button", name="Write it down").click()
        page.get_by_role("link", name="To the logbook", exact=True).click()  # not the way back, before it is written
        expect(entries).to_contain_text("play measured: play 0.040 mm, at 41,000 km (from book.csv)")

    def test_a_tow_without_a_line(self) -> None:
        """On a phone: hubs felt at two stops, one warm against its mate, all of it sent when the line is back."""
        page = self.at("/road", PHONE, has_touch=True)
        stop = page.get_by_role("region", name="Stop 1")
        expect(stop).to_be_visible()
        self.assert_accessible(page, "on the road, on a phone")
        page.context.set_offline(True)
        feel = lambda hub, word: (  # noqa: E731
            page.get_by_role("group", name=f"How {hub} feels").get_by_role("button", name=word).tap()
        )
        feel("A1L", "hand-warm")
        feel("A1R", "cold")
        expect(stop.get_by_role("status").first).to_contain_text("Look: left")
        expect(stop).to_contain_text("touch the disc or drum first")
        page.get_by_role("button", name="Next stop").tap()
        feel("A1L", "cold")
        feel("A1R", "cold")
        expect(page.get_by_text("All cool. Go on.")).to_be_visible()
        page.context.set_offline(False)
        self.try_now(page)
        self.all_sent(page)
        felt = [(row.stop, row.hub, row.felt) for row in Feel.objects.order_by("stop", "hub")]
        self.assertEqual(felt, [(1, "A1L", "warm"), (1, "A1R", "cold"), (2, "A1L", "cold"), (2, "A1R", "cold")])
        self.assertEqual(len({row.trip for row in Feel.objects.all()}), 1)
