"""Every screen in German: chosen where one signs in, kept, and with no English word left on it."""

import re
import uuid

from cases.services import observe, open_case
from garage.services import add_vehicle
from hematite.language import speaking
from people.models import User, Workshop
from playwright.sync_api import Page, expect
from verdicts.services import accept

from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data

# English words that are no German ones and that hardly a sentence does without.
ENGLISH = re.compile(r"\b(?:the|and|not|with|what|is|of|are|this|that|from|to|by|it|has|have|its|look|hub|wheel|nut)\b")
CASE = ("", "?hub=A1L", "/why?hub=A1L", "/decide", "/do", "/prove", "/owner", "/hear", "/bench", "/lift", "/rock",
        "/spin", "/guide", "/sums?hub=A1R", "/open?hub=A1R&part=outer_cup", "/test/complaint", "/test/heat_over_mate",
        "/test/end_play?hub=A1L")  # fmt: skip
VEHICLE = ("", "/bearings", "/book", "/logbook", "/logbook/table", "/road", "/trend")
SHOP = (
    "/",
    "/me",
    "/people",
    "/policy",
    "/keeping",
    "/due",
    "/fleet",
    "/bundles",
    "/vehicles/new",
    "/phone",
    "/practice",
    "/practice/listen",
    "/practice/group",
)


class InGerman(BrowserTestCase):
    """A workshop that speaks German, with a case in which something was found, decided and begun."""

    def setUp(self) -> None:
        """Make it."""
        shop = Workshop.objects.create(name="Halle Drei")
        self.user = User.objects.create_user(
            "ours", password=PASSWORD, workshop=shop, role="owner", first_name="Erna Beispiel"
        )
        self.vehicle = add_vehicle(self.user, vehicle_data("Wagen Eins", design="taper_castle"))
        self.case = open_case(self.user, self.vehicle.id, "Brummt ab 60")

    def choose_german(self, page: Page) -> None:
        """Before signing in, and then as one's own."""
        page.goto("/sign-in")
        page.get_by_role("button", name="Deutsch").click()
        page.get_by_label("Passwort").fill(PASSWORD)
        page.get_by_label("Name").fill("ours")
        page.get_by_role("button", name="Anmelden").click()
        expect(page.get_by_role("heading", name="Ein offener Fall")).to_be_visible()
        page.goto("/me")
        page.get_by_role("radio", name="Deutsch").click()
        expect(page.get_by_role("heading", name="Deine Sprache")).to_be_visible()
        expect(page.locator("html")).to_have_attribute("lang", "de")
        self.until(lambda: User.objects.get(username="ours").language == "de", "the choice is kept")

    def found_and_decided(self) -> None:
        """Enter finds, and accept what they come to, as the page would in German."""
        with speaking("de"):
            for hub, kind, answer in (("A1L", "spin", "grinds"), ("A1L", "rock_12_6", "hub"), ("A1R", "spin", "free")):
                data = {"hub": hub, "kind": kind, "value": {"answer": answer}, "withdrawn": False, "waited_s": 0}
                observe(self.user, self.case.id, observation_id=uuid.uuid4(), data=data)
            accept(self.user, self.case.id, hub="A1L", choice="replace_bearing", reason="Probe")

    def not_german(self, page: Page, path: str) -> list[str]:
        """Return what is English in what is read or spoken of a page, and whether anything is wider than it."""
        page.goto(path)
        page.locator("h1, h2").first.wait_for()
        page.wait_for_load_state("networkidle")
        page.evaluate("document.querySelectorAll('details').forEach((one) => (one.open = true))")
        said = page.locator("main").inner_text().splitlines()
        said += page.evaluate(
            "[...document.querySelectorAll('[aria-label], [placeholder], [title]')].flatMap((one) =>"
            " ['aria-label', 'placeholder', 'title'].map((name) => one.getAttribute(name) ?? ''))"
        )
        left = [line for line in said if ENGLISH.search(line) and not line.startswith(("Mozilla", "Date, Hub"))]
        wider = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        return left + ([f"{wider} px wider than the screen"] if wider > 0 else [])

    maxDiff = None

    def test_every_screen(self) -> None:
        """On a desktop and, as German words are long, on a phone."""
        page = self.open()
        self.choose_german(page)
        self.found_and_decided()
        found = {}
        for size in (DESKTOP, PHONE):
            page.set_viewport_size(size)
            for path in (*SHOP, *(f"/vehicles/{self.vehicle.id}{at}" for at in VEHICLE),
                         *(f"/cases/{self.case.id}{at}" for at in CASE)):  # fmt: skip
                found[f"{path} at {size['width']}"] = self.not_german(page, path)
        self.assertEqual({path: left for path, left in found.items() if left}, {})
        self.assertEqual(self.faults, [])

    def test_figures_are_typed_and_read_as_german(self) -> None:
        """A comma parts decimals, in what is typed and in what is answered."""
        page = self.open()
        self.choose_german(page)
        page.goto(f"/cases/{self.case.id}/sums?hub=A1L")
        page.get_by_role("heading", name=re.compile("^Einstellplatz")).wait_for()
        page.get_by_role("tab", name="Drehmoment und Schlüssel").click()
        torque = page.get_by_role("region", name="Drehmoment und Schlüssel")
        torque.get_by_role("textbox", name="Drehmoment, oder das kleinste eines Bereichs").fill("112,5")
        expect(torque.get_by_text("112,5 N·m einstellen")).to_be_visible()
