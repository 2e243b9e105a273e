"""What nobody's page sends: hostile numbers are refused in words, and no fault of ours is shown."""

import json
import random
import re
import uuid
from unittest import mock

from django.db import DataError
from people import staff

from workshop.api import api
from workshop.tests.people import WorkshopTestCase

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

    def test_what_the_database_takes_for_no_value(self) -> None:
        """Refused in words: MariaDB takes fewer UUIDs than there are."""
        with mock.patch.object(staff, "staff", side_effect=DataError(1292, "Incorrect uuid value")):
            answer = self.client.get("/api/people")
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "malformed"))
