"""Recordings to take along: the sound in open formats, what was heard as JSON, the lines as CSV."""

import csv
import io
import json
from functools import partial

from hematite.language import say
from hematite.listening import heard_from_json
from workshop import confined
from workshop.refusals import Refusal

from recordings import decoded
from recordings.models import Recording
from recordings.storage import file_of


def _sound(form: str, recording: Recording) -> bytes:
    return confined.heard(decoded.encoded, file_of(recording), form, f"{recording.place} {recording.situation}")


def _csv(recording: Recording) -> bytes:
    """Return every line of every family that was looked for."""
    text = io.StringIO()
    rows = csv.writer(text)
    rows.writerow(["family", "row", "strength", "line", "events_per_wheel_turn", "db_over_floor"])
    for family in heard_from_json(_heard(recording)).families:
        for name, order, db in family.lines:
            rows.writerow([family.kind, family.row, f"{family.strength:.2f}", name, f"{order:.4f}", f"{db:.2f}"])
    return text.getvalue().encode()


def _json(recording: Recording) -> bytes:
    said = {"core_version": recording.analysis.core_version, "heard": _heard(recording)}
    return json.dumps(said, indent=1, ensure_ascii=False).encode()


def _heard(recording: Recording) -> dict:
    if recording.analysis.heard is None:
        raise Refusal(
            "not_heard", say("This recording has not been heard yet. Wait a moment and try again."), status=409
        )
    return recording.analysis.heard


FORMS = {
    "wav": (partial(_sound, "wav"), "audio/wav"),
    "flac": (partial(_sound, "flac"), "audio/flac"),
    "uff": (partial(_sound, "uff"), "text/plain"),
    "csv": (_csv, "text/csv"),
    "json": (_json, "application/json"),
}


def export(recording: Recording, form: str) -> tuple[bytes, str, str]:
    """Return a recording in one of `FORMS`: its bytes, content type and file name."""
    encode, kind = FORMS[form]
    return encode(recording), kind, f"{recording.place}-{str(recording.id)[:8]}.{form}"
