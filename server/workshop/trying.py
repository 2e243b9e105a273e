"""Trying what a change would do."""

from collections.abc import Callable
from typing import TypeVar

from django.db import transaction

T = TypeVar("T")


def tried(change: Callable[[], T]) -> T:
    """Make a change, take all of it back, and return what it answered: what is shown before it is made for good."""
    with transaction.atomic():
        answer = change()
        transaction.set_rollback(True)
    return answer
