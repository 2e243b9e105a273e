"""The logbook on paper."""

from collections.abc import Mapping, Sequence

from garage.models import Vehicle
from hematite.language import say
from reportlab.lib.units import mm
from workshop.languages import day
from workshop.paper import SMALL, TITLE, grid, line, made

from logbook.rows import KINDS, Row

WIDTHS = (23 * mm, 11 * mm, 24 * mm, 94 * mm, 28 * mm)


def pdf(vehicle: Vehicle, rows: Sequence[Row], *, asked: str, liked: Mapping[str, str]) -> bytes:
    """Return a vehicle's logbook as PDF, the latest first; `asked`: in words what was left out."""
    plate = f" ({vehicle.plate})" if vehicle.plate else ""
    cells = [[day(r.at), r.hub, say(KINDS[r.kind]), _words(r), r.person] for r in rows]
    story = [
        line(say("{name} · logbook{asked}", name=vehicle.workshop.name, asked=asked), SMALL),
        line(vehicle.label + plate, TITLE),
        grid([[say("When"), say("Hub"), say("What"), "", say("Who")], *cells], WIDTHS)
        if rows
        else line(say("Nothing is written down.")),
    ]
    return made(
        story, liked=liked, title=say("Logbook: {label}", label=vehicle.label), author="", subject=vehicle.label
    )


def _words(row: Row) -> str:
    return say("struck out: {words}", words=row.words) if row.struck else row.words
