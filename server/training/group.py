"""Who teaches: how the workshop's learners stand, and a round set for one of them."""

from collections import defaultdict
from datetime import timedelta
from uuid import UUID

from django.utils import timezone
from hematite.language import say
from hematite.training import score, topic, topics
from people.models import User
from people.staff import one_of_ours, staff
from workshop.refusals import Refusal

from training.models import Exercise, Round
from training.rounds import make_round, open_round
from training.shown import DAYS, score_out

ENOUGH = 3  # answers in a topic before it is called the weakest; judgement


def group(user: User) -> list[dict]:
    """Return how the workshop's people stand who are here, whoever practised most first."""
    since = timezone.now() - timedelta(days=DAYS)
    rows: dict[int, list[Exercise]] = defaultdict(list)
    answered = Exercise.objects.filter(round__person__workshop=user.workshop_id).exclude(answered_at=None)
    for row in answered.select_related("round").only("topic", "right", "sure", "answered_at", "harm", "round__person"):
        rows[row.round.person_id].append(row)
    waiting = set(
        Round.objects.filter(person__workshop=user.workshop_id, exercises__answered_at=None).values_list(
            "person", flat=True
        )
    )
    here = [person for person in staff(user) if person.is_active]
    found = [_learner(person, rows[person.pk], since, waiting=person.pk in waiting) for person in here]
    return sorted(found, key=lambda one: -one["of"])


def _learner(person: User, rows: list[Exercise], since: object, *, waiting: bool) -> dict:
    found = score_out(score((row.sure, row.right) for row in rows))
    return {
        "person": person.pk,
        "name": person.shown_name,
        "of": len(rows),
        "right": sum(bool(row.right) for row in rows),
        "brier": found["brier"] if found else None,
        "lean": found["lean"] if found else "",
        "days": len({timezone.localdate(row.answered_at) for row in rows if row.answered_at >= since}),
        "danger": sum(row.harm == "danger" for row in rows),
        "weakest": _weakest(rows),
        "waiting": waiting,
    }


def _weakest(rows: list[Exercise]) -> str:
    """Return the topic with the least share of right answers, in words; '' while none was met often enough."""
    own = {key: [bool(row.right) for row in rows if row.topic == key] for key in topics()}
    met = {key: sum(right) / len(right) for key, right in own.items() if len(right) >= ENOUGH}
    return topic(min(met, key=lambda key: met[key])).label if met else ""


def set_round(user: User, person_id: int, *, round_id: UUID, about: str) -> Round:
    """Set a round for somebody of the workshop. The same number sent again is the same; an open one is done first."""
    person = one_of_ours(user, person_id)
    known = Round.objects.filter(id=round_id).first()
    if known is not None and known.person_id != person.pk:
        raise Refusal("id_taken", say("This round's number is taken by another. Begin it again."))
    if known is not None:
        return known
    if open_round(person) is not None:
        words = say("{name} has a round that is not done yet. One at a time.", name=person.shown_name)
        raise Refusal("round_open", words)
    return make_round(person, round_id=round_id, about=about, set_by=user)
