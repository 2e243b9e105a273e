"""Bundles, out and in."""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from uuid import UUID

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.http import FileResponse, HttpRequest
from hematite.language import say
from ninja import File, Form, Router, UploadedFile
from people.permissions import DECIDE, READ, May
from workshop.refusals import Refusal

from bundles import arriving, leaving
from bundles.carried import WORDS
from bundles.schemas import TakenOut

router = Router(tags=["bundles"])


@router.get("/cases/{uuid:case_id}/bundle", response={200: None})
def get_case_bundle(request: HttpRequest, case_id: UUID):
    """Return the case as an open case bundle (.zip)."""
    made = leaving.case_bundle(request.user, case_id)
    return FileResponse(made, as_attachment=True, filename=f"case-{case_id}.zip", content_type="application/zip")


@router.get("/vehicles/{uuid:vehicle_id}/bundle", response={200: None})
def get_vehicle_bundle(request: HttpRequest, vehicle_id: UUID):
    """Return the vehicle with all its cases as an open bundle (.zip)."""
    made = leaving.vehicle_bundle(request.user, vehicle_id)
    return FileResponse(made, as_attachment=True, filename=f"vehicle-{vehicle_id}.zip", content_type="application/zip")


@router.post("/bundles/look", auth=May(READ), response=TakenOut)
def look_at_bundle(request: HttpRequest, bundle: File[UploadedFile], onto: Form[UUID | None] = None):
    """Return what taking a bundle in would do. Nothing of it stays."""
    with held(bundle) as path:
        return _out(arriving.look_at(request.user, path, onto=onto))


@router.post("/bundles", auth=May(DECIDE), response={201: TakenOut})
def take_bundle_in(request: HttpRequest, bundle: File[UploadedFile], onto: Form[UUID | None] = None):
    """Take a bundle in, all of it or nothing. Taken in twice, the second time adds nothing."""
    with held(bundle) as path:
        return 201, _out(arriving.take_in(request.user, path, onto=onto))


@contextmanager
def held(bundle: UploadedFile) -> Iterator[Path]:
    if (bundle.size or 0) > settings.LARGEST_BUNDLE_BYTES:
        raise Refusal("too_large", say("The bundle is larger than 2 GB. Take its cases in one by one."), status=413)
    if isinstance(bundle, TemporaryUploadedFile):
        yield Path(bundle.temporary_file_path())
        return
    with tempfile.NamedTemporaryFile(prefix="bundle", suffix=".zip") as held:
        held.write(bundle.read())
        held.flush()
        yield Path(held.name)


def _out(found: arriving.Taken) -> dict:
    kinds = [
        {"label": say(label), "new": found.counts[name], "here": found.here[name]}
        for name, label in WORDS.items()
        if found.counts[name] or found.here[name]
    ]
    return vars(found) | {"kinds": kinds}
