"""The logbook and its trends, asked for."""

from dataclasses import asdict
from typing import Annotated, Literal
from uuid import UUID

from django.core.paginator import Paginator
from django.http import HttpRequest, HttpResponse
from hematite.language import later, say, small
from ninja import Field, File, Form, Query, Router, UploadedFile
from people.permissions import READ, May
from workshop import confined
from workshop.refusals import Refusal
from workshop.shape import Schema
from workshop.trying import tried

from logbook import paper, written
from logbook.growth import growth
from logbook.rows import KINDS, Row, csv_of, rows_of
from logbook.schemas import BroughtOut, GrowthOut, LineIn, LogbookOut
from logbook.tables import MOST_BYTES, Table, read_table
from logbook.written import KINDS as WRITTEN

router = Router(tags=["logbook"])
PAGE = 60
Order = Literal["", "day_first", "month_first"]
COLUMNS = {
    "on": later("the day"),
    "hub": later("the hub"),
    "kind": later("what was done"),
    "words": later("a note"),
    "part": later("the part"),
    "number": later("its number"),
    "batch": later("its batch"),
    "grease": later("the grease"),
    "torque_nm": later("the torque"),
    "play_mm": later("the play"),
    "km": later("the odometer"),
    "by": later("who did it"),
}


class Asked(Schema):
    """Which lines are asked for."""

    hub: Annotated[str, Field(max_length=8)] = ""
    kind: Annotated[str, Field(max_length=12)] = ""
    word: Annotated[str, Field(max_length=80)] = ""

    def words(self) -> str:
        """Return in words what is left out."""
        parts = (self.hub, small(say(KINDS.get(self.kind, ""))), f"“{self.word}”" if self.word else "")
        said = ", ".join(part for part in parts if part)
        return say(": {said} only", said=said) if said else ""


@router.get("/vehicles/{uuid:vehicle_id}/logbook", response=LogbookOut)
def get_logbook(request: HttpRequest, vehicle_id: UUID, asked: Query[Asked], page: int = Query(1, ge=1)):
    """Return a page of everything that was found, done and fitted at a vehicle."""
    vehicle, rows = rows_of(request.user, vehicle_id, **asked.dict())
    found = Paginator(rows, PAGE)
    return {
        "vehicle_label": vehicle.label,
        "hubs": [hub.name for axle in vehicle.axles.all() for hub in axle.hubs.all()],
        "kinds": [{"key": key, "label": say(label)} for key, label in KINDS.items()],
        "writes": [{"key": key, "label": say(label)} for key, label in WRITTEN.items()],
        "rows": [_out(row) for row in found.get_page(page)],
        "count": found.count,
        "pages": found.num_pages,
    }


def _out(row: Row) -> dict:
    return asdict(row) | {"kind_label": say(KINDS[row.kind])}


@router.post("/vehicles/{uuid:vehicle_id}/logbook", response={201: None})
def write_entry(request: HttpRequest, vehicle_id: UUID, payload: LineIn):
    """Write a line by hand. Sent twice it is one line."""
    written.write(request.user, vehicle_id, payload.dict())
    return 201, None


@router.post("/vehicles/{uuid:vehicle_id}/logbook/table/look", auth=May(READ), response=BroughtOut)
def look_at_table(request: HttpRequest, vehicle_id: UUID, table: File[UploadedFile], dates: Form[Order] = ""):
    """Return what bringing a table along would do. Nothing of it stays."""
    read = _read(table, dates)
    return _brought(tried(lambda: written.bring(request.user, vehicle_id, read, table.name or "")))


@router.post("/vehicles/{uuid:vehicle_id}/logbook/table", response={201: BroughtOut})
def bring_table(request: HttpRequest, vehicle_id: UUID, table: File[UploadedFile], dates: Form[Order] = ""):
    """Bring a table along: what can be read stands, what cannot is named. Brought twice it adds nothing."""
    read = _read(table, dates)
    if read.open_dates:
        raise Refusal("open_dates", say("Say whether the day or the month stands first in its dates."), status=422)
    return 201, _brought(written.bring(request.user, vehicle_id, read, table.name or ""))


def _read(table: UploadedFile, dates: str) -> Table:
    return confined.read(read_table, table.read(MOST_BYTES + 1), dates)


def _brought(found: written.Brought) -> dict:
    days = [line["on"] for _, line in found.table.lines]
    labels = WRITTEN | {written.ODOMETER: KINDS["odometer"]}
    return {
        "columns": [{"heading": name, "taken_for": say(COLUMNS.get(key, ""))} for name, key in found.table.columns],
        "open_dates": found.table.open_dates,
        "first_on": min(days, default=None),
        "last_on": max(days, default=None),
        "new": [{"label": say(labels[kind]), "count": count} for kind, count in found.new.items() if count],
        "here": found.here,
        "amiss": found.amiss,
    }


@router.get("/vehicles/{uuid:vehicle_id}/logbook.csv", response={200: None})
def get_csv(request: HttpRequest, vehicle_id: UUID, asked: Query[Asked]):
    """Return the logbook as CSV."""
    _, rows = rows_of(request.user, vehicle_id, **asked.dict())
    answer = HttpResponse(csv_of(rows), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="logbook.csv"'
    return answer


@router.get("/vehicles/{uuid:vehicle_id}/logbook.pdf", response={200: None})
def get_pdf(request: HttpRequest, vehicle_id: UUID, asked: Query[Asked]):
    """Return the logbook on paper."""
    vehicle, rows = rows_of(request.user, vehicle_id, **asked.dict())
    liked = request.user.preferences.get("units", {})
    made = paper.pdf(vehicle, rows, asked=asked.words(), liked=liked)
    answer = HttpResponse(made, content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="logbook.pdf"'
    return answer


@router.get("/vehicles/{uuid:vehicle_id}/growth", response=GrowthOut)
def get_growth(request: HttpRequest, vehicle_id: UUID):
    """Return how what was measured at each hub grew over its visits."""
    return growth(request.user, vehicle_id)
