"""Planning rechecks, reading odometers, answering what is due."""

import secrets
from collections.abc import Iterable
from datetime import date, timedelta
from uuid import UUID, uuid4

from cases.models import Case
from cases.services import observe, open_case
from django.core.paginator import Page, Paginator
from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404
from django.utils import timezone
from garage.core import core_vehicle
from garage.models import Vehicle
from garage.services import get_vehicle
from hematite.doors import one_of, within
from hematite.language import say, small
from hematite.upkeep import SOON_DAYS, asks, due_at_once, judge, state_of
from people.models import User, Workshop
from policies.services import policy_of
from workshop.refusals import Refusal
from workshop.superseding import to_supersede

from upkeep.counting import Counting
from upkeep.models import Feed, Reading, Recheck
from upkeep.usage import FORETOLD, Usage, foretell, usage_of

PAGE = 50
MOST_SHOWN = 200  # rechecks of one vehicle; the logbook has them all
ANYWHERE = timedelta(days=1)  # what is today where the workshop lies may be yesterday here


def due_list(user: User, *, page: int, until: date | None) -> Page:
    """Return a page of what is still to be looked at, the soonest first; `until`: no later than that day."""
    rows = _open(Recheck.objects.seen_by(user))
    if until is not None:
        rows = rows.filter(expected_on__lte=until)
    shown = rows.prefetch_related("vehicle", "planned_by").order_by("expected_on", "planned_at")
    return Paginator(shown, PAGE).get_page(page)


def _open(rows: QuerySet[Recheck]) -> QuerySet[Recheck]:
    return rows.filter(done_at=None)


def soon() -> date:
    """Return until when what is due is shown in the yard."""
    return timezone.localdate() + timedelta(days=SOON_DAYS)


def state(row: Recheck) -> str:
    """Return how a recheck stands: done, overdue, due, soon or later."""
    today = timezone.localdate()
    if row.done_at:
        return "done"
    if row.passed:
        return "overdue"
    if row.expected_on is None:
        return "later"
    soonest = (row.soonest_on - today).days if row.soonest_on and row.soonest_on <= row.expected_on else None
    days = (row.expected_on - today).days
    by_use = row.soonest_on is not None and (row.due_on is None or row.expected_on < row.due_on)
    return state_of(max(0, days) if by_use else days, soonest)


def of_vehicle(user: User, vehicle_id: UUID) -> tuple[Vehicle, Usage, list[Recheck]]:
    """Return a vehicle with what its odometer says and its rechecks: what is open first, then what was done."""
    vehicle = get_vehicle(user, vehicle_id)
    rows = vehicle.rechecks.select_related("vehicle", "planned_by", "done_by")
    left = _open(rows).order_by("expected_on", "planned_at")[:MOST_SHOWN]
    done = rows.exclude(done_at=None).order_by("-done_at")[:MOST_SHOWN]
    return vehicle, usage_of(vehicle), [*left, *done]


@transaction.atomic
def plan(user: User, vehicle: Vehicle, wanted: Iterable[dict], *, case: Case | None = None) -> list[Recheck]:
    """Plan rechecks of a vehicle; the same number planned twice is one. Each needs a date, a distance or hours."""
    wanted = list(wanted)
    known = set(Recheck.objects.filter(id__in=[one["id"] for one in wanted]).values_list("id", flat=True))
    new = [_new(user, vehicle, one, case) for one in wanted if one["id"] not in known]
    return Recheck.objects.bulk_create(foretell(new, usage_of(vehicle)))


def _new(user: User, vehicle: Vehicle, one: dict, case: Case | None) -> Recheck:
    if not (one.get("due_on") or one.get("after_km") or one.get("after_hours")):
        raise Refusal(
            "recheck_needed", say("{label}: give a date, a distance or hours of work.", label=one["label"]), status=422
        )
    if one.get("due_on") and one["due_on"] < timezone.localdate() - ANYWHERE:
        raise Refusal(
            "recheck_past", say("{label}: the date has passed. Choose a later one.", label=one["label"]), status=422
        )
    one_of(one["asks"], asks(), "recheck")
    if one.get("hub"):
        one_of(
            one["hub"],
            [hub.name for axle in vehicle.axles.all() for hub in axle.hubs.all()],
            say("hub of this vehicle"),
        )
    fields = ("id", "hub", "key", "label", "asks", "why", "due_on", "after_km", "after_hours")
    kept = {name: one.get(name) for name in fields}
    return Recheck(workshop_id=user.workshop_id, vehicle=vehicle, case=case, planned_by=user, **kept)


@transaction.atomic
def after_event(user: User, vehicle_id: UUID, duty: str, *, recheck_id: UUID) -> Recheck:
    """Plan what is due at once after an event such as a water crossing."""
    vehicle = get_vehicle(user, vehicle_id)
    row = due_at_once(duty)
    if row is None:
        raise Refusal("nothing_at_once", say("Nothing is due at once after that; it shortens what comes."), status=422)
    day = timezone.localdate() + timedelta(days=row["days"])
    one = {"id": recheck_id, "hub": "", "key": duty, "due_on": day} | {n: row[n] for n in ("label", "asks", "why")}
    plan(user, vehicle, [one])
    return Recheck.objects.get(id=recheck_id)


def hold(vehicle: Vehicle) -> None:
    """Let nobody else write to what a vehicle's book and odometer say until the transaction ends."""
    Vehicle.objects.select_for_update().filter(id=vehicle.id).first()


@transaction.atomic
def read(user: User, vehicle_id: UUID, data: dict) -> Reading:
    """Keep what stood on the odometer, and foretell anew what is due. Sent twice it is one reading."""
    vehicle = get_vehicle(user, vehicle_id)
    hold(vehicle)
    known = Reading.objects.filter(id=data["id"]).first()
    if known is not None and known.vehicle_id != vehicle.id:
        raise Refusal("id_taken", say("This reading's number is taken by another. Enter it again."))
    if known is not None:
        return known
    row = enter(user, vehicle, data, Counting(usage_of(vehicle).readings))
    renew(vehicle)
    return row


def enter(user: User, vehicle: Vehicle, data: dict, counting: Counting) -> Reading:
    """Keep a reading of a vehicle that nobody else writes to, among those that count; nothing is foretold anew."""
    row = _checked(user, vehicle, data, counting)
    row.save(force_insert=True)
    if not row.withdrawn:
        counting.add(row)
    return row


def _checked(user: User, vehicle: Vehicle, data: dict, counting: Counting) -> Reading:
    """Return a reading that may stand beside the others; refuse one that goes back, or lies ahead."""
    replaced = to_supersede(vehicle.readings, data.get("supersedes"), "reading")
    if data["on"] > timezone.localdate() + ANYWHERE:
        raise Refusal("reading_ahead", say("That day is still to come. Give the day it was read."), status=422)
    gone = data.get("withdrawn", False)
    if not gone and data.get("km") is None and data.get("hours") is None:
        raise Refusal("no_reading", say("Give the kilometres or the hours that stood there."), status=422)
    row = Reading(
        id=data["id"], vehicle=vehicle, on=data["on"], person=user, supersedes=replaced, withdrawn=gone,
        km=None if data.get("km") is None else within(data["km"], "odometer_km"),
        hours=None if data.get("hours") is None else within(data["hours"], "hours_of_work"),
    )  # fmt: skip
    if not gone:
        counting.refuse_a_way_back(row)
    return row


def renew(vehicle: Vehicle) -> None:
    """Foretell a vehicle's open rechecks anew."""
    rows = list(_open(vehicle.rechecks.all()))
    if rows:
        Recheck.objects.bulk_update(foretell(rows, usage_of(vehicle)), FORETOLD)


@transaction.atomic
def answer(user: User, recheck_id: UUID, data: dict) -> Recheck:
    """Answer a recheck in words or by a reading; what is outside opens a case with it. Sent twice it is one answer."""
    row = _alone(user, recheck_id)
    if row.done_at:
        if row.opened_id == data["case"] or (row.outside is False and _same(row, data)):
            return row
        raise Refusal(
            "done_already",
            say("{shown_name} has looked at this already: {said}.", shown_name=row.done_by.shown_name, said=row.said),
        )
    vehicle = get_vehicle(user, row.vehicle_id)
    core = core_vehicle(vehicle, policy_of(user.workshop_id))
    found = judge(row.asks, row.hub, core, answer=data["answer"], reading=data["reading"])
    if data.get("km") is not None:
        read(user, vehicle.id, {"id": data["reading_id"], "on": timezone.localdate(), "km": data["km"]})
    note = data["note"].strip()
    words = f"{found.words}; {note}" if note else found.words
    row.done_at, row.done_by, row.outside, row.said = timezone.now(), user, found.outside, words[:400]
    row.reading = data["reading"]
    if found.outside:
        row.opened = _opened(user, row, words, data["case"])
        if found.observation is not None:
            seen = found.observation
            entry = {"hub": seen.hub, "kind": seen.kind, "value": dict(seen.value), "withdrawn": False, "waited_s": 0.0}
            observe(user, row.opened.id, observation_id=uuid4(), data=entry)
    row.save()
    return row


def _same(row: Recheck, data: dict) -> bool:
    """Return whether an answer is the good one that was given before: another's bad one must not be lost in it."""
    return data["answer"] != "bad" and row.reading == data["reading"]


def _opened(user: User, row: Recheck, words: str, case_id: UUID) -> Case:
    where = say(" at {hub}", hub=row.hub) if row.hub else ""
    return open_case(
        user,
        row.vehicle_id,
        say("Recheck{where}, {label}: {words}.", where=where, label=small(row.label), words=words)[:400],
        case_id=case_id,
    )


def one(user: User, recheck_id: UUID) -> Recheck:
    """Return one recheck of the workshop or raise Http404."""
    row = Recheck.objects.seen_by(user).select_related("vehicle", "planned_by", "done_by").filter(id=recheck_id).first()
    if row is None:
        raise Http404
    return row


def _alone(user: User, recheck_id: UUID) -> Recheck:
    row = Recheck.objects.seen_by(user).select_for_update().filter(id=recheck_id).first()
    if row is None:
        raise Http404
    return row


@transaction.atomic
def drop(user: User, recheck_id: UUID, because: str) -> Recheck:
    """Let a recheck go unanswered, with the reason."""
    row = _alone(user, recheck_id)
    if not row.done_at:
        row.done_at, row.done_by, row.said = (
            timezone.now(),
            user,
            say("not done: {because}", because=because.strip())[:400],
        )
        row.save()
    return row


def feed_of(user: User, *, renew_it: bool = False) -> Feed:
    """Return the workshop's calendar address, made when first asked for; a renewed one ends the old."""
    fresh = {"secret": secrets.token_urlsafe(32), "person": user}
    if renew_it:
        return Feed.objects.update_or_create(workshop_id=user.workshop_id, defaults=fresh)[0]
    return Feed.objects.get_or_create(workshop_id=user.workshop_id, defaults=fresh)[0]


def of_feed(secret: str) -> tuple[Workshop, list[Recheck]]:
    """Return what a secret address may be told: its workshop and what is open there. Raises Http404 for none such."""
    found = Feed.objects.filter(secret=secret).select_related("workshop").first()
    if found is None:
        raise Http404
    return found.workshop, list(calendar_rows(found.workshop_id))


def calendar_rows(workshop_id: int) -> QuerySet[Recheck]:
    """Return the open rechecks of a workshop as a calendar needs them."""
    rows = _open(Recheck.objects.filter(workshop_id=workshop_id)).exclude(expected_on=None)
    return rows.select_related("vehicle", "workshop").order_by("expected_on")[:2000]
