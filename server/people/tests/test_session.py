"""Signing in: the right words, the wrong ones, too many of them; and the headers of every page."""

import json

from django.test import Client, override_settings
from workshop.tests.people import PASSWORD, WorkshopTestCase

from people import demo


class Session(WorkshopTestCase):
    """The session's own rules."""

    def enter(self, client: Client, password: str = PASSWORD, name: str = "ours", **headers: str):
        """Try to sign in."""
        body = json.dumps({"username": name, "password": password})
        return client.post("/api/session", body, content_type="application/json", headers=headers)

    def test_right_and_wrong(self) -> None:
        """The right words open, wrong ones do not say which was wrong."""
        self.assertEqual(self.enter(Client()).json()["person"]["workshop"], "ours")
        for attempt in (self.enter(Client(), "wrong"), self.enter(Client(), name="nobody")):
            self.assertEqual((attempt.status_code, attempt.json()["code"]), (401, "wrong_sign_in"))

    def test_too_many_tries(self) -> None:
        """After six wrong words even the right one waits."""
        client = Client()
        answers = [self.enter(client, "wrong").status_code for _ in range(7)]
        self.assertEqual(answers[-1], 429)
        self.assertEqual(self.enter(client).status_code, 429)
        self.assertIn("Wait", self.enter(client).json()["message"])

    def test_csrf(self) -> None:
        """A foreign page can neither sign in nor write."""
        strict = Client(enforce_csrf_checks=True)
        self.assertEqual(self.enter(strict).status_code, 403)
        token = strict.get("/api/session").cookies["csrftoken"].value
        self.assertEqual(self.enter(strict, **{"X-CSRFToken": token}).status_code, 200)
        refused = strict.post("/api/cases", json.dumps({}), content_type="application/json")
        self.assertEqual(refused.status_code, 403)

    def test_cookies_and_headers(self) -> None:
        """Cookies are secure and not for scripts; every answer carries its headers."""
        cookie = self.enter(Client()).cookies["sessionid"]
        self.assertTrue(cookie["secure"] and cookie["httponly"])
        page = self.client.get("/")
        policy = page["Content-Security-Policy"]
        self.assertIn("default-src 'self'", policy)
        self.assertNotIn("unsafe-eval", policy)
        self.assertNotRegex(policy, r"script-src[^;]*unsafe-inline")
        self.assertEqual((page["X-Frame-Options"], page["X-Content-Type-Options"]), ("DENY", "nosniff"))
        self.assertIn("microphone=(self)", page["Permissions-Policy"])

    def test_demo_is_offered_only_while_on(self) -> None:
        """The flag decides."""
        self.assertIsNone(Client().get("/api/session").json()["demo"])
        with override_settings(DEMO=True):
            self.assertEqual(Client().get("/api/session").json()["demo"], demo.SIGN_IN)

    def test_preferences(self) -> None:
        """Units and light are kept; unknown units are refused by name."""
        kept = self.send("preferences", {"units": {"length": "in"}, "light": "under"}, method="put").json()["person"]
        self.assertEqual((kept["units"], kept["light"]), ({"length": "in"}, "under"))
        refused = self.send("preferences", {"units": {"length": "cubit"}}, method="put")
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "unknown_unit"))

    def test_signing_out(self) -> None:
        """Signed out is out."""
        self.send("session", method="delete")
        self.assertEqual(self.client.get("/api/yard").status_code, 401)
