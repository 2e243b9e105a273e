"""When what was met comes back: spaced by FSRS, the kept library of that algorithm (Ye, Su and Cao 2022)."""

from datetime import datetime

from django.db import transaction
from fsrs import Card as Kept
from fsrs import Rating, Scheduler
from people.models import User

from training.models import Card

SURE = 0.8  # who is right and less sure than that knew it only half; judgement
_SCHEDULER = Scheduler(enable_fuzzing=False, learning_steps=(), relearning_steps=())  # by days: a round a day


def rated(*, right: bool, sure: float) -> Rating:
    """Return how well it was known."""
    if not right:
        return Rating.Again
    return Rating.Good if sure >= SURE else Rating.Hard


@transaction.atomic
def put_back(user: User, topic: str, matter: str, *, right: bool, sure: float, at: datetime) -> Card:
    """Note that a matter was met, and when it comes back."""
    row = Card.objects.select_for_update().filter(person=user, topic=topic, matter=matter).first()
    kept = Kept.from_dict(row.state) if row else Kept(card_id=1)
    kept, _ = _SCHEDULER.review_card(kept, rated(right=right, sure=sure), at)
    row = row or Card(person=user, topic=topic, matter=matter)
    row.state, row.due_at = dict(kept.to_dict()), kept.due
    row.save()
    return row


def due(user: User, *, at: datetime) -> list[tuple[str, str]]:
    """Return what is to come back by then, the longest due first, as (topic, matter)."""
    return list(Card.objects.filter(person=user, due_at__lte=at).values_list("topic", "matter"))
