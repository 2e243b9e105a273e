"""The practice bench: a workshop of made-up vehicles that each learner has alone.

What lies there is in no list, sum or export of the real workshop, since it belongs to another. Whoever asks for a row
of their own bench, by its number, stands at the bench for the length of that request.
"""

import re
from uuid import uuid4

from django.db import transaction

from people.models import Role, User, Workshop

NUMBERED = re.compile(r"/api/(?P<noun>cases|recordings|verdicts|vehicles|photos)/(?P<number>[0-9a-f-]{36})(/|$)")
PATHS = {
    "cases": "cases",
    "recordings": "cases__recordings",
    "verdicts": "cases__verdicts",
    "vehicles": "vehicles",
    "photos": "cases__photos",
}


def step_up(user: User, path: str) -> None:
    """Let somebody who practises stand at their bench where an address names a row of it; there they may do all."""
    found = NUMBERED.match(path) if user.practises else None
    if found is None:
        return
    rows = {f"{PATHS[found['noun']]}__id": found["number"]}
    bench = Workshop.objects.filter(practice_of=user, **rows).first()
    if bench is not None:
        to_bench(user, bench)


def to_bench(user: User, bench: Workshop) -> None:
    """Put somebody at their bench, in memory only."""
    bench.language = user.workshop.language
    user.workshop, user.role, user.at_bench = bench, Role.MECHANIC, True


@transaction.atomic
def bench_of(user: User) -> Workshop:
    """Return somebody's practice bench; made at the first question."""
    bench, made = Workshop.objects.get_or_create(practice_of=user, defaults={"name": f"practice {uuid4()}"})
    if made:
        User.objects.filter(pk=user.pk).update(practises=True)
        user.practises = True
    return bench
