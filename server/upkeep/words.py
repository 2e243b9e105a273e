"""When a recheck is due, on paper."""

from collections.abc import Mapping

from hematite.language import say
from workshop.languages import day
from workshop.paper import distance

from upkeep.models import Recheck


def by_when(row: Recheck, liked: Mapping[str, str]) -> str:
    """Return by when to look again, whichever comes first: a date, what the odometer will show, hours of work."""
    parts = [say("by {day}", day=day(row.due_on))] if row.due_on else []
    if row.due_km is not None:
        parts.append(say("at {due_km}", due_km=distance(row.due_km, liked)))
    elif row.after_km:
        parts.append(say("after {after_km}", after_km=distance(row.after_km, liked)))
    if row.due_hours is not None:
        parts.append(say("at {due_hours:,.0f} h", due_hours=row.due_hours))
    return " or ".join(parts)
