"""The logbook and its trends, asked for."""

from dataclasses import asdict
from typing import Annotated
from uuid import UUID

from django.core.paginator import Paginator
from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router, Schema

from logbook import paper
from logbook.growth import growth
from logbook.rows import KINDS, Row, csv_of, rows_of
from logbook.schemas import GrowthOut, LogbookOut

router = Router(tags=["logbook"])
PAGE = 60


class Asked(Schema):
    """Which lines are asked for."""

    hub: Annotated[str, Field(max_length=8)] = ""
    kind: Annotated[str, Field(max_length=12)] = ""
    word: Annotated[str, Field(max_length=80)] = ""

    def words(self) -> str:
        """Return in words what is left out."""
        parts = (self.hub, KINDS.get(self.kind, "").lower(), f"“{self.word}”" if self.word else "")
        said = ", ".join(part for part in parts if part)
        return f": {said} only" if said else ""


@router.get("/vehicles/{uuid:vehicle_id}/logbook", response=LogbookOut)
def get_logbook(request: HttpRequest, vehicle_id: UUID, asked: Query[Asked], page: int = Query(1, ge=1)):
    """Return a page of everything that was found, done and fitted at a vehicle."""
    vehicle, rows = rows_of(request.user, vehicle_id, **asked.dict())
    found = Paginator(rows, PAGE)
    return {
        "vehicle_label": vehicle.label,
        "hubs": [hub.name for axle in vehicle.axles.all() for hub in axle.hubs.all()],
        "kinds": [{"key": key, "label": label} for key, label in KINDS.items()],
        "rows": [_out(row) for row in found.get_page(page)],
        "count": found.count,
        "pages": found.num_pages,
    }


def _out(row: Row) -> dict:
    return asdict(row) | {"kind_label": KINDS[row.kind]}


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
