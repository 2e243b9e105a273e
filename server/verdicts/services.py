"""Judging a case as it stands, and freezing a verdict."""

from uuid import UUID

import hematite
from cases.models import Case
from cases.services import core_observation, get_case, open_case_of, standing
from django.db import transaction
from garage.core import core_vehicle
from hematite.doors import one_of
from hematite.verdict import as_json, assess, choices
from people.models import User
from recordings.services import heard_in
from workshop.refusals import Refusal

from verdicts.models import Verdict


def judge(case: Case) -> dict:
    """Return the core's assessment of a case, from what was heard before the repair and what was observed."""
    observations = [core_observation(row) for row in standing(case)]
    return as_json(assess(core_vehicle(case.vehicle), heard_in(case, after_repair=False), observations))


def assessment(user: User, case_id: UUID) -> dict:
    """Return the assessment of a case of the workshop."""
    return judge(get_case(user, case_id))


@transaction.atomic
def accept(user: User, case_id: UUID, *, hub: str, choice: str, reason: str) -> Verdict:
    """Freeze what is decided at a hub. Going against the advice needs a reason."""
    case = open_case_of(user, case_id)
    judged = judge(case)
    one_of(hub, judged["hubs"], "hub of this vehicle")
    one_of(choice, [name for name in choices() if name != "undecided"], "choice")
    advised = judged["hubs"][hub]["choice"]
    if choice != advised and not reason.strip():
        raise Refusal("reason_needed", "This differs from the advice. Say why in a few words.", status=422)
    return Verdict.objects.create(
        case=case, hub=hub, choice=choice, advised=advised, reason=reason, assessment=judged,
        core_version=hematite.__version__, person=user,
    )  # fmt: skip


def verdicts_of(user: User, case_id: UUID) -> list[Verdict]:
    """Return the verdicts of a case, oldest first."""
    return list(get_case(user, case_id).verdicts.select_related("person"))
