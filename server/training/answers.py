"""Saying what one hears, then what one would do; and what is told of it."""

from dataclasses import asdict
from uuid import UUID

from cases.models import Case, Withheld
from cases.services import all_standing, core_observation
from django.db import transaction
from django.utils import timezone
from hematite.evidence import Observation
from hematite.evidence.witnesses import causes
from hematite.following import Progress
from hematite.language import say
from hematite.training import Truth, harms, mark, matter_words, options, sure_steps, topic
from hematite.training.told import spoken
from hematite.verdict.printed import group_label
from people.models import User
from recordings.services import heard_in
from workshop.refusals import Refusal

from training import returning
from training.models import Exercise
from training.rounds import get_exercise

MOST_WITNESSES = 4  # named of a kind
LEAST_BITS = 0.5  # under which a witness said next to nothing; judgement
RECORDING = "fault_lines"
BEARING = "bearing"


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
def answer(user: User, exercise_id: UUID, *, hub: str, key: str, sure: int) -> Exercise:
    """Hold an answer against what is hidden, and open what was withheld. Answered twice, the first counts."""
    exercise, case = _begun(user, exercise_id)
    if exercise.answered_at:
        return exercise
    if topic(exercise.topic).by_ear and not exercise.ear:
        raise Refusal("ear_first", say("Say first what your ear hears. It is scored by itself."))
    truth, chance = exercise.hidden, _sure(sure)
    found = [core_observation(row) for row in all_standing(case)]
    how = mark(truth, case.core, found, hub=hub, key=key, policy=case.policy)
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
        "hidden": matter_words(truth), **_spoken(case, found, truth, answered), **_spent(case, found),
    }  # fmt: skip
    exercise.save()
    returning.put_back(user, exercise.topic, exercise.matter, right=how.right, sure=chance, at=exercise.answered_at)
    return get_exercise(user, exercise_id)


def _spoken(case: Case, found: list[Observation], truth: Truth, answered: str) -> dict:
    """Return what spoke for the truth and what misled, at its hub and, of a bearing, at the hub that was answered."""
    cause = truth.causes.get(truth.at, "")
    asked = {truth.at: str(causes()[cause]["group"]) if cause else BEARING}
    asked |= {answered: BEARING} if answered and answered not in asked else {}
    heard = heard_in(case, after_repair=False)
    spoke: list[dict] = []
    misled: list[dict] = []
    for hub, group in asked.items():
        there = bool(cause) and hub == truth.at
        for one in spoken(case.core, heard, found, place=hub, group=group, policy=case.policy):
            row = {"hub": hub, "words": one.words, "bits": round(one.bits, 1), "source": one.source}
            if abs(one.bits) >= LEAST_BITS:
                (spoke if (one.bits > 0) == there else misled).append(row | {"of": group_label(group)})
    return {"spoke": spoke[:MOST_WITNESSES], "misled": misled[:MOST_WITNESSES]}


def _spent(case: Case, found: list[Observation]) -> dict:
    """Return how many tests were made and the minutes they take by hand: lifted once, each hub opened once."""
    made = [(one.kind, one.hub) for one in found if one.kind != "complaint"]
    made += [(RECORDING, row.place) for row in case.recorded if not row.withdrawn and row.place != "cabin"]
    done: list[tuple[str, str]] = []
    minutes = 0.0
    for kind, hub in made:
        test = "opened" if kind == "part" else kind
        if (test, hub) in done:
            continue
        minutes += _minutes(test, hub, done)
        done.append((test, hub))
    return {"tests": len(done), "minutes": minutes}


def _minutes(test: str, hub: str, done: list[tuple[str, str]]) -> float:
    past = Progress.of([Observation(kind, place, {"answer": "not_done"}) for kind, place in done], ())
    return past.minutes(test, hub)


def outcome(exercise: Exercise) -> dict | None:
    """Return what is told of an answered exercise; None before."""
    if exercise.answered_at is None:
        return None
    return exercise.told | {
        "right": exercise.right,
        "harmed": exercise.harm,
        "ear_right": exercise.ear.get("right"),
        "watched": exercise.watched or None,
        "level": exercise.level,
        "truth": asdict(exercise.hidden)["causes"],
    }
