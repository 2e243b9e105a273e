"""Saying what one hears, then what one would do; and what is told of it."""

from collections.abc import Sequence
from uuid import UUID

from cases.models import Case, Withheld
from cases.services import all_standing, core_observation
from django.db import transaction
from django.utils import timezone
from hematite.evidence import Observation
from hematite.evidence.observations import ANSWERED, PART
from hematite.following import minutes_of
from hematite.language import say
from hematite.policy import Policy
from hematite.training import Mark, Truth, harms, mark, matter_words, options, stops, sure_steps, topic
from hematite.training.told import Spoke, witnessed
from hematite.vehicles import Vehicle
from people.models import User
from recordings.services import heard_in
from sums.models import Worked
from workshop.refusals import Refusal

from training import returning, watching
from training.models import Exercise
from training.rounds import get_exercise, given_numbers

RECORDING = "fault_lines"


def _sure(percent: int) -> float:
    if percent not in sure_steps():
        raise Refusal("how_sure", say("Say how sure you are, by one of the steps shown."), status=422)
    return percent / 100


def _begun(user: User, exercise_id: UUID) -> tuple[Exercise, Case]:
    exercise = get_exercise(user, exercise_id, alone=True)
    if exercise.case is None:
        raise Refusal("not_begun", say("This question is not begun. Begin it, then answer."))
    return exercise, exercise.case


@transaction.atomic
def say_by_ear(user: User, exercise_id: UUID, *, key: str, sure: int) -> Exercise:
    """Keep what an ear says before any plot; then the bench shows what it heard. Said twice, the first counts."""
    exercise, case = _begun(user, exercise_id)
    if not topic(exercise.topic).by_ear:
        raise Refusal("no_ear", say("Nothing is asked by ear here. Answer the question."), status=422)
    if not exercise.ear:
        _refuse_no_option(exercise.hidden, case, key)
        exercise.ear = {"key": key, "sure": _sure(sure)}
        exercise.save(update_fields=["ear"])
        Case.objects.filter(pk=case.pk, withheld=Withheld.HEARD).update(withheld=Withheld.OPINION)
    return get_exercise(user, exercise_id)


def _refuse_no_option(truth: Truth, case: Case, key: str) -> None:
    if key not in [option.key for option in options(truth, case.core)]:
        raise Refusal("no_answer", say("That is no answer to this question. Choose one of those shown."), status=422)


@transaction.atomic
def answer(user: User, exercise_id: UUID, *, hub: str, key: str, order: list[str], sure: int) -> Exercise:
    """Hold an answer against what is hidden, and open what was withheld. Answered twice, the first counts."""
    exercise, case = _begun(user, exercise_id)
    if exercise.answered_at:
        return exercise
    if topic(exercise.topic).by_ear and not exercise.ear:
        raise Refusal("ear_first", say("Say first what your ear hears. It is scored by itself."))
    truth, chance = exercise.hidden, _sure(sure)
    found = [core_observation(row) for row in all_standing(case)]
    how = mark(truth, case.core, found, hub=hub, key=key, order=order, nut=_nut_left(case, truth), policy=case.policy)
    Case.objects.filter(pk=case.pk).update(withheld="")
    case.withheld = ""
    if exercise.ear:
        ear = mark(truth, case.core, found, hub=hub, key=exercise.ear["key"])
        exercise.ear = exercise.ear | {"right": ear.right}
    exercise.answer = {"hub": hub, "key": key}
    exercise.sure, exercise.right, exercise.harm = chance, how.right, how.harm
    exercise.answered_at = timezone.now()
    answered = key if topic(exercise.topic).asks == "hub" else hub
    exercise.told = {
        "hub": how.hub, "key": how.key, "words": how.words, "because": how.because, "harm": harms()[how.harm],
        "hidden": matter_words(truth), **_spent(case, found),
        **(placed(truth, case.core, how, order, case.policy) if how.order else _spoken(case, found, truth, answered)),
    }  # fmt: skip
    exercise.save()
    if not exercise.watched:  # not done yet, or lost with a worker
        watching.have_watched(exercise.id)
    returning.put_back(user, exercise.topic, exercise.matter, right=how.right, sure=chance, at=exercise.answered_at)
    return get_exercise(user, exercise_id)


def _spoken(case: Case, found: list[Observation], truth: Truth, answered: str) -> dict:
    heard = heard_in(case, after_repair=False)
    both = witnessed(truth, case.core, heard, found, answered=answered, policy=case.policy)
    rows = [[_spoke(one) for one in some] for some in both]
    return {"spoke": rows[0], "misled": rows[1]}


def _spoke(one: Spoke) -> dict:
    return {"hub": one.place, "words": one.words, "speaks": one.speaks, "recording": one.recording}


def _nut_left(case: Case, truth: Truth) -> dict | None:
    """Return how the nut was left that was set, as it was kept the last time; None for none."""
    row = Worked.objects.filter(case=case, hub=truth.at, sum="nut").order_by("at", "id").last()
    return row.values if row and "angle_deg" in row.values else None


def placed(truth: Truth, vehicle: Vehicle, how: Mark, order: Sequence[str], policy: Policy) -> dict:
    """Return the steps as they were put, each with what it was put too early for, and an order that can be done."""
    words = {option.key: option.words for option in options(truth, vehicle, policy)}
    late = {one.step: words[one.after] for one in how.early}
    rows = [{"words": words[step], "after": late.get(step, "")} for step in order]
    return {"placed": rows, "followed": [words[step] for step in how.order], "spoke": [], "misled": []}


def _spent(case: Case, found: list[Observation]) -> dict:
    """Return how many tests were made and the minutes they take by hand; what came with the question is no test."""
    made = [("opened" if one.kind == PART else one.kind, one.hub) for one in found if one.kind in (*ANSWERED, PART)]
    given = given_numbers(case)
    made += [(RECORDING, row.place) for row in case.recorded if not row.withdrawn and row.id not in given]
    tests = [one for one in dict.fromkeys(made) if one[0] != "complaint"]
    return {"tests": len(tests), "minutes": minutes_of(tests)}


def outcome(exercise: Exercise) -> dict | None:
    """Return what is told of an answered exercise; None before."""
    if exercise.answered_at is None:
        return None
    return exercise.told | {
        "right": exercise.right,
        "harmed": exercise.harm,
        "stops": stops(exercise.harm),
        "ear_right": exercise.ear.get("right"),
        "watched": exercise.watched or None,
    }
