"""What a bundle carries beside what the core reads: the workshop's own rows, field by field."""

from collections.abc import Callable
from datetime import date, datetime, timedelta
from functools import cache
from typing import Any
from uuid import UUID

from cases.models import Observation
from django.core.exceptions import ValidationError
from django.db.models import Field, Model
from django.utils import timezone
from hematite.doors import mapped
from hematite.errors import BadBundle
from hematite.language import later, say
from jobs.models import StepEntry
from logbook.models import Entry
from people.models import User
from photos.models import Photo
from recordings.models import Recording
from sums.models import Worked
from upkeep.models import Feel, Reading, Recheck
from verdicts.models import Departure, Verdict

from bundles.numbers import renumbered

# In the order in which they are taken in: a job before what was found after it.
OF_A_CASE: dict[str, type[Model]] = {
    "verdicts": Verdict,
    "departures": Departure,
    "observations": Observation,
    "recordings": Recording,
    "photos": Photo,
    "steps": StepEntry,
    "worked": Worked,
    "rechecks": Recheck,
}
OF_A_VEHICLE: dict[str, type[Model]] = {"readings": Reading, "feels": Feel, "entries": Entry, "rechecks": Recheck}
WORDS: dict[str, str] = {
    "verdicts": later("Decisions"),
    "departures": later("Departures from the ways"),
    "observations": later("Finds"),
    "recordings": later("Recordings"),
    "photos": later("Photographs"),
    "steps": later("Entries of work"),
    "worked": later("Sums"),
    "rechecks": later("Rechecks"),
    "readings": later("Odometer readings"),
    "feels": later("Hubs felt on the way"),
    "entries": later("Lines written by hand"),
}

# Of the place where a row lies, not of the row: made anew where it is taken in.
LOCAL = {"id", "case", "vehicle", "workshop", "sound", "file", "sent_sha256", "width", "height", "brief"}
# Of a case: what the simulated pickup plays, and what a practice case hides, is nobody's to read.
LOCAL |= {"came_from", "simulated", "practice", "withheld"}
CLOCKS = timedelta(days=1)  # how far the clocks of two workshops may lie apart
FORETOLD = {"expected_on", "soonest_on", "latest_on", "passed"}  # follows from the readings


@cache
def fields_of(model: type[Model]) -> tuple[Field, ...]:
    """Return the fields of a row that a bundle carries."""
    return tuple(one for one in model._meta.concrete_fields if one.name not in LOCAL | FORETOLD)


def is_person(field: Field) -> bool:
    """Return whether a field says who."""
    return field.is_relation and field.related_model is User


def row_out(row: Model, number: Callable[[UUID], UUID]) -> dict[str, Any]:
    """Return a row as a bundle holds it: people by their names, other rows by the numbers that bundles have of them."""
    said = {"id": str(row.pk)} | {one.name: _value_out(row, one) for one in fields_of(type(row))}
    return renumbered(said, number)


def _value_out(row: Model, field: Field) -> Any:
    if is_person(field):
        person = getattr(row, field.name)
        return person.shown_name if person else None
    value = field.value_from_object(row)
    if isinstance(value, datetime | date):
        return value.isoformat()
    return str(value) if isinstance(value, UUID) else value


def row_in(model: type[Model], data: object, *, number: Callable[[str], UUID], person: Callable[[str], User]) -> Model:
    """Return an unsaved row of what a bundle holds. Raises `BadBundle` in words that name the field.

    `number` gives the number that another row has here, `person` who stands here for a name.
    """
    data = mapped(data, "A row")
    row = model(pk=number(str(data.get("id"))))
    for field in fields_of(model):
        value = data.get(field.name)
        if is_person(field):
            setattr(row, field.name, None if value is None and field.null else person(str(value or "")))
        elif field.is_relation or field.get_internal_type() == "UUIDField":
            setattr(row, field.attname, number(str(value)) if value else None)
        elif value is None:
            setattr(row, field.attname, None if field.null else field.get_default())
        else:
            setattr(row, field.attname, _clean(row, field, value))
    return row


def _clean(row: Model, field: Field, value: Any) -> Any:
    try:
        clean = field.to_python(value) if value in field.empty_values else field.clean(value, row)
    except ValidationError as wrong:
        raise BadBundle(f"{field.name}: {' '.join(wrong.messages)}") from None
    if isinstance(clean, datetime):
        clean = clean if timezone.is_aware(clean) else timezone.make_aware(clean)
        if clean > timezone.now() + CLOCKS:
            raise BadBundle(say("{name}: {clean:%Y-%m-%d} has not come yet.", name=field.name, clean=clean))
    return clean
