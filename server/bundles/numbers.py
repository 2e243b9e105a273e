"""Which number a row has in a workshop, and which in a bundle.

Two workshops of one server cannot have rows of one number. What comes from a neighbour is renumbered, in a way that is
undone when it leaves again: a row has the same number in every bundle, wherever it was.
"""

import hashlib
from collections.abc import Callable, Iterable
from contextlib import suppress
from typing import Any
from uuid import NAMESPACE_URL, UUID, uuid5

from django.db.models import Model
from people.models import User

OURS = uuid5(NAMESPACE_URL, "urn:hematite:bundle")
# Where a UUID says how it was made, and where of which kind it is (RFC 9562, sections 4.1 and 4.2).
VERSION, VARIANT = 0xF << 76, 0x3 << 62
# Every number of a row is of version 4. A neighbour's becomes one of version 6, which nothing here makes; version 8,
# which is left to everybody, is refused by MariaDB where the byte after it is 0x80.
OWN, TURNED = 4, 6
LETTERS = 36


def turned(number: UUID, workshop_id: int) -> UUID:
    """Return the number under which a workshop keeps a neighbour's row; turned again, the neighbour's own."""
    key = hashlib.sha256(f"{OURS} {workshop_id}".encode()).digest()[:16]
    return UUID(int=number.int ^ (int.from_bytes(key) & ~(VERSION | VARIANT)) ^ ((OWN ^ TURNED) << 76))


def own(number: UUID, workshop_id: int) -> UUID:
    """Return the number that a workshop's row has in a bundle."""
    return turned(number, workshop_id) if number.version == TURNED else number


def renumbered(value: Any, number: Callable[[UUID], UUID]) -> Any:
    """Return what is kept as JSON with every number in it as it is elsewhere."""
    if isinstance(value, dict):
        return {renumbered(key, number): renumbered(one, number) for key, one in value.items()}
    if isinstance(value, list):
        return [renumbered(one, number) for one in value]
    if not isinstance(value, str) or len(value) != LETTERS:
        return value
    try:
        return str(number(UUID(value)))
    except ValueError:
        return value


class Numbers:
    """The numbers of a bundle's rows here. The same bundle taken in twice has the same numbers twice."""

    def __init__(self, user: User, bundle: str) -> None:
        """Take who takes it in, and the bundle's own hash, for rows that bring no number."""
        self._user, self._bundle = user, bundle
        self._to: dict[UUID, UUID] = {}
        self.here: set[UUID] = set()

    def learn(self, model: type[Model], originals: Iterable[str]) -> None:
        """Learn which rows of one kind are here already, in two queries."""
        asked = {self._brought(one) for one in originals}
        elsewhere = {number: turned(number, self._user.workshop_id) for number in asked}
        candidates = [*elsewhere, *elsewhere.values()]
        taken = set(model.objects.filter(pk__in=candidates).values_list("pk", flat=True))
        mine = set(model.objects.seen_by(self._user).filter(pk__in=taken).values_list("pk", flat=True))
        for number, other in elsewhere.items():
            self._to[number] = other if other in mine or (number in taken and number not in mine) else number
        self.here |= mine

    def of(self, original: str) -> UUID:
        """Return the number that a row has here."""
        number = self._brought(original)
        return self._to.get(number, number)

    def within(self, value: Any) -> Any:
        """Return what is kept as JSON, with the numbers in it as they are here."""
        return renumbered(value, lambda number: self._to.get(number, number))

    def _brought(self, original: str) -> UUID:
        with suppress(ValueError):
            if (number := UUID(original)).version == OWN:
                return number
        return UUID(int=uuid5(OURS, f"{self._user.workshop_id} {self._bundle} {original}").int, version=OWN)
