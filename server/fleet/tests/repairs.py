"""Repairs of some time ago, for tests."""

import uuid
from datetime import timedelta

from cases.models import Case
from cases.services import open_case
from django.utils import timezone
from garage.services import add_vehicle
from people.models import User
from upkeep.models import Reading
from verdicts.models import Verdict
from verdicts.services import accept
from workshop.tests.people import vehicle_data


def repaired(
    user: User, label: str, *, days_ago: int, back_after: int | None = None, again: str = "replace_unit"
) -> Verdict:
    """Renew a unit of a vehicle of its own so many days ago, seen again since; `back_after`: it came back, for what."""
    vehicle = add_vehicle(user, vehicle_data(label) | {"id": str(uuid.uuid4())})
    visits = [(days_ago, "replace_unit")] + ([] if back_after is None else [(days_ago - back_after, again)])
    for ago, choice in visits:
        case = open_case(user, vehicle.id, "Growl")
        accept(user, case.id, hub="A1L", choice=choice, reason="sure")
        at = timezone.now() - timedelta(days=ago)
        Case.objects.filter(id=case.id).update(opened_at=at, closed_at=at + timedelta(hours=3))
        case.verdicts.update(at=at + timedelta(hours=1))
    Reading.objects.create(vehicle=vehicle, on=timezone.localdate(), km=1000, person=user)
    return Verdict.objects.filter(case__vehicle=vehicle).earliest("at")
