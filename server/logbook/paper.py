"""The logbook on paper."""

from collections.abc import Mapping, Sequence

from garage.models import Vehicle
from reportlab.lib.units import mm
from workshop.paper import SMALL, TITLE, grid, line, made

from logbook.rows import KINDS, Row

WIDTHS = (23 * mm, 11 * mm, 24 * mm, 94 * mm, 28 * mm)


def pdf(vehicle: Vehicle, rows: Sequence[Row], *, asked: str, liked: Mapping[str, str]) -> bytes:
    """Return a vehicle's logbook as PDF, the latest first; `asked`: in words what was left out."""
    plate = f" ({vehicle.plate})" if vehicle.plate else ""
    cells = [[f"{r.at:%d %b %Y}", r.hub, KINDS[r.kind], _words(r), r.person] for r in rows]
    story = [
        line(f"{vehicle.workshop.name} · logbook{asked}", SMALL),
        line(vehicle.label + plate, TITLE),
        grid([["When", "Hub", "What", "", "Who"], *cells], WIDTHS) if rows else line("Nothing is written down."),
    ]
    return made(story, liked=liked, title=f"Logbook: {vehicle.label}", author="", subject=vehicle.label)


def _words(row: Row) -> str:
    return f"struck out: {row.words}" if row.struck else row.words
