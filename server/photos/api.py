"""Photographs, asked for."""

from uuid import UUID

from cases.services import get_case
from django.conf import settings
from django.http import HttpRequest
from hematite.language import say
from ninja import File, Form, Query, Router, UploadedFile
from workshop.refusals import Refusal
from workshop.serving import serve

from photos import pictures, services
from photos.models import Photo
from photos.schemas import PhotoIn, PhotoOut, TakenBackIn

router = Router(tags=["photos"])


def photo_out(row: Photo) -> dict:
    """Return a photograph for the screen."""
    fields = {name: getattr(row, name) for name in ("id", "hub", "part", "width", "height", "at", "withdrawn")}
    return fields | {"person": row.person.shown_name}


@router.get("/cases/{uuid:case_id}/photos", response=list[PhotoOut])
def list_photos(request: HttpRequest, case_id: UUID):
    """Return a case's photographs."""
    return [photo_out(row) for row in services.photos_of(get_case(request.user, case_id))]


@router.post("/cases/{uuid:case_id}/photos", response={201: PhotoOut})
def keep_photo(request: HttpRequest, case_id: UUID, payload: Form[PhotoIn], picture: File[UploadedFile]):
    """Keep a photograph of a part: place and time are taken out of it. Sending it twice stores it once."""
    if (picture.size or 0) > settings.LARGEST_PHOTO_BYTES:
        raise Refusal("too_large", say("The picture is larger than 30 MB. Take it again, smaller."), status=413)
    row = services.keep_photo(
        request.user, case_id, photo_id=payload.id, hub=payload.hub, part=payload.part, data=picture.read()
    )
    return 201, photo_out(row)


@router.get("/photos/{uuid:photo_id}", response={200: None})
def get_photo(request: HttpRequest, photo_id: UUID, small: bool = Query(False)):
    """Return the picture, whole or small."""
    photo = services.get_photo(request.user, photo_id)
    kept = pictures.small(photo.file) if small else pictures.whole(photo.file)
    return serve(request, kept, kind="image/jpeg", digest=kept.stem)


@router.post("/photos/{uuid:photo_id}/withdraw", response=PhotoOut)
def withdraw(request: HttpRequest, photo_id: UUID, payload: TakenBackIn):
    """Take a photograph back, or bring it back."""
    return photo_out(services.withdraw(request.user, photo_id, withdrawn=payload.withdrawn))
