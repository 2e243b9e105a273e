"""Doing, proving and coming back."""

from datetime import date, timedelta
from uuid import UUID

from cases.models import Case
from cases.services import all_standing, close_case, core_observation, get_case, open_case_of
from django.db import transaction
from django.http import Http404
from django.utils import timezone
from hematite.bundles import vehicle_from_json
from hematite.decision import UNTOUCHED
from hematite.doors import one_of
from hematite.jobs import plan
from hematite.proof import checks, choose_before, closing, prove_sound
from hematite.upkeep import Recheck as UsualRecheck
from hematite.upkeep import recheck
from hematite.vehicles import Hub
from people.models import User
from recordings.services import heard_in
from verdicts.models import Verdict
from workshop.refusals import Refusal

from jobs.models import Recheck, StepTick

ANYWHERE = timedelta(days=1)  # what is today where the workshop lies may be yesterday here


def job(user: User, case_id: UUID, verdict_id: UUID | None = None) -> dict | None:
    """Return the plan of a verdict, else of the latest, with what is ticked, and every job; None before any verdict."""
    case = get_case(user, case_id)
    jobs = jobs_of(case)
    verdict = _chosen(case, verdict_id)
    if verdict is None:
        return None
    hub = _hub_as_decided(case, verdict)
    ticks = {tick.step: tick for tick in verdict.ticks.select_related("person")}
    return {
        "verdict": verdict,
        "jobs": jobs,
        "hub": hub,
        "steps": [(step, ticks.get(step.id)) for step in plan(verdict.choice, hub.design_key, _ways(verdict))],
        "recheck": recheck(verdict.choice, hub.design_key),
        "kept": Recheck.objects.filter(case=case).first(),
    }


def jobs_of(case: Case) -> list[Verdict]:
    """Return the jobs of a case: the latest verdict at each hub, in the order in which they were decided."""
    latest = {row.hub: row for row in case.verdicts.select_related("person")}
    return sorted(latest.values(), key=lambda row: row.at)


def _chosen(case: Case, verdict_id: UUID | None) -> Verdict | None:
    if verdict_id is None:
        return case.verdicts.select_related("person").last()
    found = case.verdicts.select_related("person").filter(id=verdict_id).first()
    if found is None:
        raise Http404
    return found


def _hub_as_decided(case: Case, verdict: Verdict) -> Hub:
    """Return the hub as it was described when it was decided on: a correction meanwhile changes no job."""
    frozen = verdict.snapshot.get("vehicle")
    hub = (vehicle_from_json(frozen) if frozen else case.core).hub(verdict.hub)
    if hub is None:
        raise Http404
    return hub


def _ways(verdict: Verdict) -> dict[str, str]:
    """Return the schools that stood when it was decided: a policy changed meanwhile changes no job."""
    return verdict.snapshot.get("policy", {}).get("schools", {})


@transaction.atomic
def tick(user: User, case_id: UUID, *, tick_id: UUID, verdict: UUID, step: str, done: bool, note: str) -> None:
    """Tick a step of a verdict's plan, or take the tick back."""
    case = open_case_of(user, case_id)
    work = job(user, case_id, verdict)
    one_of(step, [row.id for row, _ in work["steps"]], "step of this job")
    if StepTick.objects.filter(id=tick_id).exclude(verdict__case=case).exists():
        raise Refusal("id_taken", "This entry's number is taken by another. Tick it again.")
    values = {"verdict": work["verdict"], "step": step, "done": done, "note": note, "person": user}
    StepTick.objects.get_or_create(id=tick_id, defaults=values)


def proof(user: User, case_id: UUID, verdict_id: UUID | None = None) -> dict | None:
    """Return what proves a job: its sound against before, every check beside what was found before, the closing words.

    None before any verdict.
    """
    case = get_case(user, case_id)
    verdict = _chosen(case, verdict_id)
    if verdict is None:
        return None
    vehicle = case.core
    hub = _hub_as_decided(case, verdict)
    heard = [h for h in heard_in(case) if h.situation.place == verdict.hub]
    after = next((h for h in reversed(heard) if h.situation.job == str(verdict.id)), None)
    before = choose_before([h for h in heard if not h.situation.job], after)
    sound = prove_sound(before, after) if after else None
    made = checks(hub, vehicle, _observed(case, None), _observed(case, verdict.id))
    ticked = {tick.step for tick in verdict.ticks.all() if tick.done}
    left = [step.text for step in plan(verdict.choice, hub.design_key, _ways(verdict)) if step.id not in ticked]
    return {
        "verdict": verdict,
        "sound": sound,
        "before": before.situation.id if before else None,
        "after": after.situation.id if after else None,
        "checks": made,
        "closing": closing(made, sound=sound.outcome if sound else "", open_steps=left),
        "untouched": verdict.choice in UNTOUCHED,
    }


def _observed(case: Case, job: UUID | None) -> list:
    return [core_observation(row) for row in all_standing(case) if row.job == job]


def usual_recheck(usual: UsualRecheck, today: date) -> dict:
    """Return a usual recheck as a date and a distance."""
    return {"due_on": today + timedelta(days=usual.days), "after_km": usual.km or None, "why": usual.why}


@transaction.atomic
def finish(
    user: User,
    case_id: UUID,
    *,
    outcome: str,
    due_on: date | None,
    after_km: int | None,
    why: str,
    unproven_because: str = "",
) -> Case:
    """Close a case with a recheck and with what was proven; what was not is closed with a reason, never in silence."""
    ended = get_case(user, case_id)
    if ended.closed_at and (ended.outcome, ended.closed_by_id) == (outcome, user.pk):
        return ended  # sent twice
    if due_on is None and after_km is None:
        raise Refusal("recheck_needed", "Give a date or a distance for the recheck.", status=422)
    if due_on is not None and due_on < timezone.localdate() - ANYWHERE:
        raise Refusal("recheck_past", "The recheck's date has passed. Choose a later one.", status=422)
    closing_words = []
    for row in jobs_of(open_case_of(user, case_id)):
        found = proof(user, case_id, row.id)
        if not found["untouched"]:
            closing_words.append(f"{row.hub}: {found['closing'].words}")
            if not found["closing"].complete and not unproven_because.strip():
                words = f"{row.hub} is not wholly proven. {found['closing'].words} Say why it is closed all the same."
                raise Refusal("unproven", words, status=422)
    case = close_case(user, case_id, outcome, closing=" ".join(closing_words), because=unproven_because)
    Recheck.objects.update_or_create(case=case, defaults={"due_on": due_on, "after_km": after_km, "why": why})
    return case
