"""Rounds and exercises as the screens see them. Of what is hidden nothing leaves before the answer."""

from collections.abc import Iterable
from datetime import timedelta

from django.utils import timezone
from hematite.evidence.witnesses import witnesses
from hematite.language import later, say
from hematite.training import (
    Option,
    Score,
    level,
    levels,
    matter_words,
    names_a_hub,
    options,
    score,
    sure_steps,
    topic,
    topics,
)
from hematite.training.marking import asked_at
from people.models import User

from training import answers, lessons, returning
from training.models import Card, Exercise, Round
from training.rounds import open_round, standing_levels

DAYS = 14
MOST_MISSED = 6
LEANS = {
    "over": later("You are surer than you are right."),
    "under": later("You are right more often than you think."),
    "": later("How sure you are and how often you are right go together, as far as this can be told."),
}


def exercise_out(exercise: Exercise) -> dict:
    """Return one exercise."""
    about, truth, vehicle = topic(exercise.topic), exercise.hidden, exercise.stands
    others = list(exercise.round.exercises.values_list("id", "number", "answered_at"))
    left = [number for number, _, done in others if done is None and number != exercise.id]
    told = answers.outcome(exercise)
    known = options(truth, vehicle, exercise.case.policy if exercise.case else None)
    return {
        "id": exercise.id,
        "round": exercise.round_id,
        "number": exercise.number,
        "of": len(others),
        "topic": about.key,
        "topic_label": about.label,
        "level": exercise.level,
        "level_label": level(exercise.level).label,
        "ask": f"{matter_words(truth)}. {about.ask}" if about.asks == "order" else about.ask,
        "stage": about.stage,
        "by_ear": about.by_ear,
        "asks": about.asks,
        "at": asked_at(truth),
        "names_a_hub": names_a_hub(truth),
        "hubs": [{"key": key, "words": words} for key, words in vehicle.spoken().items()],
        "options": [{"key": one.key, "words": one.words} for one in known],
        "sure_steps": [{"percent": percent, "words": words} for percent, words in sure_steps().items()],
        "begun": exercise.begun_at is not None,
        "ear": exercise.ear.get("key", ""),
        "ear_sure": exercise.ear.get("sure"),
        "answer": exercise.answer.get("key", ""),
        "answer_hub": exercise.answer.get("hub", ""),
        "sure": exercise.sure,
        "told": told and told | {"watched": _watched(told["watched"], told, known)},
        "next": left[0] if left else None,
    }


def _watched(kept: dict | None, told: dict, known: list[Option]) -> dict | None:
    if kept is None:
        return None
    words = {option.key: option.words for option in known}
    steps = [one | {"label": witnesses()[one["test"]]["act"]} for one in kept["steps"] if one["test"] in witnesses()]
    right = kept["key"] == told["key"] and (not told["hub"] or kept["hub"] in ("", told["hub"]))
    return kept | {"words": words.get(kept["key"], kept["key"]), "right": right, "steps": steps}


def round_out(row: Round) -> dict:
    """Return a round."""
    exercises = [_place(one) for one in row.exercises.all()]
    done = all(one["right"] is not None for one in exercises)
    return {"id": row.id, "topic": row.topic, "begun_at": row.begun_at, "done": done, "exercises": exercises}


def _place(one: Exercise) -> dict:
    return {
        "id": one.id, "number": one.number, "topic": one.topic, "topic_label": topic(one.topic).label,
        "level": one.level, "begun": one.begun_at is not None, "right": one.right, "sure": one.sure, "harm": one.harm,
    }  # fmt: skip


def desk_out(user: User) -> dict:
    """Return where somebody stands."""
    rows = list(_answered(user))
    due = returning.due(user, at=timezone.now())
    at = standing_levels(user)
    open_one = open_round(user)
    offered = {key for key, row in topics().items() if row.matters} | {key for key, _ in lessons.places(user)}
    return {
        "open_round": open_one.id if open_one else None,
        "set_by": open_one.set_by.shown_name if open_one and open_one.set_by else "",
        "due": len(due),
        "topics": [_topic_out(key, at[key], rows, [key for key, _ in due]) for key in topics() if key in offered],
        "days": _days(rows),
        "score": score_out(score((row.sure, row.right) for row in rows)),
        "ear": score_out(score((row.ear["sure"], row.ear["right"]) for row in rows if "right" in row.ear)),
        "missed": [_matter(card) for card in _missed(user, rows)],
        "harm": sum(row.harm == "danger" for row in rows),
        "levels": len(levels()),
    }


def _answered(user: User) -> Iterable[Exercise]:
    rows = Exercise.objects.filter(round__person=user).exclude(answered_at=None).order_by("answered_at")
    return rows.only("topic", "matter", "level", "right", "sure", "ear", "harm", "answered_at", "round")


def _topic_out(key: str, number: int, rows: list[Exercise], due: list[str]) -> dict:
    own = [row for row in rows if row.topic == key]
    grows = bool(topic(key).matters)  # real work is as hard as it came
    return {
        "key": key, "label": topic(key).label, "level": number if grows else 0,
        "level_label": level(number).label if grows else "",
        "of": len(own), "right": sum(bool(row.right) for row in own), "due": due.count(key),
    }  # fmt: skip


def _days(rows: list[Exercise]) -> list[dict]:
    today = timezone.localdate()
    found = {today - timedelta(days=n): [0, 0] for n in reversed(range(DAYS))}
    for row in rows:
        day = timezone.localdate(row.answered_at)
        if day in found:
            found[day][0] += bool(row.right)
            found[day][1] += 1
    return [{"day": day, "right": right, "of": of} for day, (right, of) in found.items()]


def _missed(user: User, rows: list[Exercise]) -> list[Card]:
    """Return the cards of what was wrong the last time, the soonest due first."""
    last: dict[tuple[str, str], bool] = {}
    for row in rows:
        last[row.topic, row.matter] = bool(row.right)
    wrong = [card for card in Card.objects.filter(person=user) if not last.get((card.topic, card.matter), True)]
    return wrong[:MOST_MISSED]


def _matter(card: Card) -> dict:
    about = topic(card.topic)
    matter = about.matters.get(card.matter)  # none of real work
    return {"topic_label": about.label, "label": matter.label if matter else about.label, "due_at": card.due_at}


def score_out(found: Score | None) -> dict | None:
    """Return a score with a word on it."""
    if found is None:
        return None
    held = [{name: getattr(one, name) for name in ("said", "right", "of", "low", "high")} for one in found.held]
    plain = {name: getattr(found, name) for name in ("of", "right", "brier", "log", "lean")}
    parts = {name: getattr(found, name) for name in ("reliability", "resolution", "uncertainty")}
    return plain | parts | {"held": held, "words": say(LEANS[found.lean])}
