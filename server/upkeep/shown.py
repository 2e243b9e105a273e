"""Rechecks and readings as the screens see them."""

from hematite.language import later, say
from hematite.upkeep import STATES, Rate, asks

from upkeep.models import Reading, Recheck
from upkeep.services import state
from upkeep.words import label_of, why_of

FIELDS = (
    "id", "hub", "key", "label", "asks", "why", "due_on", "after_km", "due_km", "after_hours", "due_hours",
    "expected_on", "soonest_on", "latest_on", "done_at", "outside", "said",
)  # fmt: skip


def recheck_out(row: Recheck) -> dict:
    """Return a recheck with how it stands."""
    stands = state(row)
    return {name: getattr(row, name) for name in FIELDS} | {
        "label": label_of(row),
        "why": why_of(row),
        "vehicle": row.vehicle_id,
        "vehicle_label": row.vehicle.label,
        "case": row.case_id,
        "opened": row.opened_id,
        "state": stands,
        "state_label": say(STATES.get(stands, later("done"))),
        "planned_by": row.planned_by.shown_name,
        "done_by": row.done_by.shown_name if row.done_by else "",
    }


def reading_out(row: Reading) -> dict:
    """Return a reading."""
    return {name: getattr(row, name) for name in ("id", "on", "km", "hours")} | {"person": row.person.shown_name}


def rate_out(known: Rate | None) -> dict | None:
    """Return a rate with its doubt."""
    fields = ("per_day", "low", "high", "stretches", "words")
    return None if known is None else {name: getattr(known, name) for name in fields}


def asks_out() -> list[dict]:
    """Return how each kind of recheck is answered."""
    return [{"key": key, "good": ask.good, "bad": ask.bad, "reading": ask.reading} for key, ask in asks().items()]
