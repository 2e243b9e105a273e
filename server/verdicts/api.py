"""Assessments and verdicts, asked for."""

from uuid import UUID

from django.http import HttpRequest
from hematite.verdict import choices
from ninja import Router

from verdicts import services
from verdicts.models import Verdict
from verdicts.schemas import AcceptIn, AssessmentOut, VerdictOut

router = Router(tags=["verdicts"])


def verdict_out(row: Verdict) -> dict:
    """Return a verdict for the screen."""
    return {
        "id": row.id,
        "hub": row.hub,
        "choice": row.choice,
        "choice_label": choices()[row.choice],
        "advised": row.advised,
        "reason": row.reason,
        "because": row.assessment["hubs"][row.hub]["because"],
        "core_version": row.core_version,
        "person": row.person.get_full_name() or row.person.username,
        "at": row.at,
    }


@router.get("/cases/{uuid:case_id}/assessment", response=AssessmentOut)
def get_assessment(request: HttpRequest, case_id: UUID):
    """Judge the case as it stands."""
    return services.assessment(request.user, case_id)


@router.get("/cases/{uuid:case_id}/verdicts", response=list[VerdictOut])
def list_verdicts(request: HttpRequest, case_id: UUID):
    """Return what was decided."""
    return [verdict_out(row) for row in services.verdicts_of(request.user, case_id)]


@router.post("/cases/{uuid:case_id}/verdicts", response={201: VerdictOut})
def accept(request: HttpRequest, case_id: UUID, payload: AcceptIn):
    """Freeze a verdict."""
    row = services.accept(request.user, case_id, hub=payload.hub, choice=payload.choice, reason=payload.reason)
    return 201, verdict_out(row)
