"""Judging a case as it stands, pricing it, departing from policy, and freezing a verdict."""

import logging
from collections.abc import Sequence
from dataclasses import asdict, replace
from uuid import UUID, uuid4, uuid5

import hematite
from cases.models import Case
from cases.services import all_standing, core_observation, get_case, open_case_of, standing
from cases.shown import case_out
from cases.work import work_of
from django.db import transaction
from django.http import Http404
from hematite.assembly import possible_choices
from hematite.decision import UNTOUCHED
from hematite.doors import one_of
from hematite.evidence import Observation, inspected
from hematite.evidence.observations import as_it_stands, counts_now
from hematite.following import next_job
from hematite.language import say, small
from hematite.listening import Heard
from hematite.policy import Policy, known_only, schools
from hematite.verdict import Assessment, as_json, assess, choices, price_choice, pricing_json
from people.models import User
from recordings.services import heard_in
from workshop.refusals import Refusal

from verdicts.models import Departure, Verdict
from verdicts.snapshots import inputs_of, snapshot_of

log = logging.getLogger(__name__)


def case_policy(case: Case) -> Policy:
    """Return the workshop's policy as this case has it."""
    own = {row.school: row.option for row in standing_departures(case)}
    return case.policy.departing(known_only({"schools": own})["schools"])


def standing_departures(case: Case) -> list[Departure]:
    """Return the departures that count: the latest of each school, unless it went back to the workshop's way."""
    latest = {row.school: row for row in case.departed}
    return [row for row in latest.values() if row.option]


def judged(case: Case) -> Assessment:
    """Return the core's assessment of a case, from what was heard before the repair and what was observed.

    A practice case that is not answered yet is judged as one of which nobody said anything: no opinion can leak.
    """
    if case.withheld:
        return _unsaid(case)
    observations = [core_observation(row) for row in standing(case)]
    return _assessed(case, heard_in(case, after_repair=False), observations)


def judged_now(case: Case) -> Assessment:
    """Return what is believed of the vehicle as it stands: at hubs that were worked on by what was found after."""
    if case.withheld:
        return _unsaid(case)
    jobs = {row.hub: str(row.id) for row in case.verdicts.only("id", "hub", "case") if row.choice not in UNTOUCHED}
    observations = as_it_stands([core_observation(row) for row in all_standing(case)], jobs)
    heard = [one for one in heard_in(case) if counts_now(one.situation.place, one.situation.job, jobs)]
    return _assessed(case, heard, observations)


def _unsaid(case: Case) -> Assessment:
    """Return how a case would be judged had nobody said anything; which parts were looked at is no opinion."""
    seen = inspected([core_observation(row) for row in standing(case)], case.core)
    found = _assessed(case, (), ())
    return replace(found, hubs=tuple(replace(row, inspection=seen[row.hub.id]) for row in found.hubs))


def _assessed(case: Case, heard: Sequence[Heard], observations: Sequence[Observation]) -> Assessment:
    return assess(case.core, heard, observations, policy=case_policy(case))


def shown_anew(user: User, case: Case) -> dict | None:
    """Return a case and how it is judged, for the answer to an entry; None where that fails.

    The entry is kept by then: whoever made it must not hear that it was not.
    """
    try:
        return {"detail": case_out(user, case), "assessment": assessment_of(case)}
    except Exception:
        log.exception("Case %s cannot be judged.", case.id)
        return None


def assessment(user: User, case_id: UUID, *, now: bool = False) -> dict:
    """Return the assessment of a case of the workshop: as it was before any job, or `now`."""
    return assessment_of(get_case(user, case_id), now=now)


def assessment_of(case: Case, *, now: bool = False) -> dict:
    """Return the assessment of a case that was read already."""
    found = as_json(judged_now(case) if now else judged(case))
    return found | {"next_test": _next_job(case) or found["next_test"]}


def _next_job(case: Case) -> dict | None:
    """Return what comes next once something was decided: the job, then its proof; None while nothing is decided."""
    verdict = case.verdicts.last()
    if verdict is None or case.closed_at or verdict.news_since_decided(standing(case)):
        return None
    work = work_of(case, case.verdicts.all(), case.steps.all())
    left = [] if work.finished else work.left()
    proved = any(row.job == verdict.id for row in all_standing(case))
    return asdict(next_job(verdict.choice, verdict.hub, step=left[0].do if left and not proved else ""))


def decision(user: User, case_id: UUID, hub: str) -> dict:
    """Return what there is to decide with at a hub: the prices, the policy, and this case's departures from it."""
    case = get_case(user, case_id)
    found = judged(case)
    one_of(hub, [verdict.hub.id for verdict in found.hubs], say("hub of this vehicle"))
    policy = case_policy(case)
    return {
        "prices": pricing_json(price_choice(found, case.core, hub, policy.rates), policy.rates),
        "policy": policy,
        "departures": standing_departures(case),
    }


@transaction.atomic
def depart(user: User, case_id: UUID, *, school: str, option: str, reason: str, id: UUID) -> Departure:
    """Let one case go another way than the workshop, with a reason; an empty option goes back.

    The same number sent again is the same departure.
    """
    case = open_case_of(user, case_id, alone=True)
    known = Departure.objects.filter(id=id).first()
    if known and (known.case_id, known.school, known.option) != (case.id, school, option):
        raise Refusal("id_taken", say("This entry's number is taken by another. Enter it again."))
    if known:
        return known
    one_of(school, schools(), say("difference of practice"))
    if option:
        one_of(option, [known.key for known in schools()[school].options], say("way of doing it"))
    if not reason.strip():
        raise Refusal("reason_needed", say("This differs from the workshop's way. Say why in a few words."), status=422)
    return Departure.objects.create(id=id, case=case, school=school, option=option, reason=reason, person=user)


@transaction.atomic
def accept(
    user: User,
    case_id: UUID,
    *,
    hub: str,
    choice: str,
    reason: str,
    id: UUID | None = None,
    seen: str = "",
    both: bool = False,
) -> Verdict:
    """Freeze what is decided at a hub, with all that it rests on. Going against the advice needs a reason.

    `seen`: the advice as whoever decided saw it, perhaps a while ago; with another one now they are asked again.

    The same number accepted again, by a double click or a repeat, is the same verdict. `both`: the mate across the axle
    gets the same, as a verdict of its own.
    """
    case = open_case_of(user, case_id, alone=True)
    known = Verdict.objects.filter(id=id).first()
    if known and (known.case_id, known.hub, known.choice) != (case.id, hub, choice):
        raise Refusal("id_taken", say("This verdict's number is taken by another. Decide again."))
    if known:
        return known
    if case.withheld:  # a job would show its steps in order, a proof what is believed
        raise Refusal("withheld", say("Answer the question first. Until then nothing is decided here."))
    found = judged(case)
    shown = as_json(found)
    one_of(hub, shown["hubs"], say("hub of this vehicle"))
    one_of(choice, choices(), say("choice"))
    _refuse_the_impossible(case, hub, choice)
    advised = shown["hubs"][hub]["choice"]
    if seen and seen != advised:
        words = say(
            "The advice has changed meanwhile, to: {choice}. Look again, then decide.", choice=small(choices()[advised])
        )
        raise Refusal("advice_changed", words)
    if choice != advised and not reason.strip():
        raise Refusal("reason_needed", say("This differs from the advice. Say why in a few words."), status=422)
    accepted = _freeze(user, case, found, hub=hub, choice=choice, reason=reason, id=id or uuid4())
    mate = case.core.mate(hub) if both else None
    if mate is not None:
        why = say("Both sides of the axle, with {hub}.", hub=hub)
        _freeze(user, case, found, hub=mate.id, choice=choice, reason=why, id=uuid5(accepted.id, mate.id))
    return accepted


def _freeze(user: User, case: Case, found: Assessment, *, hub: str, choice: str, reason: str, id: UUID) -> Verdict:
    shown, policy = as_json(found), case_policy(case)
    advised = shown["hubs"][hub]["choice"]
    prices = pricing_json(price_choice(found, case.core, hub, policy.rates), policy.rates)
    snapshot = snapshot_of(case, policy, standing_departures(case), prices)
    return Verdict.objects.create(
        id=id, case=case, hub=hub, choice=choice, advised=advised, assessment=shown,
        reason=reason if choice != advised else "",  # what goes with the advice was not decided against it
        snapshot=snapshot,
        core_version=hematite.__version__, person=user, **_mended(shown["hubs"][hub], choice),
    )  # fmt: skip


def _refuse_the_impossible(case: Case, hub: str, choice: str) -> None:
    """Refuse what no hand could carry out at a hub of this design: nothing is adjusted at a sealed unit."""
    design = case.core.hub(hub).design
    if choice not in possible_choices(design.key):
        words = say(
            "At a hub of this kind ({label}) that cannot be done: {choice}.",
            label=small(design.label),
            choice=small(choices()[choice]),
        )
        raise Refusal("cannot_be_done", words, status=422)


def _mended(judged: dict, choice: str) -> dict:
    """Return what a choice leads on to: the repair of what is off the road, the cause that is mended elsewhere."""
    repair = judged["repair"] if choice == "off_road" else ""
    elsewhere = "look_elsewhere" in (choice, repair) and judged["cause"] not in ("bearing", "sound")
    cause = judged["cause"] if elsewhere else ""
    return {"repair": "" if repair == "leave" else repair, "cause": cause}


def verdicts_of(user: User, case_id: UUID) -> list[Verdict]:
    """Return the verdicts of a case, oldest first."""
    return list(get_case(user, case_id).verdicts.select_related("person"))


def get_verdict(user: User, verdict_id: UUID) -> Verdict:
    """Return one verdict of the workshop, its case complete, or raise Http404."""
    found = Verdict.objects.seen_by(user).select_related("person", "case").filter(id=verdict_id).first()
    if found is None:
        raise Http404
    found.case = get_case(user, found.case_id)
    return found


def news_since(row: Verdict, now: dict) -> int:
    """Return how many inputs came, were corrected or were taken back since a verdict; `now`: `inputs_of` its case."""
    then = row.snapshot.get("inputs")
    if then is None:  # frozen before snapshots were kept: nobody can say
        return 0
    return sum(len(set(then.get(name, ())) ^ set(now[name])) for name in now)


def inputs(user: User, case_id: UUID) -> dict:
    """Return the ids of all that a case rests on now."""
    return inputs_of(get_case(user, case_id))
