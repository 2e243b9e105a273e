"""Who changes something says what they saw of it: nothing that somebody else changed meanwhile is lost."""

from collections.abc import Mapping
from typing import Any, Protocol
from uuid import UUID


class Revised(Protocol):
    """A row that counts its changes, and knows the number of the last."""

    revision: int
    change: UUID | None


def overtaken(row: Revised, data: Mapping[str, Any]) -> bool:
    """Return whether somebody else changed a row since `data` was made on top of it.

    `data` names the `revision` that was seen and, where the person's own last change was still on its way, that
    change (`after`): on top of exactly that one it is taken as well.
    """
    own = data["after"] is not None and row.change == data["after"]
    return row.revision != data["revision"] and not own
