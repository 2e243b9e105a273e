"""The sounds and pictures of a bundle: looked at as what anybody sends is, then kept."""

import hashlib

from hematite.recordings import measure
from photos import pictures
from photos.models import Photo
from recordings import storage
from recordings.hearing import have_heard as ask_for
from recordings.models import Analysis, Recording
from workshop import confined


def fill(row: Recording | Photo, content: bytes, *, keep: bool) -> None:
    """Set a row's file from what the bundle holds. Raises what the core and the pictures refuse. `keep`: on disk."""
    if isinstance(row, Photo):
        _picture(row, content, keep=keep)
    else:
        _sound(row, content, keep=keep)


def _sound(row: Recording, content: bytes, *, keep: bool) -> None:
    with storage.as_file(content) as file:
        digest = hashlib.sha256(content).hexdigest()
        rate, duration_s = confined.read(measure, file)
        kept = storage.keep(row.case.workshop_id, digest, file) if keep else {"file": "", "file_sha256": ""}
    known = {"rate": rate, "duration_s": duration_s}
    row.sound = storage.row_of(row.case.workshop_id, digest, kept | known)


def _picture(row: Photo, content: bytes, *, keep: bool) -> None:
    clean, row.width, row.height = confined.read(pictures.as_it_is, content)
    row.sent_sha256 = hashlib.sha256(content).hexdigest()
    row.file = pictures.keep(row.case.workshop_id, clean) if keep else ""


def have_heard(row: Recording) -> None:
    """Have a recording heard here: what another workshop's program heard is not believed."""
    Analysis.objects.create(recording=row)
    ask_for(row.id)
