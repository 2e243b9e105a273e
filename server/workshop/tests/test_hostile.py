"""What nobody's page sends: hostile numbers are refused in words, and no fault of ours is shown."""

import errno
import json
import random
import re
import uuid
from unittest import mock

from django.db import DataError, OperationalError
from django.test import override_settings
from people import staff

from workshop.api import api
from workshop.tests.people import WorkshopTestCase, wav

UUIDS = re.compile(r"{(case|vehicle|recording|photo|verdict|recheck|entry|feel)_id}")


class Hostile(WorkshopTestCase):
    """Every operation, as an owner."""

    def test_numbers_that_are_none(self) -> None:
        """UUIDs of versions and variants that nobody makes, for every number in an address and in a body."""
        dice = random.Random(5)
        numbers = [uuid.UUID(bytes=bytes([0x80] * 16)), uuid.UUID(int=0), uuid.UUID(int=2**128 - 1)]
        numbers += [uuid.UUID(int=dice.getrandbits(128)) for _ in range(3)]
        for path, methods in api.get_openapi_schema()["paths"].items():
            for number in map(str, numbers) if "_id}" in path else ():
                filled = re.sub(r"{\w+}", "7", UUIDS.sub(number, path))
                for method in methods:
                    body = json.dumps({"id": number})
                    answer = self.client.generic(method.upper(), filled, body, content_type="application/json")
                    self.assertLess(answer.status_code, 500, f"{method} {filled}: {answer.content[:300]!r}")

    def test_a_list_where_an_object_belongs(self) -> None:
        """It is not read as an object that says nothing: nothing is stored by default."""
        policy = self.client.get("/api/policy").json()
        kept = {name: policy[name] for name in ("limits", "prices", "shop") if name in policy}
        said = kept | {"change": str(uuid.uuid4()), "revision": policy["revision"], "prices": ["x"]}
        answer = self.client.put("/api/policy", said, content_type="application/json")
        self.assertEqual(answer.status_code, 422, answer.content[:300])
        self.assertIn("an object belongs here", answer.json()["message"])
        self.assertEqual(self.client.get("/api/policy").json(), policy)

    def test_a_form_without_its_boundary(self) -> None:
        """What no browser sends is no fault of the program."""
        for path in ("cases", f"cases/{self.case.id}/recordings", "bundles"):
            answer = self.client.post(f"/api/{path}", b"x", content_type="multipart/form-data")
            self.assertEqual((answer.status_code, answer.json()["code"]), (400, "unreadable"), path)

    def test_a_full_disk_and_a_database_away(self) -> None:
        """Said so, with a status by which a device waits and sends it again."""
        faults = [
            (OSError(errno.ENOSPC, "No space left on device"), 507, "full"),
            (OperationalError(1114, "The table is full"), 507, "full"),
            (OperationalError(2006, "Server has gone away"), 503, "database_away"),
            (OperationalError(1213, "Deadlock found"), 503, "at_once"),
        ]
        for fault, status, code in faults:
            with mock.patch.object(staff, "staff", side_effect=fault), self.assertLogs("workshop.refusals", "WARNING"):
                answer = self.client.get("/api/people")
            self.assertEqual((answer.status_code, answer.json()["code"]), (status, code))
        with override_settings(KEPT_FREE_BYTES=2**62), self.assertLogs("workshop.refusals", "ERROR"):
            self.assertEqual(self.record("A1L", wav(seconds=2)).status_code, 507)
        self.assertEqual(self.record("A1L", wav(seconds=2)).status_code, 201)

    def test_half_a_letter(self) -> None:
        """A surrogate without its other half is no JSON to the database: refused in words, wherever it stands."""
        for words in ("\ud800", [None, "\ud800"]):
            said = {"id": str(uuid.uuid4()), "kind": "note", "hub": "", "value": {"words": words}}
            answer = self.client.post(
                f"/api/cases/{self.case.id}/observations", json.dumps(said), content_type="application/json"
            )
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "malformed"))

    def test_what_the_database_takes_for_no_value(self) -> None:
        """Refused in words: MariaDB takes fewer UUIDs than there are."""
        with mock.patch.object(staff, "staff", side_effect=DataError(1292, "Incorrect uuid value")):
            answer = self.client.get("/api/people")
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "malformed"))
