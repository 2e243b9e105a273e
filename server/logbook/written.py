"""Writing into the logbook by hand, and bringing along a book that was kept elsewhere."""

import json
from collections import Counter
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any
from uuid import NAMESPACE_URL, UUID, uuid5

from django.db import transaction
from django.utils import timezone
from garage.models import Vehicle
from garage.services import get_vehicle
from hematite.doors import one_of, within
from hematite.errors import HematiteError
from hematite.language import figure, later, say, small
from people.models import User
from upkeep import services as upkeep
from upkeep.counting import Counting
from upkeep.usage import usage_of
from workshop.refusals import Refusal
from workshop.superseding import to_supersede

from logbook.models import Entry
from logbook.tables import Table

KINDS = {
    "fitted": later("Part fitted"),
    "greased": later("Greased"),
    "torqued": later("Torqued"),
    "set": later("Play set"),
    "measured": later("Play measured"),
    "looked": later("Looked at"),
    "note": later("Note"),
}
CHANGES = ("fitted", "greased", "set")  # after which a play says nothing of what was measured before
TEXTS = ("part", "number", "batch", "grease", "words", "by")
FIGURES = {"play_mm": "play_mm", "torque_nm": "torque_nm", "km": "odometer_km"}  # with their limits
ANYWHERE = timedelta(days=1)  # what is today where the workshop lies may be yesterday here
ODOMETER = "odometer"  # a line of a table that is a reading and nothing else


@transaction.atomic
def write(user: User, vehicle_id: UUID, data: dict) -> Entry:
    """Write a line into a vehicle's logbook, its odometer with it. The same number sent again is the same line."""
    vehicle = get_vehicle(user, vehicle_id)
    known = Entry.objects.filter(id=data["id"]).first()
    if known is not None and known.vehicle_id != vehicle.id:
        raise Refusal("id_taken", say("This line's number is taken by another. Write it again."))
    if known is not None:
        return known
    upkeep.hold(vehicle)
    book = _Book(user, vehicle)
    row = book.write(data)
    book.close()
    return row


class _Book:
    """A vehicle's book that nobody else writes to, with the readings that came with its lines."""

    def __init__(self, user: User, vehicle: Vehicle) -> None:
        self.user, self.vehicle = user, vehicle
        self.lines = set(vehicle.entries.values_list("id", flat=True))
        self.counting = Counting(usage_of(vehicle).readings)
        self.known = set(vehicle.readings.values_list("id", flat=True))
        self.read_anew = False

    def write(self, data: dict) -> Entry:
        """Write a line, its odometer with it."""
        row = _checked(self.user, self.vehicle, data)
        row.save(force_insert=True)
        if row.km is not None and not row.withdrawn:
            self.read(row.id, row.on, row.km)
        return row

    def read(self, of: UUID, on: date, km: float) -> bool:
        """Enter an odometer reading that came with a line, unless the same stands there of that day; return whether."""
        number = _number(str(of), ODOMETER)
        if number in self.known or any(one.km == km for one in self.counting.of_day(on)):
            return False
        upkeep.enter(self.user, self.vehicle, {"id": number, "on": on, "km": km}, self.counting)
        self.read_anew = True
        return True

    def close(self) -> None:
        """Foretell anew what is due where the odometer was read."""
        if self.read_anew:
            upkeep.renew(self.vehicle)


def _checked(user: User, vehicle: Vehicle, data: dict) -> Entry:
    """Return a line that may stand in the book."""
    replaced = to_supersede(vehicle.entries, data.get("supersedes"), "line")
    if data["on"] > timezone.localdate() + ANYWHERE:
        raise Refusal("ahead", say("That day is still to come. Give the day on which it was done."), status=422)
    one_of(data["kind"], KINDS, say("kind of entry"))
    hub = data.get("hub") or ""
    if hub:
        one_of(hub, [one.name for axle in vehicle.axles.all() for one in axle.hubs.all()], say("hub of this vehicle"))
    figures = {name: data.get(name) for name in FIGURES}
    figures = {name: None if value is None else within(value, FIGURES[name]) for name, value in figures.items()}
    texts = {name: _text(name, data.get(name)) for name in TEXTS}
    gone = data.get("withdrawn", False)
    if not gone and not any(texts.values()) and all(value is None for value in figures.values()):
        raise Refusal("empty", say("Say what was done: a part, a figure, or a word."), status=422)
    return Entry(
        id=data["id"], vehicle=vehicle, hub=hub, on=data["on"], kind=data["kind"], person=user, supersedes=replaced,
        withdrawn=gone, source=data.get("source") or "", **texts, **figures,
    )  # fmt: skip


def _text(name: str, value: object) -> str:
    text, most = str(value or "").strip(), Entry._meta.get_field(name).max_length or 0
    if len(text) > most:
        raise Refusal(
            "too_long",
            say("“{text}…” is too long: {most} characters is the most.", text=text[:30], most=most),
            status=422,
        )
    return text


def lines(vehicle: Vehicle) -> list[tuple[Entry, bool]]:
    """Return every line that says something, oldest first, and whether another took its place."""
    rows = list(vehicle.entries.select_related("person"))
    replaced = {row.supersedes_id for row in rows}
    return [(row, row.id in replaced) for row in rows if not row.withdrawn]


@dataclass
class Brought:
    """What became of a table: how many lines of each kind are new, how many were here, and what is amiss."""

    table: Table
    new: Counter = field(default_factory=Counter)
    here: int = 0
    amiss: list[str] = field(default_factory=list)


@transaction.atomic
def bring(user: User, vehicle_id: UUID, table: Table, source: str) -> Brought:
    """Write the lines of a table that are not here yet: each stands or is named. Brought twice it is there once."""
    vehicle = get_vehicle(user, vehicle_id)
    upkeep.hold(vehicle)
    book = _Book(user, vehicle)
    found = Brought(table, amiss=list(table.amiss))
    seen: Counter = Counter()
    for n, line in sorted(table.lines, key=lambda one: one[1]["on"]):
        said = json.dumps(line, default=str, sort_keys=True)
        seen[said] += 1  # two lines alike are two, each with a number of its own
        number = _number(str(vehicle.id), f"{said} {seen[said]}")
        try:
            with transaction.atomic():
                new = _bring(book, number, line, source)
        except (HematiteError, Refusal) as wrong:
            found.amiss.append(say("Line {n}: {wrong}", n=n, wrong=wrong))
            continue
        found.new[line["kind"]] += new
        found.here += not new
    book.close()
    return found


def _bring(book: _Book, number: UUID, line: dict[str, Any], source: str) -> bool:
    """Write one line of a table; return whether it is new."""
    if line["kind"] == ODOMETER:
        return book.read(number, line["on"], within(line["km"], FIGURES["km"]))
    if number in book.lines:
        return False
    book.write(line | {"id": number, "source": source[:120]})
    return True


def _number(*of: str) -> UUID:
    """Return the number that follows from what it is of."""
    return UUID(int=uuid5(NAMESPACE_URL, " ".join(of)).int, version=4)


def words_of(row: Entry) -> str:
    """Return a line of the book in words."""
    part = " ".join(
        one for one in (row.part, row.number, say("(batch {batch})", batch=row.batch) if row.batch else "") if one
    )
    figures = [
        say("play {play_mm:.3f} mm", play_mm=row.play_mm) if row.play_mm is not None else "",
        f"{figure(row.torque_nm, '.1f')} N·m" if row.torque_nm is not None else "",
        say("at {km:,.0f} km", km=row.km) if row.km is not None else "",
    ]
    said = [part, row.grease, row.words, *figures, say("by {by}", by=row.by) if row.by else ""]
    source = say(" (from {source})", source=row.source) if row.source else ""
    return f"{small(say(KINDS[row.kind]))}: {', '.join(one for one in said if one)}{source}"
