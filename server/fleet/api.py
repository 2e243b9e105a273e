"""The fleet, asked for."""

from dataclasses import asdict
from typing import Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router
from workshop.sheets import as_csv

from fleet import work
from fleet.past import past
from fleet.schemas import FleetOut, PastOut

router = Router(tags=["fleet"])

DEAREST = 50  # on the page; the table has all


@router.get("/fleet", response=FleetOut)
def get_fleet(request: HttpRequest):
    """Return the work to come by weeks, and the parts to order for all open jobs together."""
    jobs, more = work.open_work(request.user)
    return {"weeks": work.weeks(request.user, jobs), "orders": work.parts(jobs), "more": more}


@router.get("/fleet/past", response=PastOut)
def get_fleet_past(request: HttpRequest):
    """Return what came back too soon in three years, and what the dearest vehicles cost in one."""
    found = past(request.user)
    groups = [asdict(one) for one in found["comebacks"]]
    return {"comebacks": groups, "costs": found["costs"][:DEAREST], "vehicles": len(found["costs"])}


@router.get("/fleet/{table}.csv", response={200: None})
def get_fleet_csv(request: HttpRequest, table: Literal["weeks", "orders", "comebacks", "costs"]):
    """Return one of the fleet's tables as CSV."""
    head, rows = _TABLES[table](request.user)
    answer = HttpResponse(as_csv(head, rows), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{table}.csv"'
    return answer


def _weeks(user):
    rows = work.weeks(user, work.open_work(user)[0])
    names = ("looks", "jobs", "carried", "there_are")
    head = ("week", *(f"{name}_minutes" for name in names))
    return head, [(str(row["begins"]), *(f"{row[name]:.0f}" for name in names)) for row in rows]


def _orders(user):
    rows = work.parts(work.open_work(user)[0])
    said = lambda row: "; ".join(f"{one['vehicle_label']} {' '.join(one['hubs'])}" for one in row["wanted"])  # noqa: E731
    return ("part", "size", "count", "for"), [(r["label"], r["size"], str(r["count"]), said(r)) for r in rows]


def _comebacks(user):
    head = ("by", "name", "came_back", "of", "least_share", "most_share", "what_it_proves")
    rows = past(user)["comebacks"]
    return head, [(r.by, r.name, str(r.back), str(r.of), f"{r.low:.3f}", f"{r.high:.3f}", r.words) for r in rows]


def _costs(user):
    rows = [(row, one) for row in past(user)["costs"] for one in (row["cost"] or {"": None}).items()]
    return ("vehicle", "cost", "currency", "cases"), [
        (row["label"], "" if cost is None else f"{cost:.2f}", coin, str(row["cases"])) for row, (coin, cost) in rows
    ]


_TABLES = {"weeks": _weeks, "orders": _orders, "comebacks": _comebacks, "costs": _costs}
