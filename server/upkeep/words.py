"""When a recheck is due, on paper."""

from collections.abc import Mapping

from hematite.language import say
from workshop.languages import day
from workshop.paper import distance

from upkeep.models import Recheck

OWN = "own"  # the key of what somebody planned by themselves


def label_of(row: Recheck) -> str:
    """Return what is to be looked at: in the reader's language where it is of the core's table, else as typed."""
    return row.label if row.key == OWN else say(row.label)


def why_of(row: Recheck) -> str:
    """Return why it is looked at, likewise."""
    return row.why if row.key == OWN else say(row.why)


def by_when(row: Recheck, liked: Mapping[str, str]) -> str:
    """Return by when to look again, whichever comes first: a date, what the odometer will show, hours of work."""
    parts = [say("by {day}", day=day(row.due_on))] if row.due_on else []
    if row.due_km is not None:
        parts.append(say("at {due_km}", due_km=distance(row.due_km, liked)))
    elif row.after_km:
        parts.append(say("after {after_km}", after_km=distance(row.after_km, liked)))
    if row.due_hours is not None:
        parts.append(say("at {due_hours:,.0f} h", due_hours=row.due_hours))
    return say(" or ").join(parts)
