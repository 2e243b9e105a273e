"""Doing, proving and coming back."""

from datetime import date, timedelta
from uuid import UUID

from cases.models import Case
from cases.services import close_case, get_case, open_case_of
from django.db import transaction
from django.http import Http404
from django.utils import timezone
from garage.core import core_vehicle
from hematite.doors import one_of
from hematite.jobs import plan
from hematite.proof import prove
from hematite.upkeep import recheck
from people.models import User
from recordings.services import heard_in
from verdicts.models import Verdict
from workshop.refusals import Refusal

from jobs.models import Recheck, StepTick


def job(user: User, case_id: UUID) -> dict | None:
    """Return the plan of the latest verdict with what is ticked, or None before any verdict."""
    case = get_case(user, case_id)
    verdict = case.verdicts.last()
    if verdict is None:
        return None
    hub = core_vehicle(case.vehicle).hub(verdict.hub)
    if hub is None:
        raise Http404
    ticks = {tick.step: tick for tick in verdict.ticks.select_related("person")}
    return {
        "verdict": verdict,
        "hub": hub,
        "steps": [(step, ticks.get(step.id)) for step in plan(verdict.choice, hub.design_key, _ways(verdict))],
        "recheck": recheck(verdict.choice),
        "kept": Recheck.objects.filter(case=case).first(),
    }


def _ways(verdict: Verdict) -> dict[str, str]:
    """Return the schools that stood when it was decided: a policy changed meanwhile changes no job."""
    return verdict.snapshot.get("policy", {}).get("schools", {})


@transaction.atomic
def tick(user: User, case_id: UUID, *, tick_id: UUID, step: str, done: bool, note: str) -> None:
    """Tick a step of the latest verdict's plan, or take the tick back."""
    case = open_case_of(user, case_id)
    work = job(user, case_id)
    if work is None:
        raise Refusal("no_verdict", "Nothing is decided yet. Accept a verdict first; the steps follow from it.")
    one_of(step, [row.id for row, _ in work["steps"]], "step of this job")
    if StepTick.objects.filter(id=tick_id).exclude(verdict__case=case).exists():
        raise Refusal("id_taken", "This entry's number is taken by another. Tick it again.")
    values = {"verdict": work["verdict"], "step": step, "done": done, "note": note, "person": user}
    StepTick.objects.get_or_create(id=tick_id, defaults=values)


def proof(user: User, case_id: UUID) -> dict | None:
    """Hold the latest after-recording of the repaired hub against the latest before, or None when one lacks."""
    case = get_case(user, case_id)
    verdict = case.verdicts.last()
    if verdict is None:
        return None
    before, after = (_latest(case, verdict, after_repair=flag) for flag in (False, True))
    if before is None or after is None:
        return None
    return {"proof": prove(before, after), "before": before.situation.id, "after": after.situation.id}


def _latest(case: Case, verdict: Verdict, *, after_repair: bool):
    heard = [h for h in heard_in(case, after_repair=after_repair) if h.situation.place == verdict.hub]
    return heard[-1] if heard else None


def usual_recheck(choice: str, today: date) -> dict:
    """Return the usual recheck after a choice as a date and a distance."""
    usual = recheck(choice)
    return {"due_on": today + timedelta(days=usual.days), "after_km": usual.km or None, "why": usual.why}


@transaction.atomic
def finish(user: User, case_id: UUID, *, outcome: str, due_on: date | None, after_km: int | None, why: str) -> Case:
    """Close a case with a recheck; a recheck in the past is refused."""
    if due_on is None and after_km is None:
        raise Refusal("recheck_needed", "Give a date or a distance for the recheck.", status=422)
    if due_on is not None and due_on < timezone.localdate():
        raise Refusal("recheck_past", "The recheck's date has passed. Choose a later one.", status=422)
    case = close_case(user, case_id, outcome)
    Recheck.objects.update_or_create(case=case, defaults={"due_on": due_on, "after_km": after_km, "why": why})
    return case
