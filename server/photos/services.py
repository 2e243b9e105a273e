"""Keeping photographs of parts."""

import hashlib
from uuid import UUID

from cases.models import Case
from cases.services import open_case_of
from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from django.http import Http404
from hematite.assembly.parts import listed
from hematite.doors import one_of
from hematite.language import say
from hematite.tables import table
from people.models import User
from workshop import confined
from workshop.refusals import Refusal

from photos import pictures
from photos.models import Photo


def photos_of(case: Case) -> QuerySet[Photo]:
    """Return a case's photographs that were not taken back, oldest first, in one query."""
    return case.photos.filter(withdrawn=False).select_related("person")


def get_photo(user: User, photo_id: UUID) -> Photo:
    """Return one photograph of the workshop or raise Http404."""
    photo = Photo.objects.seen_by(user).select_related("case", "person").filter(id=photo_id).first()
    if photo is None:
        raise Http404
    return photo


def keep_photo(user: User, case_id: UUID, *, photo_id: UUID, hub: str, part: str, data: bytes) -> Photo:
    """Keep a photograph of a part, stripped and made smaller. The same id sent again is the same photograph."""
    case = open_case_of(user, case_id)
    digest = hashlib.sha256(data).hexdigest()
    known = Photo.objects.filter(id=photo_id).first()
    if known is not None:
        return _same(known, case, digest)
    found = case.core.hub(hub)
    if found is None and hub:
        raise Refusal("no_such_hub", say("This vehicle has no hub {hub}.", hub=hub), status=422)
    one_of(part, _parts(found.design_key if found else ""), say("part of a hub of this design"))
    clean, width, height = confined.read(pictures.cleaned, data)
    row = Photo(
        id=photo_id, case=case, hub=hub, part=part, sent_sha256=digest, person=user,
        file=pictures.keep(user.workshop_id, clean), width=width, height=height,
    )  # fmt: skip
    try:
        with transaction.atomic():
            row.save(force_insert=True)
    except IntegrityError:
        return _same(Photo.objects.get(id=photo_id), case, digest)
    return row


def _parts(design: str) -> list[str]:
    """Return what a photograph can be of: a part of a hub of this design, or a step of the whole job."""
    frame = table("jobs/frame.toml")
    whole = ["look", "lift", *(row["id"] for rows in frame.values() for row in rows)]
    return [*(row["key"] for row in listed(design)), *whole] if design else whole


def _same(known: Photo, case: Case, digest: str) -> Photo:
    if known.case_id != case.id or known.sent_sha256 != digest:
        raise Refusal("id_taken", say("This photograph's number is taken by another. Send it again as a new one."))
    return known


def withdraw(user: User, photo_id: UUID, *, withdrawn: bool) -> Photo:
    """Take a photograph back, or bring it back: the row stays."""
    photo = get_photo(user, photo_id)
    open_case_of(user, photo.case_id)
    photo.withdrawn = withdrawn
    photo.save(update_fields=["withdrawn"])
    return photo
