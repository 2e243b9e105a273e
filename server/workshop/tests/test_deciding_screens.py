"""Deciding in a browser: inspect, accept, find more, decide anew; paper; the workshop's ways; the bearing finder."""

import io
import re
import tempfile
from pathlib import Path

from cases.models import Observation
from cases.services import open_case
from garage.models import Hub
from garage.services import add_vehicle
from people.models import User, Workshop
from photos.tests.test_photos import camera_jpeg
from PIL import Image
from playwright.sync_api import Page, expect
from pypdf import PdfReader
from verdicts.models import Verdict
from verdicts.services import accept

from workshop.tests.browser import PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data


class Deciding(BrowserTestCase):
    """One person, one trailer with castle nuts, an open case."""

    def setUp(self) -> None:
        """Make them."""
        self.user = User.objects.create_user(
            "ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"), role="owner"
        )
        data = vehicle_data("Book trailer", design="taper_castle")
        for hub in (hub for axle in data["axles"] for hub in axle["hubs"]):
            hub["bearings"] = []
        self.vehicle = add_vehicle(self.user, data)
        self.case = open_case(self.user, self.vehicle.id, "Rumbles")

    def at(self, path: str, **more: object) -> Page:
        """Return a page, signed in; `path` below the case unless it starts at the root."""
        page = self.open(**more)
        self.sign_in(page)
        page.goto(path if path.startswith(("/policy", "/vehicles")) else f"/cases/{self.case.id}{path}")
        page.locator("h1").first.wait_for()
        return page

    def look(self, page: Page, part: str, *finds: str) -> None:
        """Tap what was found at a part, and log it."""
        page.get_by_role("heading", name=part, exact=True).wait_for()
        for find in finds:
            page.get_by_role("button", name=re.compile(f"^{find}")).click()
        page.keyboard.press("n")

    def looked(self) -> dict[str, list[str]]:
        """Return what stands in the log, by part."""
        rows = Observation.objects.filter(kind="part", superseded_by=None)
        return {row.value["part"]: row.value["finds"] for row in rows}

    def go_another_way(self, page: Page, way: str, why: str) -> None:
        """Depart from the workshop's ways in this case: one side or both."""
        page.get_by_text("The workshop’s ways in this case").click()
        page.get_by_label("In what").click()
        page.get_by_role("option", name="One side or both").click()
        page.get_by_role("radio", name=re.compile(f"^{way}")).click()
        page.get_by_label("Why", exact=True).fill(why)
        page.get_by_role("button", name="Go this way in this case").click()

    def test_inspect_decide_find_more_decide_anew(self) -> None:
        """Dry and unmarked: repack, accepted and frozen. Then a pit under the grease: a new verdict; the old stays."""
        page = self.at("/open?hub=A1L")
        for part, finds in (
            ("Grease cap", ["Tight and whole"]),
            ("Cotter pin", ["Tight, locked"]),
            ("Adjusting nut", ["Tight, locked"]),
            ("Outer bearing", ["Dry, stiff"]),
            ("Hub, inside", ["Seat clean"]),
        ):
            self.look(page, part, *finds)
        expect(page.get_by_text("5 of 11 parts looked at")).to_be_visible()
        page.reload()
        expect(page.get_by_role("heading", name="Seal", exact=True)).to_be_visible()
        self.look(page, "Seal", "Torn, hard")
        self.look(page, "Inner bearing", "Dry, stiff")
        self.look(page, "Outer cup", "Smooth and unmarked")
        self.look(page, "Inner cup", "Smooth and unmarked")
        expect(page.get_by_role("heading", name="Spindle", exact=True)).to_be_visible()
        page.get_by_role("link", name="Decide A1L").click()
        advice = page.get_by_label("Advice")
        expect(advice).to_contain_text("Clean and repack, new seal")
        expect(page.get_by_label("How far can it go")).to_contain_text("No distance is promised")
        expect(page.get_by_label("What each choice costs")).to_contain_text("advised")
        page.get_by_role("button", name="Accept").click()
        page.wait_for_url("**/verdicts/*")
        first = page.url
        expect(page.get_by_label("Decided")).to_contain_text("Clean and repack")

        page.goto(f"/cases/{self.case.id}/open?hub=A1L&part=outer_cup")
        self.look(page, "Outer cup", "Pits or flakes")
        expect(page.get_by_role("list", name="Parts in the order")).to_contain_text("pits or flakes")
        self.assertEqual(self.looked()["outer_cup"], ["pits"])
        page.keyboard.press("d")
        expect(page.get_by_text("2 entries have changed since")).to_be_visible()  # the old look, and the new
        expect(page.get_by_label("Advice")).to_contain_text("Replace the bearing")
        page.get_by_role("button", name="Decide anew").click()
        expect(page.get_by_label("Decided")).to_contain_text("Replace the bearing")
        page.goto(first)
        expect(page.get_by_label("Decided")).to_contain_text("Clean and repack")
        page.get_by_role("link", name="Read the newer one").click()
        expect(page.get_by_label("Decided")).to_contain_text("Replace the bearing")
        page.get_by_role("link", name="Do it").click()
        expect(page.get_by_role("heading", name="Do: A1L")).to_be_visible()
        self.assertEqual([v.choice for v in Verdict.objects.all()], ["repack", "replace_bearing"])
        self.assertEqual(self.faults, [])

    def test_otherwise_with_a_reason_and_on_paper(self) -> None:
        """A mechanic decides otherwise, says why, and takes the PDF along, in inches."""
        page = self.at("/open?hub=A1L&part=outer_cup")
        self.look(page, "Outer cup", "Pits or flakes")
        expect(page.get_by_text("1 of 11 parts looked at")).to_be_visible()
        page.keyboard.press("d")
        page.get_by_label("What to do").click()
        page.get_by_role("option", name="Leave it, with a recheck").click()
        page.get_by_role("button", name="Accept").click()
        expect(page.get_by_role("alert")).to_contain_text("Say why in a few words")
        page.get_by_label("Why differently").fill("Goes to scrap on Friday")
        page.get_by_role("button", name="Accept").click()
        expect(page.get_by_label("Decided")).to_contain_text("Against the advice (Replace the bearing)")
        with page.expect_download() as loading:
            page.get_by_role("link", name="PDF, inches").click()
        paper = PdfReader(io.BytesIO(Path(loading.value.path()).read_bytes()))
        text = " ".join(" ".join(sheet.extract_text() for sheet in paper.pages).split())
        for words in ("Goes to scrap on Friday", "Outer cup: pits or flakes", "rolling contact fatigue"):
            self.assertIn(words, text)
        self.assertEqual([fault for fault in self.faults if "422" not in fault], [])

    def test_a_job_that_waits_for_parts(self) -> None:
        """What is ordered stands on the job and on the board until it is here; shown as waiting without a line."""
        accept(self.user, self.case.id, hub="A1L", choice="replace_bearing", reason="worn")
        page = self.at("/do?hub=A1L")
        page.route("**/observations*", lambda route: route.abort("connectionreset"))
        page.get_by_label("Ordered, and waited for").fill("cone, cup, seal")
        page.get_by_role("button", name="It waits for these").click()
        expect(page.get_by_text("cone, cup, seal, waiting")).to_be_visible()
        page.unroute("**/observations*")
        self.try_now(page)
        expect(page.get_by_role("region", name="Parts")).to_contain_text("aiting for parts: cone, cup, seal")
        page.goto("/")
        board = page.get_by_role("region", name="Open cases")
        expect(board).to_contain_text("cone, cup, seal")
        page.goto(f"/cases/{self.case.id}/do?hub=A1L")
        page.get_by_role("button", name="The parts are here").click()
        expect(page.get_by_label("Ordered, and waited for")).to_be_visible()
        self.all_sent(page)
        page.goto("/")
        expect(board).not_to_contain_text("cone, cup, seal")

    def test_a_choice_stays_the_persons_own(self) -> None:
        """Another way, a refresh or a reload leaves it; a reason for what is advised after all is not frozen."""
        page = self.at("/open?hub=A1L&part=outer_cup")
        self.look(page, "Outer cup", "Pits or flakes")
        expect(page.get_by_text("1 of 11 parts looked at")).to_be_visible()
        page.keyboard.press("d")
        choice = page.get_by_label("What to do")
        choice.click()
        page.get_by_role("option", name="Leave it, with a recheck").click()
        page.get_by_label("Why differently").fill("Goes to scrap on Friday")
        self.go_another_way(page, "Both sides", "The other is as old")
        expect(page.get_by_text("(1 otherwise)")).to_be_visible()
        expect(choice).to_contain_text("Leave it")
        page.reload()
        expect(choice).to_contain_text("Leave it")
        expect(page.get_by_label("Why differently")).to_have_value("Goes to scrap on Friday")
        choice.click()
        page.get_by_role("option", name="Replace the bearing").click()
        page.get_by_role("button", name="Accept, A1L and A1R").dblclick(no_wait_after=True)
        page.wait_for_url("**/verdicts/*")
        decided = sorted(Verdict.objects.values_list("hub", "choice", "reason"))
        mate = ("A1R", "replace_bearing", "Both sides of the axle, with A1L.")  # where leaving it is advised
        self.assertEqual(decided, [("A1L", "replace_bearing", ""), mate])
        self.assertEqual(self.faults, [])

    def test_photograph_offline_on_a_phone(self) -> None:
        """Taken while the network is away, kept on the phone, sent when it is back, and shown without its place."""
        page = self.at("/open?hub=A1L&part=outer_cup", size=PHONE)
        page.get_by_role("heading", name="Outer cup", exact=True).wait_for()
        page.route("**/photos", lambda route: route.abort() if route.request.method == "POST" else route.continue_())
        with tempfile.NamedTemporaryFile(suffix=".jpg") as file:
            file.write(camera_jpeg((600, 400)))
            file.flush()
            page.get_by_label("Photographs of Outer cup").set_input_files(file.name)
            expect(page.get_by_text("1 waiting")).to_be_visible()
            page.unroute("**/photos")
            expect(page.get_by_role("img", name=re.compile("Outer cup, photograph 1"))).to_be_visible()
        sent = page.request.get(page.get_by_role("img", name=re.compile("photograph 1")).get_attribute("src") or "")
        self.assertEqual(dict(Image.open(io.BytesIO(sent.body())).getexif()), {})
        page.get_by_role("button", name="Take photograph 1 back").click()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("img", name=re.compile("photograph 1"))).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])

    def test_the_workshops_ways(self) -> None:
        """Chosen, priced and limited; refused in words with nothing lost; one case goes another way with a reason."""
        page = self.at("/policy")
        page.get_by_role("radio", name=re.compile("^Both sides of the axle")).click()
        page.get_by_label("An hour of work").fill("a lot")
        expect(page.get_by_text("Figures only: “a lot” was not taken.")).to_be_visible()
        expect(page.get_by_label("An hour of work")).to_have_value("")
        page.get_by_label("An hour of work").fill("72")
        page.reload()
        expect(page.get_by_label("An hour of work")).to_have_value("72")
        castle = page.get_by_label("Limits of end play").get_by_role("button", name=re.compile("castle nut"))
        castle.click()
        opened = page.get_by_label("Limits of end play").get_by_role("group", name=re.compile("castle nut"))
        opened.get_by_label("Most", exact=True).fill("0,2")
        opened.get_by_label("Where from").fill("manual, page 41")
        page.get_by_role("button", name="Save the workshop’s ways").click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        page.reload()
        expect(castle).to_contain_text("0.200 mm: manual, page 41")
        page.goto(f"/cases/{self.case.id}/open?hub=A1L&part=outer_cup")
        self.look(page, "Outer cup", "Pits or flakes")
        expect(page.get_by_text("1 of 11 parts looked at")).to_be_visible()
        page.keyboard.press("d")
        expect(page.get_by_label("Advice")).to_contain_text("Both sides of the axle")
        self.go_another_way(page, "The faulty side", "Only one set in the drawer")
        expect(page.get_by_text("Only one set in the drawer")).to_be_visible()
        expect(page.get_by_label("Advice")).not_to_contain_text("Both sides of the axle")
        self.assertEqual([fault for fault in self.faults if "422" not in fault], [])

    def test_which_bearing(self) -> None:
        """From a caliper in inches to both sides of the axle, with the near misses and the estimated orders."""
        page = self.at(f"/vehicles/{self.vehicle.id}/bearings?hub=A1R")
        page.get_by_role("button", name="Units").click()
        page.get_by_role("radio", name="in", exact=True).click()
        page.keyboard.press("Escape")
        for label, figure in (("Bore", "1.0625"), ("Outside", "1.98"), ("Width", "0.5.6")):
            page.get_by_label(label).first.fill(figure)
        page.get_by_role("button", name="Find it").click()
        expect(page.get_by_text("“0.5.6” is not a whole figure")).to_be_visible()
        page.get_by_label("Width").first.fill("0.56")
        page.get_by_role("button", name="Find it").click()
        fits = page.get_by_label("What fits")
        expect(fits).to_contain_text("cone L44649, cup L44610")
        expect(fits).to_contain_text("smaller in the bore")
        page.get_by_role("radio", name="Inner bearing").click()
        page.get_by_role("button", name="This is it").click()
        expect(page.get_by_label("Kept on A1R")).to_contain_text("Inner bearing: L44649/L44610")
        expect(page.get_by_label("Kept on A1R")).to_contain_text("Estimated")
        kept = {hub.name for hub in Hub.objects.all() if any(r.get("designation") for r in hub.bearings)}
        self.assertEqual(kept, {"A1L", "A1R"})
