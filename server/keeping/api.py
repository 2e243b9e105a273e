"""What is kept: backups, the rule of years, deleting for good, the whole workshop out and in, and who did what."""

from uuid import UUID

import hematite
from audit.models import Trace
from audit.services import traces_of
from bundles.api import held
from django.conf import settings
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from hematite.language import say
from ninja import File, Router, UploadedFile
from people.models import User, Workshop
from people.permissions import RULE, May
from recordings.hearing import heard_by_others
from recordings.models import Sound
from workshop.sheets import as_csv

from keeping import erasing, whole
from keeping.chores import BACKUP
from keeping.models import Chore
from keeping.schemas import ArrivedOut, KeepingIn, KeepingOut

router = Router(tags=["keeping"], auth=May(RULE))
SHOWN = 100


def _out(user: User) -> dict:
    row = Chore.objects.filter(name=BACKUP).first() if settings.BACKUP else None
    sounds, workshop = Sound.objects.seen_by(user), Workshop.objects.get(pk=user.workshop_id)
    return {
        "version": hematite.__version__,
        "backup": {
            "where": settings.BACKUP,
            "sealed": bool(settings.BACKUP_KEY),
            "every_h": settings.BACKUP_EVERY_H,
            "begun_at": row.begun_at if row else None,
            "done_at": row.done_at if row else None,
            "failed": row.failed if row else "",
        },
        "sounds_years": workshop.sounds_years,
        "sounds": sounds.exclude(file="").count(),
        "heard_by_others": heard_by_others(user.workshop_id).count(),
        "hearing_again": workshop.hear_again,
        "sounds_ended": sounds.exclude(ended_at=None).count(),
        "traces": [_trace(row) for row in traces_of(user)[:SHOWN]],
        "traces_in_all": traces_of(user).count(),
    }


def _trace(row: Trace) -> dict:
    who = row.person.shown_name if row.person else say("The rule")
    return {
        "at": row.at,
        "person": who,
        "what": say(row.get_what_display()),
        "about": row.about,
        "details": row.details,
    }


@router.get("/keeping", response=KeepingOut)
def get_keeping(request: HttpRequest):
    """Return how backups go, the rule of years, and who changed what lately."""
    return _out(request.user)


@router.put("/keeping", response=KeepingOut)
def set_keeping(request: HttpRequest, payload: KeepingIn):
    """Set for how many years sounds of closed cases are kept; without a number for ever."""
    erasing.keep_sounds_for(request.user, payload.sounds_years)
    return _out(request.user)


@router.post("/keeping/hear-again", response=KeepingOut)
def hear_again(request: HttpRequest):
    """Have what other versions heard heard by this one, in the background; what was decided stays as it was."""
    Workshop.objects.filter(pk=request.user.workshop_id).update(hear_again=True)
    return _out(request.user)


@router.get("/keeping/traces.csv", response={200: None})
def get_traces(request: HttpRequest):
    """Return all that was written down of who changed what, as CSV."""
    found = map(_trace, traces_of(request.user).iterator())
    head = ("at", "person", "what", "about", "details")
    table = as_csv(head, ([*(str(row[name]) for name in head[:-1]), "; ".join(row["details"])] for row in found))
    named = {"Content-Disposition": 'attachment; filename="who-changed-what.csv"'}
    return HttpResponse(table, content_type="text/csv; charset=utf-8", headers=named)


@router.post("/people/{person_id}/erase", response={204: None})
def erase_person(request: HttpRequest, person_id: int):
    """Take the name off somebody who left."""
    erasing.erase_person(request.user, person_id)
    return 204, None


@router.post("/vehicles/{uuid:vehicle_id}/sold", response={204: None})
def sold(request: HttpRequest, vehicle_id: UUID):
    """Forget whose a vehicle was; what was found and done stays."""
    erasing.sold(request.user, vehicle_id)
    return 204, None


@router.post("/vehicles/{uuid:vehicle_id}/delete", response={204: None})
def delete_vehicle(request: HttpRequest, vehicle_id: UUID):
    """Delete a vehicle with all its cases, for good."""
    erasing.delete_vehicle(request.user, vehicle_id)
    return 204, None


@router.post("/cases/{uuid:case_id}/delete", response={204: None})
def delete_case(request: HttpRequest, case_id: UUID):
    """Delete a case, for good."""
    erasing.delete_case(request.user, case_id)
    return 204, None


@router.post("/photos/{uuid:photo_id}/delete", response={204: None})
def delete_photo(request: HttpRequest, photo_id: UUID):
    """Delete a photograph, for good."""
    erasing.delete_photo(request.user, photo_id)
    return 204, None


@router.get("/workshop/archive", response={200: None})
def leave(request: HttpRequest):
    """Return the whole workshop as an open archive (.zip): its ways, and a bundle of each vehicle."""
    named = {"Content-Disposition": 'attachment; filename="workshop.zip"'}
    return StreamingHttpResponse(whole.leave(request.user), content_type="application/zip", headers=named)


@router.post("/workshop/archive", response=ArrivedOut)
def take_in(request: HttpRequest, archive: File[UploadedFile]):
    """Take in the archive of a workshop: what is new is added, what is here stays as it is."""
    with held(archive) as path:
        return vars(whole.take_in(request.user, path))
