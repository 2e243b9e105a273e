"""Logs are corrected by rows that supersede others: each once."""

from uuid import UUID

from django.db.models import Manager, Model
from django.http import Http404
from hematite.language import say

from workshop.refusals import Refusal


def to_supersede(rows: Manager, number: UUID | None, what: str) -> Model | None:
    """Return the row that a new one corrects, None where it corrects none. Raises Http404 for one that is not there.

    Refuses one that somebody corrected meanwhile; `what` it is, in a word.
    """
    old = rows.filter(id=number).first() if number else None
    if number and old is None:
        raise Http404
    if old is not None and hasattr(old, "superseded_by"):
        raise Refusal(
            "already_superseded", say("Somebody corrected this {what} meanwhile. Reload and look again.", what=what)
        )
    return old
