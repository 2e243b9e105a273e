"""Rechecks as a calendar: iCalendar (RFC 5545), whole days, one event for each."""

from collections.abc import Iterable
from datetime import timedelta

from django.utils import timezone
from hematite.language import say
from icalendar import Alarm, Calendar, Event

from upkeep.models import Recheck
from upkeep.words import by_when, label_of, why_of

PRODUCT = "-//Hematite//Rechecks//EN"
A_DAY = timedelta(days=1)


def calendar(rows: Iterable[Recheck], *, name: str, site: str) -> bytes:
    """Return rechecks as iCalendar. An event keeps its number, so that a calendar moves it instead of doubling it."""
    made = Calendar()
    made.add("prodid", PRODUCT)
    made.add("version", "2.0")
    made.add("method", "PUBLISH")
    made.add("x-wr-calname", name)
    made.add("refresh-interval", timedelta(hours=6), parameters={"VALUE": "DURATION"})
    for row in rows:
        made.add_component(_event(row, site))
    return made.to_ical()


def _event(row: Recheck, site: str) -> Event:
    event = Event()
    where = f" {row.hub}" if row.hub else ""
    event.add("uid", f"{row.id}@hematite")
    event.add("dtstamp", timezone.now())
    event.add("dtstart", row.expected_on)
    event.add("dtend", row.expected_on + A_DAY)
    event.add("summary", f"{row.vehicle.label}{where}: {label_of(row)}")
    event.add("description", "\n".join(_said(row)))
    event.add("url", f"{site}/vehicles/{row.vehicle_id}")
    event.add("transp", "TRANSPARENT")
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", event["summary"])
    alarm.add("trigger", timedelta(hours=-16))  # eight in the morning of the day before
    event.add_component(alarm)
    return event


def _said(row: Recheck) -> list[str]:
    parts = [why_of(row), f"{by_when(row, {}).capitalize()}."]
    if row.due_on and row.expected_on != row.due_on:
        parts.append(say("The day is made from how much it is driven; the odometer decides."))
    return [part for part in parts if part]
