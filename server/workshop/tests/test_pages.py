"""The page, the API's document, and the one shape of every refusal."""

import json
import os
import subprocess
import sys
from collections import Counter
from collections.abc import Iterator
from unittest import mock

from django.db import OperationalError
from ninja import Schema

from workshop.api import api
from workshop.tests.people import WorkshopTestCase, vehicle_data


class Page(WorkshopTestCase):
    """The single page."""

    def test_every_address_is_the_page(self) -> None:
        """A reload on any screen answers with the page, never cached, with a CSRF cookie for its first request."""
        for address in ("/", "/sign-in", f"/cases/{self.case.id}/rock?hub=A1L", "/nowhere/at/all"):
            answer = self.client.get(address)
            self.assertEqual((answer.status_code, answer["Cache-Control"]), (200, "no-cache"))
            self.assertIn("csrftoken", answer.cookies)
            self.assertContains(answer, "<title>Hematite</title>")

    def test_inline_scripts_are_named_by_hash(self) -> None:
        """The policy lets the page's own starting script run, by its hash, and no other."""
        page = self.client.get("/")
        self.assertRegex(page["Content-Security-Policy"], r"script-src 'self' 'sha256-[A-Za-z0-9+/=]{44}'")

    def test_unknown_api_addresses_are_not_the_page(self) -> None:
        """A mistyped API address is a 404, not a page that pretends to be an answer."""
        self.assertEqual(self.client.get("/api/no-such-thing").status_code, 404)
        self.assertEqual(self.client.get("/api/cases/not-an-id").status_code, 404)


class Watched(WorkshopTestCase):
    """What watches over a server asks, and what it refuses to be."""

    def test_alive_and_ready(self) -> None:
        """Ready only with a database of this version and a place for sounds."""
        self.assertEqual(self.client.get("/healthz").json(), {"alive": True})
        self.assertEqual(self.client.get("/readyz").json(), {"ready": True, "database": True, "media": True})
        with mock.patch("workshop.health.MigrationExecutor", side_effect=OperationalError):
            answer = self.client.get("/readyz")
        self.assertEqual((answer.status_code, answer.json()["database"]), (503, False))
        with mock.patch("workshop.health.os.access", return_value=False):
            self.assertEqual(self.client.get("/readyz").status_code, 503)

    def test_no_server_without_a_key_of_its_own(self) -> None:
        """An unset or a short key: it says what to do and does not serve; commands still run."""
        for key, serves in (("", False), ("short", False), ("x" * 40, True)):
            environment = os.environ | {"HEMATITE_SECRET_KEY": key, "HEMATITE_VAR": "/nowhere"}
            command = [sys.executable, "-c", "import workshop.wsgi"]
            done = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
            self.assertEqual(done.returncode == 0, serves, done.stderr[-500:])
            if not serves:
                self.assertIn("No secret key", done.stderr)


class Refusals(WorkshopTestCase):
    """What happened, what is safe, what to do next; always in one shape."""

    def test_one_shape(self) -> None:
        """Whatever refuses, the body has a code, a message and fields."""
        answers = [
            self.send("vehicles", {"label": ""}),
            self.send("vehicles", vehicle_data() | {"tyre": "round"}),
            self.send("cases", {"vehicle": "not an id"}),
            self.client.get("/api/vehicles/00000000-0000-0000-0000-000000000000"),
            self.send(f"cases/{self.case.id}/finish", {"outcome": "x"}),
            self.client.post("/api/sums/nut", "{half", content_type="application/json"),
        ]
        for answer in answers:
            with self.subTest(answer.content[:80]):
                self.assertGreaterEqual(answer.status_code, 400)
                self.assertLessEqual({"code", "message", "fields"}, set(answer.json()))

    def test_fields_are_named(self) -> None:
        """A malformed form says which field is wrong, by its name."""
        body = vehicle_data() | {"label": "x" * 200, "axles": []}
        fields = self.send("vehicles", body).json()["fields"]
        self.assertEqual(set(fields), {"label", "axles"})

    def test_numbers_that_json_cannot_hold(self) -> None:
        """Infinity and text in a number are refused before anything is computed."""
        for angle in ("Infinity", "NaN", '"wide"'):
            raw = f'{{"values": {{"thread": "M24", "angle_deg": {angle}}}}}'
            answer = self.client.post("/api/sums/nut", raw, content_type="application/json")
            self.assertEqual(answer.status_code, 422, raw)


class Document(WorkshopTestCase):
    """OpenAPI."""

    def test_served_and_complete(self) -> None:
        """The document is served, and every operation says in a sentence what it does."""
        served = json.loads(self.client.get("/api/openapi.json").content)
        self.assertEqual(set(served["paths"]), set(api.get_openapi_schema()["paths"]))
        for path, methods in served["paths"].items():
            for method, operation in methods.items():
                self.assertTrue(operation.get("description"), f"{method} {path}")

    def test_no_two_shapes_of_one_name(self) -> None:
        """The document knows shapes by their name alone: of two with one name the later would stand for both."""

        def below(shape: type[Schema]) -> Iterator[type[Schema]]:
            for one in shape.__subclasses__():
                yield one
                yield from below(one)

        ours = [one.__name__ for one in set(below(Schema)) if one.__module__.endswith(("schemas", "api"))]
        self.assertEqual([name for name, count in Counter(ours).items() if count > 1], [])

    def test_reference_has_words_for_everything(self) -> None:
        """The screens name nothing by themselves: designs, answers, choices, lines and units come from here."""
        reference = self.client.get("/api/reference").json()
        for table in (
            "designs",
            "witnesses",
            "choices",
            "causes",
            "conditions",
            "line_kinds",
            "quantities",
            "lifts",
            "kinds",
        ):
            self.assertTrue(reference[table], table)
        for witness in reference["witnesses"]:
            self.assertTrue(all(option["words"] for option in witness["options"]), witness["key"])
        self.assertEqual(reference["least_readings"], 3)
