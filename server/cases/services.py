"""Opening, logging, closing."""

import hashlib
from datetime import timedelta
from uuid import UUID, uuid4

from django.core.paginator import Paginator
from django.db import IntegrityError, transaction
from django.db.models import Count, Exists, OuterRef, Prefetch, Q, QuerySet, Subquery, Sum, prefetch_related_objects
from django.http import Http404
from django.utils import timezone
from garage.models import Vehicle
from garage.services import AXLES, get_vehicle, vehicles_of
from hematite.doors import one_of
from hematite.evidence import Observation as CoreObservation
from hematite.evidence import statements
from hematite.evidence.complaint import read_text
from hematite.evidence.observations import AT_HUB, CHECK, KINDS, PARTS, WEIGH_NOTHING
from hematite.following import waits_for
from hematite.language import say
from hematite.proof import read_check
from people.models import User
from workshop.refusals import Refusal

from cases.left import left_of
from cases.models import Case, Observation, Withheld

PAGE_SIZE, CLOSED_SIZE = 24, 8
MOST_OPEN = 200  # on one board; the search finds the others


def cases_of(user: User) -> QuerySet[Case]:
    """Return the workshop's cases with vehicle and people, in one query."""
    return Case.objects.seen_by(user).select_related("vehicle", "opened_by", "closed_by")


def get_case(user: User, case_id: UUID) -> Case:
    """Return one case of the workshop, its vehicle complete, or raise Http404."""
    case = cases_of(user).filter(id=case_id).first()
    if case is None:
        raise Http404
    prefetch_related_objects([case.vehicle], *AXLES)
    return case


def case_itself(case_id: UUID) -> Case:
    """Return a case whoever asks, for what works on it by itself. Raises Http404."""
    case = Case.objects.select_related("vehicle").filter(id=case_id).first()
    if case is None:
        raise Http404
    prefetch_related_objects([case.vehicle], *AXLES)
    return case


def refuse_withheld(case: Case) -> None:
    """Refuse what was heard in a practice case before somebody has said what their own ear hears."""
    if case.withheld == Withheld.HEARD:
        raise Refusal("withheld", say("Your ear first: say what you hear, then the bench shows what it heard."))


def state_of(user: User, case_id: UUID) -> str:
    """Return a word for how a case stands, another one after every change, whoever made it and wherever.

    Asked for every few seconds by every screen that shows the case, so it counts rows and reads none.
    """
    case = Case.objects.seen_by(user).filter(id=case_id)
    facts = case.values_list("closed_at", "withheld", "vehicle__revision", "workshop__policy__revision").first()
    if facts is None:
        raise Http404
    withdrawn = Count("pk", filter=Q(withdrawn=True))
    recorded = {
        "off": withdrawn,
        "waiting": Count("pk", filter=Q(analysis__state="waiting")),
        "asked": Sum("analysis__asked"),
    }
    counted = [
        getattr(Case(id=case_id), rows).aggregate(Count("pk"), **more)
        for rows, more in (
            ("observations", {}),
            ("recordings", recorded),
            ("photos", {"off": withdrawn}),
            ("departures", {}),
            ("verdicts", {}),
            ("steps", {}),
            ("worked", {}),
        )
    ]
    return hashlib.sha256(repr((facts, counted)).encode()).hexdigest()[:16]


def open_case_of(user: User, case_id: UUID, *, alone: bool = False) -> Case:
    """Return a case that still takes entries; refuses a closed one. `alone`: others wait until this is stored."""
    if alone:
        Case.objects.seen_by(user).select_for_update().filter(id=case_id).first()
    case = get_case(user, case_id)
    if case.closed_at:
        raise Refusal("closed", say("This case is closed. Open a new one for this vehicle; what was kept stays."))
    return case


def yard(user: User, *, page: int, closed_page: int, search: str) -> dict:
    """Return the day's board, vehicles and closed cases, as far as they answer to a search.

    A constant number of queries.
    """
    vehicles, cases = vehicles_of(user), Case.objects.seen_by(user)
    for word in search.split():
        named = Q(label__icontains=word) | Q(plate__icontains=word) | Q(tyre__icontains=word)
        spoken = Q(complaint__icontains=word) | Q(outcome__icontains=word)
        of_vehicle = Q(vehicle__label__icontains=word) | Q(vehicle__plate__icontains=word)
        vehicles, cases = vehicles.filter(named), cases.filter(of_vehicle | spoken)
    shown = listed(cases)
    pages = Paginator(vehicles, PAGE_SIZE)
    closed = Paginator(
        shown.exclude(closed_at=None).order_by("-closed_at"),
        CLOSED_SIZE,
    )
    return {
        "vehicles": list(pages.get_page(page)),
        "vehicle_count": pages.count,
        "pages": pages.num_pages,
        "open_cases": _open(shown.filter(closed_at=None)),
        "open_count": cases.filter(closed_at=None).count(),
        "closed_cases": list(closed.get_page(closed_page)),
        "closed_pages": closed.num_pages,
    }


def _open(cases: QuerySet[Case]) -> list[Case]:
    """Return the open cases, each with what it `waits` for."""
    recorded, logged = Case.recordings.rel.related_model, Observation
    of_case = {"case": OuterRef("pk"), "withdrawn": False}
    found = Exists(logged.objects.filter(**of_case).exclude(kind__in=("complaint", *WEIGH_NOTHING)))
    parts = logged.objects.filter(**of_case, kind=PARTS, superseded_by=None).order_by("-at").values("value")[:1]
    heard = Exists(recorded.objects.filter(**of_case))
    known = cases.annotate(found=found | heard, parts=Subquery(parts))
    rows = list(known[:MOST_OPEN])
    lefts = left_of(rows)
    for case in rows:
        ordered = (case.parts or {}).get("answer") == "ordered"
        left = case.id in lefts and not lefts[case.id].finished
        case.waits = waits_for(decided=case.id in lefts, left=left, found=case.found, ordered=ordered)
        case.ordered = str(case.parts.get("text", "")) if case.waits == PARTS else ""
    return rows


def listed(cases: QuerySet[Case]) -> QuerySet[Case]:
    """Return cases as lists show them: who opened them, what the vehicle is called, what was decided, `in_brief`.

    Prefetched, not joined: joined, MariaDB starts from the people and sorts every case of the workshop.
    """
    decided = Case.verdicts.rel.related_model.objects.only("case", "hub", "choice", "at")
    vehicles = Vehicle.objects.only("label", "workshop", "revision", "change")
    return cases.defer("came_from", "simulated", "practice", "closing").prefetch_related(
        "opened_by", Prefetch("vehicle", vehicles), Prefetch("verdicts", decided, to_attr="in_brief")
    )


def history_of(user: User, vehicle_id: UUID) -> list[Case]:
    """Return a vehicle's cases, the latest first. Raises Http404 for one of another workshop."""
    vehicle = get_vehicle(user, vehicle_id)
    return list(listed(vehicle.cases.order_by("-opened_at"))[:MOST_OPEN])


@transaction.atomic
def open_case(user: User, vehicle_id: UUID, complaint: str, *, case_id: UUID | None = None) -> Case:
    """Open a case on a vehicle of the workshop. The same number asked for again is the same case."""
    vehicle = get_vehicle(user, vehicle_id)
    case, made = Case.objects.get_or_create(
        id=case_id or uuid4(),
        defaults={
            "workshop_id": user.workshop_id,
            "vehicle": vehicle,
            "complaint": complaint,
            "opened_by": user,
        },
    )
    if not made and (case.workshop_id, case.vehicle_id) != (user.workshop_id, vehicle.id):
        raise Refusal("id_taken", say("This case's number is taken by another. Open it again."))
    said = complaint_of(complaint) if made else {}
    if said:
        Observation.objects.create(case=case, kind="complaint", value=said, person=user)
    return get_case(user, case.id)


def complaint_of(text: str) -> dict:
    """Return a typed complaint as the witness that it is, in fields to be corrected; empty if it names nothing."""
    read = read_text(text)
    found = {"words": read["kinds"]} | {key: read[key] for key in ("side", "end", "bends")}
    return {key: value for key, value in found.items() if value}


def all_standing(case: Case) -> list[Observation]:
    """Return the observations of a case that count, before and after jobs: none superseded, withdrawn or unfit."""
    return [row for row in case.log if not (row.superseded or row.withdrawn or row.unfit)]


def standing(case: Case) -> list[Observation]:
    """Return those that were found before any job: what the diagnosis rests on."""
    return [row for row in all_standing(case) if row.job is None]


def core_observation(row: Observation) -> CoreObservation:
    """Return an observation as the core knows it."""
    return CoreObservation(row.kind, row.hub, row.value, str(row.id), str(row.job or ""))


@transaction.atomic
def observe(user: User, case_id: UUID, *, observation_id: UUID, data: dict) -> Observation:
    """Log what was found, and return it with its case. The same id sent again is the same observation.

    The core refuses what cannot be.
    """
    case = open_case_of(user, case_id)
    known = Observation.objects.filter(id=observation_id).first()
    if known is not None:
        return _same(known, case, data)
    one_of(data["kind"], KINDS, say("kind of observation"))
    vehicle = case.core
    hub = vehicle.hub(data["hub"])
    if hub is None and data["hub"]:
        raise Refusal("no_such_hub", say("This vehicle has no hub {hub}.", hub=data["hub"]), status=422)
    if hub is None and data["kind"] in AT_HUB:
        raise Refusal("no_hub", say("Say at which hub this was found."), status=422)
    job = _job_of(case, data.get("job"))
    if not data["withdrawn"]:
        if data["kind"] == CHECK:
            read_check(data["value"])
        statements(CoreObservation(data["kind"], data["hub"], data["value"]), vehicle)
    return Observation.objects.create(
        id=observation_id,
        case=case,
        hub=data["hub"],
        kind=data["kind"],
        value=data["value"],
        withdrawn=data["withdrawn"],
        job=job,
        found_at=timezone.now() - timedelta(seconds=data["waited_s"]),
        supersedes=_superseded(case, data.get("supersedes"), job),
        person=user,
    )


def _job_of(case: Case, job: UUID | None) -> UUID | None:
    """Return the job after which something was found. Raises Http404 for one of another case."""
    if job is not None and not case.verdicts.filter(id=job).exists():
        raise Http404
    return job


def _same(known: Observation, case: Case, data: dict) -> Observation:
    if known.case_id != case.id or known.value != data["value"] or known.kind != data["kind"]:
        raise Refusal("id_taken", say("This entry's number is taken by another. Enter it again."))
    known.case = case
    return known


def _superseded(case: Case, superseded_id: UUID | None, job: UUID | None) -> Observation | None:
    if superseded_id is None:
        return None
    old = case.observations.filter(id=superseded_id).first()
    if old is None:
        raise Http404
    if old.job != job:  # what was found before a job stands, whatever is found after it
        raise Refusal("other_phase", say("That was found before the job, this after it. Both stand."), status=422)
    if hasattr(old, "superseded_by"):
        raise Refusal("already_superseded", say("Somebody corrected this entry meanwhile. Reload and look again."))
    return old


def observe_safely(user: User, case_id: UUID, *, observation_id: UUID, data: dict) -> Observation:
    """Log, and when two sendings of one entry race, answer both with the row that won."""
    try:
        return observe(user, case_id, observation_id=observation_id, data=data)
    except IntegrityError:
        return observe(user, case_id, observation_id=observation_id, data=data)


@transaction.atomic
def close_case(user: User, case_id: UUID, outcome: str, *, closing: str = "", because: str = "") -> Case:
    """Close a case with a word on its outcome, what was proven, and why it is closed with less than all."""
    case = open_case_of(user, case_id)
    kept = {"outcome": outcome, "closing": closing, "unproven_because": because.strip()}
    Case.objects.filter(id=case.id).update(closed_at=timezone.now(), closed_by=user, **kept)
    return get_case(user, case_id)
