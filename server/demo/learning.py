"""The demo's learner: two weeks of rounds, by somebody who learns, and is a little surer than right."""

import uuid
from collections import Counter
from datetime import timedelta

import numpy as np
from django.utils import timezone
from hematite.policy import Policy
from hematite.training import (
    Mark,
    Truth,
    draw,
    harms,
    mark,
    matter_words,
    observe,
    options,
    sure_steps,
    topic,
    vehicle_of,
)
from hematite.training.rounds import compose
from hematite.vehicles import Vehicle
from people.models import User
from training import returning
from training.answers import placed
from training.models import Card, Exercise, Round
from training.rounds import standing_levels

DAYS_OFF = (1, 5, 6, 9, 12)  # days ago without a round
DAYS = 14
FIRST, LEARNT, EAR = 0.5, 0.14, 0.2  # how often right at first, more each time it is met, and less by ear alone
BOLD = 0.08  # how much surer than right


def learn(user: User) -> None:
    """Have somebody practise for two weeks, up to yesterday."""
    dice = np.random.default_rng(20)
    times: Counter[tuple[str, str]] = Counter()
    for ago in reversed(range(1, DAYS)):
        if ago in DAYS_OFF:
            continue
        at = timezone.now() - timedelta(days=ago)
        made = Round.objects.create(id=uuid.UUID(int=int(dice.integers(2**62))), person=user, begun_at=at)
        met = set(Card.objects.filter(person=user).values_list("topic", "matter"))
        levels = standing_levels(user)
        places = compose(returning.due(user, at=at), met, seed=int(dice.integers(2**31)))
        for number, place in enumerate(places, 1):
            vehicle, truth = draw(*place, number=levels[place[0]], seed=int(dice.integers(2**31)))
            exercise = Exercise(round=made, number=number, topic=place[0], matter=place[1], level=truth.level)
            exercise.vehicle, exercise.truth = vehicle, truth.to_json()
            _answer(exercise, knows=min(FIRST + LEARNT * times[place], 0.95), dice=dice)
            times[place] += 1


def _answer(exercise: Exercise, *, knows: float, dice: np.random.Generator) -> None:
    truth, person = exercise.hidden, exercise.round.person
    at = exercise.round.begun_at + timedelta(minutes=6 * exercise.number)
    right, sure = _tried(knows, dice)
    told, given = _marked(truth, exercise.vehicle, right=right, dice=dice)
    if topic(exercise.topic).by_ear:
        heard, ear_sure = _tried(max(knows - EAR, 0.3), dice)
        _, by_ear = _marked(truth, exercise.vehicle, right=heard, dice=dice)
        exercise.ear = {"key": by_ear["key"], "sure": ear_sure, "right": heard}
    exercise.harm = told.pop("harmed")
    exercise.answer, exercise.told, exercise.sure, exercise.right = given, told, sure, right
    exercise.begun_at = exercise.answered_at = at
    exercise.save()
    returning.put_back(person, exercise.topic, exercise.matter, right=right, sure=sure, at=at)


def _tried(knows: float, dice: np.random.Generator) -> tuple[bool, float]:
    said = float(np.clip(knows + BOLD + dice.normal(0, 0.1), 0, 1))
    steps = [percent / 100 for percent in sure_steps()]
    return bool(dice.uniform() < knows), min(steps, key=lambda step: abs(step - said))


def _marked(truth: Truth, vehicle: str, *, right: bool, dice: np.random.Generator) -> tuple[dict, dict]:
    """Return what is told of an answer, right or wrong as asked, and the answer."""
    stands = vehicle_of(vehicle)
    if topic(truth.topic).asks == "order":
        return _ordered(truth, stands, right=right, dice=dice)
    # A worn set is locked by who does not notice that it drags.
    nut = observe(truth, stands).given.get("nut", {"thread": "M20×1.5", "angle_deg": 20}) if truth.nut else None
    best = mark(truth, stands, (), hub=truth.at, key=options(truth, stands)[0].key, nut=nut)
    wrong = [option.key for option in options(truth, stands) if option.key != best.key]
    key = best.key if right else str(dice.choice(wrong))
    how = mark(truth, stands, (), hub=truth.at, key=key, nut=nut)
    return _told(truth, how), {"hub": truth.at if topic(truth.topic).asks == "choice" else "", "key": key}


def _ordered(truth: Truth, stands: Vehicle, *, right: bool, dice: np.random.Generator) -> tuple[dict, dict]:
    """Return the same of steps put in order; who errs puts one a few places too early."""
    order = list(observe(truth, stands).given["order"])
    if not right:
        late = int(dice.integers(2, len(order)))
        order.insert(0, order.pop(late))
    how = mark(truth, stands, (), hub=truth.at, key="", order=order)
    return _told(truth, how) | placed(truth, stands, how, order, Policy()), {"hub": "", "key": ""}


def _told(truth: Truth, how: Mark) -> dict:
    told = {"hub": how.hub, "key": how.key, "words": how.words, "because": how.because, "harm": harms()[how.harm]}
    return told | {
        "hidden": matter_words(truth), "spoke": [], "misled": [], "tests": 0, "minutes": 0.0, "harmed": how.harm,
    }  # fmt: skip
