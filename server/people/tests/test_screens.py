"""People in the browser: a workshop set up, an apprentice on a phone, a password changed."""

from cases.services import open_case
from garage.services import add_vehicle
from playwright.sync_api import Page, expect
from workshop.tests.browser import DESKTOP, PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, vehicle_data

from people.invitations import set_up_code
from people.models import User, Workshop

WORD = "a long enough word"


class SetUp(BrowserTestCase):
    """An empty database."""

    def fill(self, page: Page, **said: str) -> None:
        """Type into fields."""
        for label, words in said.items():
            page.get_by_label(label.replace("_", " ")).fill(words)

    def test_from_nobody_to_an_apprentice_on_a_phone(self) -> None:
        """The code opens the workshop; a link lets somebody in, who may not decide until made mechanic; then leaves."""
        owner = self.open(size=DESKTOP)
        owner.goto("/")
        owner.get_by_role("link", name="Set up your workshop").click()
        owner.get_by_label("The code").fill("guessed")
        owner.get_by_role("button", name="Go on").click()
        expect(owner.get_by_role("alert")).to_contain_text("used already, or it is too old")
        self.faults.clear()  # the browser itself notes a refusal
        owner.goto("/sign-in")
        owner.goto(f"/set-up#{set_up_code()}")
        self.fill(owner, What_the_workshop_is_called="Low Road Garage", Your_name="Wren Tallow", A_password="short")
        owner.get_by_label("A name to sign in with").fill("wren")
        self.assert_accessible(owner, "set-up")
        owner.get_by_role("button", name="Come in").click()
        expect(owner.get_by_role("alert")).to_contain_text("too short")
        self.faults.clear()
        self.fill(owner, A_password=WORD)
        owner.get_by_role("button", name="Come in").click()
        expect(owner.get_by_role("heading", name="open case")).to_be_visible()

        user = User.objects.get()
        case = open_case(user, add_vehicle(user, vehicle_data()).id, "Growl")
        owner.get_by_role("link", name="You and the workshop’s people").click()
        owner.get_by_role("link", name="The people of Low Road Garage").click()
        owner.get_by_text("Apprentice").click()
        owner.get_by_role("button", name="Make a link").click()
        link = owner.get_by_text("/join#").inner_text()
        self.assert_accessible(owner, "people")

        phone = self.open(size=PHONE)
        phone.goto(link.replace(self.live_server_url, ""))
        expect(phone.get_by_text("as apprentice")).to_be_visible()
        self.fill(phone, Your_name="Rowan Ash", A_name_to_sign_in_with="rowan", A_password=WORD)
        self.assert_accessible(phone, "join on a phone")
        phone.get_by_role("button", name="Come in").click()
        expect(phone.get_by_role("heading", name="open case")).to_be_visible()
        phone.goto(f"/cases/{case.id}/decide?hub=A1L")
        expect(phone.get_by_text("As apprentice you may not decide")).to_be_visible()
        expect(phone.get_by_role("button", name="Accept")).to_have_count(0)

        owner.reload()
        rowan = owner.get_by_role("listitem", name="Rowan Ash")
        rowan.get_by_label("Role: Apprentice").click()
        owner.get_by_role("option", name="Mechanic").click()
        expect(rowan).to_contain_text("Mechanic")
        self.until(lambda: User.objects.get(username="rowan").role == "mechanic", "a mechanic")
        phone.reload()
        expect(phone.get_by_role("button", name="Accept").first).to_be_visible()
        rowan.get_by_role("button", name="Has left").click()
        expect(rowan.get_by_role("button", name="Is back")).to_be_visible()
        phone.goto("/")
        expect(phone.get_by_role("button", name="Sign in")).to_be_visible()


class Me(BrowserTestCase):
    """What is one's own."""

    def test_another_password_and_device(self) -> None:
        """Signed in twice: one is signed out from the other; the password is changed with the old one."""
        shop = Workshop.objects.create(name="Ours")
        User.objects.create_user("ours", password=PASSWORD, workshop=shop, role="mechanic")
        tablet = self.open(size=DESKTOP)
        self.sign_in(tablet)
        phone = self.open(size=PHONE)
        self.sign_in(phone)
        phone.goto("/me")
        places = phone.get_by_role("region", name="Where you are signed in").get_by_role("listitem")
        expect(places).to_have_count(2)
        self.assert_accessible(phone, "me on a phone")
        self.assertLessEqual(phone.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        phone.get_by_role("button", name="Sign it out").click()
        expect(places).to_have_count(1)
        tablet.goto("/")
        expect(tablet.get_by_role("button", name="Sign in")).to_be_visible()
        phone.get_by_label("The old one").fill(PASSWORD)
        phone.get_by_label("The new one").fill(WORD)
        phone.get_by_role("button", name="Change it").click()
        expect(phone.get_by_text("Every other device is signed out")).to_be_visible()
        self.assertTrue(User.objects.get().check_password(WORD))
        phone.goto("/people")
        expect(phone.get_by_text("As mechanic you may not change the workshop’s ways")).to_be_visible()
