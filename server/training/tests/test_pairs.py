"""Pairs over the API and in the browser: what X is stays hidden until it is said."""

import io
import re
import uuid

import numpy as np
import soundfile
from hematite.training.pairs import trial
from people.models import User, Workshop
from playwright.sync_api import expect
from workshop.tests.browser import PHONE, BrowserTestCase
from workshop.tests.people import PASSWORD, WorkshopTestCase

from training.models import Heard


class Pairs(WorkshopTestCase):
    """A trial from begin to end."""

    def begun(self, pair: str = "rings") -> dict:
        """Return a trial."""
        answer = self.send("training/pairs", {"id": str(uuid.uuid4()), "pair": pair, "level": 2})
        self.assertEqual(answer.status_code, 201)
        return answer.json()

    def test_what_x_is_comes_with_the_answer(self) -> None:
        """Three sounds of one length; before the answer nothing is told; the first answer counts; the tally grows."""
        made = self.begun()
        self.assertEqual((made["told"], made["sounds"], made["answers"]), (None, ["a", "b", "x"], ["a", "b"]))
        self.assertEqual(self.send("training/pairs", {"id": made["id"], "pair": "rings"}).json(), made)
        sounds = [self.client.get(f"/api/training/pairs/{made['id']}/{which}.wav") for which in "abx"]
        takes = [soundfile.read(io.BytesIO(one.content))[0] for one in sounds]
        self.assertEqual({len(one) for one in takes}, {len(takes[0])})
        self.assertFalse(np.array_equal(takes[2], takes[0]) or np.array_equal(takes[2], takes[1]))
        right = trial("rings", seed=Heard.objects.get().seed).right
        told = self.send(f"training/pairs/{made['id']}/said", {"said": right}).json()["told"]
        self.assertTrue(told["right"])
        self.assertEqual(set(told["names"].values()), {"mark on the outer race", "mark on the inner race"})
        other = {"a": "b", "b": "a"}[right]
        self.assertTrue(self.send(f"training/pairs/{made['id']}/said", {"said": other}).json()["told"]["right"])
        row = self.client.get("/api/training/pairs").json()["pairs"][0]
        self.assertEqual((row["right"], row["of"], row["by_chance"]), (1, 1, 0.5))

    def test_headphones(self) -> None:
        """Six trials, five of them right, are headphones; before six nothing is said of them."""
        for n in range(6):
            self.assertIsNone(self.client.get("/api/training/pairs").json()["headphones"])
            made = self.begun("headphones")
            right = trial("headphones", seed=Heard.objects.get(id=made["id"]).seed).right
            said = right if n else next(one for one in "123" if one != right)
            self.send(f"training/pairs/{made['id']}/said", {"said": said})
        self.assertTrue(self.client.get("/api/training/pairs").json()["headphones"])

    def test_refused(self) -> None:
        """An unknown pair, level, sound or answer, and another's trial."""
        made = self.begun()
        for body in ({"pair": "x"}, {"pair": "rings", "level": 9}, {"pair": "rings", "level": 0}):
            self.assertEqual(self.send("training/pairs", body).status_code, 422)
        self.assertEqual(self.client.get(f"/api/training/pairs/{made['id']}/c.wav").status_code, 422)
        self.assertEqual(self.send(f"training/pairs/{made['id']}/said", {"said": "x"}).status_code, 422)
        self.assertEqual(self.neighbour.get(f"/api/training/pairs/{made['id']}/x.wav").status_code, 404)


class PairsOnScreen(BrowserTestCase):
    """By touch on a phone, and by keys."""

    def test_a_pair_on_a_phone(self) -> None:
        """Each is heard once before it can be answered; then what they were is told, and one goes on."""
        User.objects.create_user("ours", password=PASSWORD, workshop=Workshop.objects.create(name="ours"))
        page = self.open(size=PHONE)
        page.goto("/practice/listen")
        page.get_by_label("Name").fill("ours")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("button", name="Listen to: Scrape or growl").click()
        answer = page.get_by_role("button", name="A", exact=True)
        expect(answer).to_be_disabled()
        for which in "ABX":
            page.get_by_role("button", name=f"Play {which}").click()
            expect(page.get_by_role("button", name=f"Play {which}")).to_contain_text(re.compile(f"{which} heard"))
        answer.click()
        expect(page.get_by_role("region", name="What it was")).to_contain_text("A scrape touches once a turn")
        self.assert_accessible(page, "a pair that was told")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        page.keyboard.press("n")
        expect(page.get_by_text("not heard yet")).to_have_count(3)
        self.assertEqual(self.faults, [])
