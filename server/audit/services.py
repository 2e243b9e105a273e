"""Writing traces down, and reading them."""

from collections.abc import Iterable, Mapping
from typing import Protocol

from django.db.models import QuerySet

from audit.models import Trace

What = Trace.What


class Somebody(Protocol):
    """A person of a workshop."""

    pk: int
    workshop_id: int


def trace(user: Somebody, what: What, about: object = "", details: Iterable[str] = ()) -> None:
    """Write down that somebody did something."""
    Trace.objects.create(
        workshop_id=user.workshop_id, person_id=user.pk, what=what, about=str(about)[:160], details=list(details)
    )


def trace_of_itself(workshop_id: int, what: What, about: object = "", details: Iterable[str] = ()) -> None:
    """Write down what was done by a rule, by nobody."""
    Trace.objects.create(workshop_id=workshop_id, what=what, about=str(about)[:160], details=list(details))


def changed(before: Mapping, after: Mapping) -> list[str]:
    """Return the names of what differs between two descriptions."""
    return sorted(name for name in {*before, *after} if before.get(name) != after.get(name))


def rename(workshop_id: int, called: str, now: str) -> None:
    """Take a name out of what was written down: of a person, or of a vehicle and its cases."""
    if called:
        rows = Trace.objects.filter(workshop_id=workshop_id)
        rows.filter(about=called).update(about=now[:160])
        for row in rows.filter(about__startswith=f"{called} "):  # a case is named by its vehicle and its day
            Trace.objects.filter(pk=row.pk).update(about=f"{now} {row.about.removeprefix(called).strip()}"[:160])


def traces_of(user: Somebody) -> QuerySet[Trace]:
    """Return the traces of the workshop, the latest first."""
    return Trace.objects.filter(workshop_id=user.workshop_id).select_related("person")
