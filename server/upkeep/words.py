"""When a recheck is due, on paper."""

from collections.abc import Mapping

from workshop.paper import distance

from upkeep.models import Recheck


def by_when(row: Recheck, liked: Mapping[str, str]) -> str:
    """Return by when to look again, whichever comes first: a date, what the odometer will show, hours of work."""
    parts = [f"by {row.due_on:%d %b %Y}"] if row.due_on else []
    if row.due_km is not None:
        parts.append(f"at {distance(row.due_km, liked)}")
    elif row.after_km:
        parts.append(f"after {distance(row.after_km, liked)}")
    if row.due_hours is not None:
        parts.append(f"at {row.due_hours:,.0f} h")
    return " or ".join(parts)
