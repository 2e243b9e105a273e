"""The logbook's rows: every case, reading, recording, verdict, step, sum and recheck, from their own tables."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date, datetime, time
from functools import cached_property
from uuid import UUID

from cases.models import Case
from cases.shown import observation_out
from cases.work import entered, said
from django.utils import timezone
from garage.core import core_vehicle
from garage.models import Vehicle
from garage.services import get_vehicle
from hematite.language import figure, later, say
from hematite.upkeep import feelings
from hematite.verdict import choices
from people.models import User
from policies.services import policy_of
from recordings.models import Recording
from upkeep.usage import usage_of
from upkeep.words import label_of
from verdicts.models import Verdict
from workshop.sheets import as_csv

from logbook.written import lines, words_of

KINDS = {
    "case": later("Cases"),
    "found": later("Found"),
    "heard": later("Recordings"),
    "decided": later("Decided"),
    "done": later("Done and set"),
    "again": later("Looked at again"),
    "road": later("On the road"),
    "written": later("Written by hand"),
    "odometer": later("Odometer"),
}
MOST = 5000
COLUMNS = ("when", "hub", "what", "words", "person", "odometer_km", "case")


@dataclass(frozen=True)
class Row:
    """One line of the logbook. `km`: what the odometer showed about then, None where nobody read it near that day."""

    at: datetime
    kind: str
    hub: str
    words: str
    person: str
    case: UUID | None = None
    km: float | None = None
    struck: bool = False
    written: UUID | None = None  # the line that somebody wrote by hand, to be struck out


class Past:
    """A vehicle with all that was kept of it, read once: a constant number of queries whatever its age."""

    def __init__(self, vehicle: Vehicle) -> None:
        """Take the vehicle."""
        self.vehicle = vehicle

    @cached_property
    def cases(self) -> list[Case]:
        """Return its cases with their log and work; the vehicle's description is made once for all of them."""
        rows = self.vehicle.cases.select_related("opened_by", "closed_by")
        found = list(rows.prefetch_related("observations__person", *entered()))
        policy = policy_of(self.vehicle.workshop_id)
        core = core_vehicle(self.vehicle, policy)
        for case in found:
            case.vehicle, case.policy, case.core = self.vehicle, policy, core
        return found


def rows_of(
    user: User, vehicle_id: UUID, *, hub: str = "", kind: str = "", word: str = ""
) -> tuple[Vehicle, list[Row]]:
    """Return a vehicle's logbook, the latest first, by hub, by kind and by a word in it."""
    vehicle = get_vehicle(user, vehicle_id)
    past = Past(vehicle)
    known = [row for name, read in _READ.items() if kind in ("", name) for row in read(past)]
    wanted = [r for r in known if hub in ("", r.hub) and word.lower() in f"{r.words} {r.person}".lower()]
    return vehicle, sorted(wanted, key=lambda row: row.at, reverse=True)[:MOST]


def _of_cases(past: Past) -> Iterator[Row]:
    for case in past.cases:
        yield Row(case.opened_at, "case", "", case.complaint or say("opened"), case.opened_by.shown_name, case.id)
        if case.came_from:
            taken = datetime.fromisoformat(case.came_from["taken_at"])
            words = say(
                "taken in from a bundle of {workshop}", workshop=case.came_from["workshop"] or say("nobody named")
            )
            yield Row(taken, "case", "", words, case.came_from["by"], case.id)
        if case.closed_at and case.closed_by:
            words = " ".join(part for part in (case.outcome, case.closing, case.unproven_because) if part)
            yield Row(
                case.closed_at, "case", "", say("closed: {words}", words=words), case.closed_by.shown_name, case.id
            )


def _found(past: Past) -> Iterator[Row]:
    for case in past.cases:
        for entry in (observation_out(row, case.core) for row in case.log):
            off = entry["superseded"] or entry["withdrawn"]
            if entry["words"]:
                words, person = _with_figures(entry), entry["person"]
                yield Row(entry["found_at"], "found", entry["hub"], words, person, case.id, struck=off)


def _with_figures(entry: dict) -> str:
    """Return an entry's words with what was asked, a play with its mean in mm."""
    asked = f"{entry['test']}: " if entry["test"] else ""
    mean = entry["mean_mm"]
    return asked + (entry["words"] if mean is None else f"{entry['words']}, {figure(mean, '.3f')} mm")


def _heard(past: Past) -> Iterator[Row]:
    rows = Recording.objects.filter(case__vehicle=past.vehicle).select_related("person", "sound")
    for row in rows:
        after = say(", after the job") if row.after_repair else ""
        words = say("recorded, {duration_s:.0f} s{after}", duration_s=row.sound.duration_s, after=after)
        yield Row(row.made_at, "heard", row.place, words, row.person.shown_name, row.case_id, struck=row.withdrawn)


def _decided(past: Past) -> Iterator[Row]:
    rows = Verdict.objects.filter(case__vehicle=past.vehicle).select_related("person")
    for row in rows.only("at", "hub", "choice", "reason", "case", "person"):
        words = choices()[row.choice] + (f" ({row.reason})" if row.reason else "")
        yield Row(row.at, "decided", row.hub, words, row.person.shown_name, row.case_id)


def _done(past: Past) -> Iterator[Row]:
    for case in past.cases:
        for entry in said(case):
            person, off = entry["person"], entry["undone"]
            yield Row(entry["at"], "done", entry["hub"], entry["words"], person, case.id, struck=off)


def _again(past: Past) -> Iterator[Row]:
    for row in past.vehicle.rechecks.select_related("done_by", "planned_by"):
        yield Row(
            row.planned_at,
            "again",
            row.hub,
            say("planned: {label}", label=label_of(row)),
            row.planned_by.shown_name,
            row.case_id,
        )
        if row.done_at and row.done_by:
            words = f"{label_of(row)}: {row.said}"
            yield Row(row.done_at, "again", row.hub, words, row.done_by.shown_name, row.opened_id or row.case_id)


def _road(past: Past) -> Iterator[Row]:
    for row in past.vehicle.feels.select_related("person"):
        where = say(" at {place}", place=row.place) if row.place else ""
        words = say("{felt}, stop {stop}{where}", felt=feelings()[row.felt], stop=row.stop, where=where)
        yield Row(row.felt_at, "road", row.hub, words, row.person.shown_name)


def _written(past: Past) -> Iterator[Row]:
    for row, off in lines(past.vehicle):
        own, who = None if off else row.id, row.person.shown_name
        yield Row(noon(row.on), "written", row.hub, words_of(row), who, km=row.km, struck=off, written=own)


def _odometer(past: Past) -> Iterator[Row]:
    for row in usage_of(past.vehicle).readings:
        stood = [f"{figure(row.km, ',.0f')} km"] if row.km is not None else []
        stood += [f"{figure(row.hours, 'g')} h"] if row.hours is not None else []
        yield Row(noon(row.on), "odometer", "", " and ".join(stood), row.person.shown_name, km=row.km)


def noon(day: date) -> datetime:
    """Return the noon of a day: what is known by its day only stands there."""
    return timezone.make_aware(datetime.combine(day, time(12)))


_READ: dict[str, Callable[[Past], Iterator[Row]]] = {
    "case": _of_cases,
    "found": _found,
    "heard": _heard,
    "decided": _decided,
    "done": _done,
    "again": _again,
    "road": _road,
    "written": _written,
    "odometer": _odometer,
}


def csv_of(rows: list[Row]) -> str:
    """Return rows as CSV, times in ISO 8601."""
    return as_csv(COLUMNS, (_cells(row) for row in rows))


def _cells(row: Row) -> tuple[str, ...]:
    words = say("struck out: {words}", words=row.words) if row.struck else row.words
    km = "" if row.km is None else f"{row.km:.0f}"
    return (row.at.isoformat(timespec="minutes"), row.hub, row.kind, words, row.person, km, str(row.case or ""))
