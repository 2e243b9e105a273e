"""Practice in a real browser: by keyboard, on a phone, and nothing of what is hidden on the wire."""

import re
from contextlib import suppress

from hematite.training import draw, observe, options, topics, vehicle_of
from people.models import User, Workshop
from playwright.sync_api import Error, Page, Response, expect
from recordings.hearing import hear_recording
from recordings.models import Recording
from workshop.tests.browser import PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD

from training.models import Exercise, Round

SEED = 48_271_993


class Practice(BrowserTestCase):
    """One learner at their bench."""

    def setUp(self) -> None:
        """Make them."""
        self.user = User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        self.heard: list[str] = []

    def exercise(self, topic: str, matter: str, *, number: int = 1, made: Round | None = None) -> Exercise:
        """Return an exercise whose truth is known here."""
        vehicle, truth = draw(topic, matter, number=1, seed=SEED)
        made = made or Round.objects.create(person=self.user)
        return Exercise.objects.create(
            round=made, number=number, topic=topic, matter=matter, level=1, vehicle=vehicle, truth=truth.to_json()
        )

    def come_in(self, **more: object) -> Page:
        """Return a page, signed in, of which everything that comes over the wire is kept."""
        page = self.open(**more)
        page.on("response", self.keep)
        page.goto("/")
        page.get_by_label("Name").fill("ours")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("link", name="Practice").click()
        expect(page.get_by_role("heading", name="hubs that answer")).to_be_visible()
        return page

    def keep(self, response: Response) -> None:
        """Keep what is text: answers, pages and scripts."""
        kind = response.headers.get("content-type", "")
        if any(word in kind for word in ("json", "script", "html", "text")):
            with suppress(Error):  # a page that was left
                self.heard.append(response.text())

    def assert_nothing_told(self, exercise: Exercise) -> None:
        """Fail where a figure of the truth, or what is hidden in words, came over the wire."""
        text, truth = "\n".join(self.heard), exercise.hidden
        figures = [truth.seed, *truth.trouble.values(), *truth.play_mm.values()]
        hidden = [str(figure) for figure in figures if len(str(figure)) > 4]
        hidden.append(topics()[exercise.topic].matters[exercise.matter].label)
        self.assertEqual([word for word in hidden if word in text], [])
        self.assertGreater(len(text), 100_000)  # pages and scripts were read

    def hear_all(self, exercise: Exercise) -> None:
        """Hear what was recorded, as a worker does."""
        for row in Recording.objects.filter(case=exercise.id, analysis__state="waiting"):
            hear_recording(str(row.id))

    def test_a_question_by_keyboard(self) -> None:
        """Four wheels recorded, the ear's guess before any plot, an answer, what is told; the next question."""
        first = self.exercise("corner", "outer_race")
        second = self.exercise("play", "clear", number=2, made=first.round)
        page = self.come_in()
        page.keyboard.press("n")
        expect(page.get_by_role("heading", name="Which?")).to_be_visible()
        self.assert_accessible(page, "a question")
        page.keyboard.press("n")
        expect(page.get_by_role("button", name="Record A1L")).to_be_visible()
        for hub in ("1", "2", "3", "4"):
            page.keyboard.press(hub)
            page.keyboard.press("Space")
            self.until(lambda hub=hub: Recording.objects.filter(case=first.id).count() == int(hub), hub)
            self.hear_all(first)
            expect(page.get_by_text("shown once your own ear has spoken").first).to_be_visible()
        page.goto(f"/cases/{first.id}/bench")
        expect(page.get_by_role("heading", name="Your ear first")).to_be_visible()
        page.keyboard.press(",")
        expect(page.locator("audio")).to_have_count(4)
        place = str([hub.id for hub in _hubs(first)].index(first.hidden.at) + 1)
        page.keyboard.press(place)
        page.keyboard.press("d")
        page.keyboard.press("n")
        expect(page.get_by_role("heading", name="Your answer")).to_be_visible()
        self.assert_nothing_told(first)
        page.keyboard.press(place)
        page.keyboard.press("g")
        page.keyboard.press("n")
        told = page.get_by_role("region", name="What is told")
        expect(told).to_contain_text("Right")
        expect(told).to_contain_text("A mark on the outer race")
        spoke = page.get_by_role("region", name="What spoke for it")
        expect(spoke.locator("audio").first).to_be_visible()  # what spoke can be heard there and then
        self.assert_accessible(page, "what is told")
        page.keyboard.press("n")
        expect(page.get_by_role("heading", name="Measure the play")).to_be_visible()
        page.keyboard.press("n")
        page.get_by_role("button", name="Simulated gauge").click()
        expect(page.get_by_role("group", name="Gauge on the line")).to_be_visible()
        page.keyboard.press(",")
        page.get_by_role("heading", name="Your answer").wait_for()
        for key in ("3", "h", "n"):
            page.keyboard.press(key)
        expect(told).to_contain_text("Over the window")
        page.keyboard.press("n")
        expect(page.get_by_role("heading", name="How sure against").or_(page.get_by_text("2 answers"))).to_be_visible()
        for name, file in (("CSV", "how-sure.csv"), ("Picture", "how-sure.png")):
            with page.expect_download() as saved:
                page.get_by_role("button", name=name).first.click()
            self.assertEqual(saved.value.suggested_filename, file)
        second.refresh_from_db()
        self.assertEqual((second.right, second.sure), (True, 0.97))
        self.assertEqual(self.faults, [])

    def test_a_hub_opened_on_a_phone(self) -> None:
        """By touch at 390 px: parts looked at on the bench, an answer, the harm of a wrong one; nothing is wider."""
        made = self.exercise("opened", "marked")
        page = self.come_in(size=PHONE, has_touch=True)
        page.get_by_role("button", name=re.compile("Go on with the round")).tap()
        page.get_by_role("button", name=re.compile("Begin")).tap()
        for _ in range(3):
            page.get_by_role("button", name="Look at it on the practice hub").tap()
            expect(page.get_by_text(re.compile("^Logged by"))).to_be_visible()
            page.get_by_role("button", name="Next part").tap()
        self.assert_nothing_told(made)
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        page.get_by_role("link", name=re.compile("Answer")).tap()
        page.get_by_role("radio", name=re.compile("Leave it")).tap()
        page.get_by_role("radio", name=re.compile("fairly sure")).tap()
        page.get_by_role("button", name=re.compile("^Answer")).tap()
        expect(page.get_by_role("alert")).to_contain_text("A wheel that may fail")
        self.assert_accessible(page, "what is told, on a phone")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        self.assertEqual(self.faults, [])

    def test_an_order_on_a_phone(self) -> None:
        """Steps are touched one after another, one is taken back, and what came too early is told; nothing is wider."""
        made = self.exercise("order", "repack")
        best = observe(made.hidden, vehicle_of(made.vehicle)).given["order"]
        words = {one.key: one.words for one in options(made.hidden, vehicle_of(made.vehicle))}
        page = self.come_in(size=PHONE, has_touch=True)
        page.get_by_role("button", name=re.compile("Go on with the round")).tap()
        page.get_by_role("button", name=re.compile("Begin")).tap()
        left = page.get_by_role("region", name="What comes next?")
        order = page.get_by_role("region", name="Your order")
        for step in (best[-1], best[0], best[1]):
            left.get_by_text(words[step], exact=True).tap()
        page.get_by_role("link", name="Look how the hub is built").tap()
        page.get_by_role("heading", name="Open").first.wait_for()
        page.get_by_role("link", name=re.compile("^Answer")).tap()
        expect(order.get_by_role("listitem")).to_have_count(3)  # what was begun is there again
        order.get_by_role("button", name=re.compile("^1 ")).tap()
        self.assert_accessible(page, "an order, on a phone")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        for step in best[2:]:
            left.get_by_text(words[step], exact=True).tap()
        page.get_by_role("radio", name=re.compile("fairly sure")).tap()
        page.get_by_role("button", name=re.compile("^Answer")).tap()
        expect(page.get_by_role("region", name="What is told")).to_contain_text("Right")
        expect(page.get_by_role("region", name="Your order").get_by_role("listitem")).to_have_count(len(best))
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        self.assertEqual(self.faults, [])

    def test_a_nut_is_set_on_the_bench(self) -> None:
        """Angle, dial, the lock's place, the dial again, kept; then the answer, and where it stands."""
        made = self.exercise("setting", "free")
        page = self.come_in()
        page.keyboard.press("n")
        page.get_by_role("button", name=re.compile("Begin")).click()
        page.get_by_role("heading", name="Setting bench").wait_for()
        after = page.get_by_role("button", name="Next move")
        angle = page.get_by_role("textbox", name="Backed off by")
        nut = observe(made.hidden, vehicle_of(made.vehicle)).given["nut"]
        while not angle.is_visible():
            after.click()
        angle.fill(f"{nut['angle_deg']:.0f}")
        after.click()
        self.read_three(page)
        expect(page.get_by_text("by the dial: in the window")).to_be_visible()
        after.click()
        page.get_by_role("button", name="Simulated lock").click()
        expect(page.get_by_text(re.compile("Lock it .* back"))).to_be_visible()
        after.click()
        after.click()
        self.read_three(page)
        expect(page.get_by_text("locked: in the window")).to_be_visible()
        self.assert_nothing_told(made)
        page.get_by_role("button", name="Keep the setting").click()
        expect(page.get_by_text("Kept with this step")).to_be_visible()
        self.until(lambda: made.round.exercises.get().case.worked.filter(sum="nut").exists(), "the nut is kept")
        page.keyboard.press(",")
        page.get_by_role("heading", name="Your answer").wait_for()
        for key in ("1", "g", "n"):
            page.keyboard.press(key)
        told = page.get_by_role("region", name="What is told")
        expect(told).to_contain_text("Right")
        expect(told).to_contain_text("the window is 0.025 to 0.125 mm")
        self.assertEqual(self.faults, [])

    def read_three(self, page: Page) -> None:
        """Take three spans off the simulated gauge."""
        gauge = page.get_by_role("group", name="Gauge on the line")
        if not gauge.is_visible():
            page.get_by_role("button", name="Simulated gauge").click()
        for n in range(1, 4):
            expect(gauge.get_by_text(re.compile(r"span 0\.0[3-9]|span 0\.1"))).to_be_visible()
            page.keyboard.press("t")
            expect(page.get_by_label(f"Reading {n}")).not_to_have_value("")

    def test_what_is_believed_is_kept_back(self) -> None:
        """The walkround says nothing of what it believes, nor does any screen that would; after the answer they do."""
        made = self.exercise("decide", "brake")
        page = self.come_in()
        page.keyboard.press("n")
        expect(page.get_by_role("heading", name="Find what is wrong")).to_be_visible()
        page.keyboard.press("n")
        expect(page.get_by_text("Find out for yourself")).to_be_visible()
        expect(page.get_by_role("region", name="Next")).to_have_count(0)
        page.goto(f"/cases/{made.id}/spin?hub={made.hidden.at}")
        page.get_by_role("button", name="Do it on the practice vehicle").wait_for()
        page.keyboard.press(".")
        self.until(lambda: made.round.exercises.get().case.observations.filter(kind="spin").exists(), "it is logged")
        for screen in ("why", "guide", "decide", "do", "prove"):
            page.goto(f"/cases/{made.id}/{screen}")
            expect(page.get_by_role("heading", name="The bench keeps its opinion")).to_be_visible()
        self.assert_nothing_told(made)
        page.get_by_role("link", name="The question").click()
        page.get_by_role("heading", name="Your answer").wait_for()
        place = [hub.id for hub in _hubs(made)].index(made.hidden.at)
        for key in ("qwer"[place], "6", "f"):
            page.keyboard.press(key)
        expect(page.get_by_role("radio", name="Look elsewhere")).to_be_checked()
        page.keyboard.press("n")
        expect(page.get_by_role("region", name="What is told")).to_contain_text("Right")
        page.goto(f"/cases/{made.id}/decide")
        expect(page.get_by_role("heading", name="The bench keeps")).to_have_count(0)
        self.assertEqual(self.faults, [])


def _hubs(exercise: Exercise):

    return list(vehicle_of(exercise.vehicle).hubs())
