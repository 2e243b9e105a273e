"""What is left to do of many cases at once: planned anew only where something that it follows from has changed."""

from collections.abc import Iterable
from typing import NamedTuple
from uuid import UUID

import hematite
from django.core.cache import cache
from django.db.models import Count, Prefetch
from garage.core import core_vehicle
from hematite.jobs import lists
from hematite.language import spoken
from hematite.policy import Policy

from cases.models import Case
from cases.work import brief_verdicts, work_of

WHOLE = ("vehicle__axles__hubs", "steps", Prefetch("verdicts", brief_verdicts()))


class Part(NamedTuple):
    """A part that goes on new, its size where it is known, and at which hubs."""

    label: str
    size: str
    hubs: tuple[str, ...]


class Left(NamedTuple):
    """Whether a case's jobs are done; how many minutes are left of them; the parts that are not fitted yet."""

    finished: bool
    minutes: float
    parts: tuple[Part, ...]


def left_of(cases: Iterable[Case]) -> dict[UUID, Left]:
    """Return what is left of each decided case. Each has its vehicle and `in_brief`.

    A plan takes milliseconds and a board has two hundred: each is kept under a name that is another one after every
    change of what it follows from. Those are the vehicle, which counts its changes; verdicts and entries of work, to
    which rows are only ever added; and the rules.
    """
    named = _names([case for case in cases if case.in_brief])
    kept = cache.get_many(named.values())
    new = Case.objects.filter(id__in=[number for number, name in named.items() if name not in kept])
    made = {named[case.id]: _left(case) for case in new.prefetch_related(*WHOLE)}
    if made:
        cache.set_many(made, timeout=None)
    return {number: (kept | made)[name] for number, name in named.items()}


def _names(cases: list[Case]) -> dict[UUID, str]:
    entries = Case.steps.rel.related_model.objects.filter(case__in=[case.id for case in cases])
    counted = dict(entries.order_by().values_list("case").annotate(Count("pk")))
    named = {}
    for case in cases:
        verdicts = f"{len(case.in_brief)}.{case.in_brief[-1].pk.hex}"
        vehicle = f"{case.vehicle.revision}.{case.vehicle.change or ''}"
        entered = counted.get(case.id, 0)
        named[case.id] = f"left:{hematite.__version__}:{spoken()}:{case.id.hex}:{verdicts}:{vehicle}:{entered}"
    return named


def _left(case: Case) -> Left:
    case.core = core_vehicle(case.vehicle, Policy())  # limits of play change no plan: not asked for
    work = work_of(case, case.verdicts.all(), case.steps.all())
    minutes = sum(step.minutes for step in work.left())
    wanted = (item for item in lists(work.plan, work.vehicle).parts if f"{item.hubs[0]}.{item.key}.on" not in work.done)
    return Left(work.finished, minutes, tuple(Part(item.label, item.size, item.hubs) for item in wanted))
