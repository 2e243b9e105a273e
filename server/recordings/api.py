"""Recordings, asked for."""

from pathlib import Path
from typing import Literal
from uuid import UUID

from cases.services import get_case
from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.http import HttpRequest, HttpResponse
from hematite.language import say
from hematite.speed.courses import read_speed_log
from ninja import File, Form, Query, Router, UploadedFile
from people.permissions import READ, May
from pydantic import ValidationError as ShapeError
from workshop import confined
from workshop.refusals import Refusal
from workshop.serving import serve

from recordings import decoded, services, shown, storage
from recordings.exports import export
from recordings.schemas import (
    BandIn,
    BandMaybe,
    LiveIn,
    LiveOut,
    MadeIn,
    PlotOut,
    RecordingOut,
    SimulatedIn,
    SpeedLogOut,
    UploadIn,
    WithdrawIn,
)

router = Router(tags=["recordings"])


@router.get("/cases/{uuid:case_id}/recordings", response=list[RecordingOut])
def list_recordings(request: HttpRequest, case_id: UUID):
    """Return a case's recordings, compared."""
    return shown.recordings_out(get_case(request.user, case_id).recorded)


@router.post("/cases/{uuid:case_id}/recordings", response={201: RecordingOut})
def keep_recording(request: HttpRequest, case_id: UUID, payload: Form[UploadIn], sound: File[UploadedFile]):
    """Keep a WAV or FLAC file. `made` is JSON of the shape MadeIn. Sending it twice stores it once."""
    if (sound.size or 0) > settings.LARGEST_UPLOAD_BYTES:
        raise Refusal(
            "too_large", say("The file is larger than 200 MB. Cut it to the minutes that matter."), status=413
        )
    made = _made(payload.made)
    held = Path(sound.temporary_file_path()) if isinstance(sound, TemporaryUploadedFile) else sound.read()
    recording = services.keep_recording(request.user, case_id, recording_id=payload.id, sound=held, made=made)
    return 201, shown.recording_out(recording)


def _made(text: str) -> dict:
    try:
        return MadeIn.model_validate_json(text).stored()
    except ShapeError:
        words = say("How the recording was made cannot be read. Choose place and speed again.")
        raise Refusal("malformed", words, status=422) from None


@router.post("/cases/{uuid:case_id}/live", response=LiveOut)
def hear_live(request: HttpRequest, case_id: UUID, payload: Form[LiveIn], sound: File[UploadedFile]):
    """Return what a recording that is still being made tells so far. Nothing is kept."""
    if (sound.size or 0) > settings.LARGEST_LIVE_BYTES:
        raise Refusal(
            "too_large", say("That is more than is heard while recording. Stop, and it is heard whole."), status=413
        )
    found = services.hear_live(request.user, case_id, data=sound.read(), made=_made(payload.made))
    return shown.live_out(found)


@router.post("/cases/{uuid:case_id}/recordings/simulated", response={201: RecordingOut})
def simulate_recording(request: HttpRequest, case_id: UUID, payload: SimulatedIn):
    """Record with the simulated pickup."""
    recording = services.simulate_recording(
        request.user, case_id, recording_id=payload.id, made=payload.made.stored(), condition=payload.condition
    )
    return 201, shown.recording_out(recording)


@router.get("/recordings/{uuid:recording_id}", response=RecordingOut)
def get_recording(request: HttpRequest, recording_id: UUID):
    """Return one recording."""
    return shown.recording_out(services.get_recording(request.user, recording_id))


@router.get("/recordings/{uuid:recording_id}/plot", response=PlotOut)
def get_plot(request: HttpRequest, recording_id: UUID, band: Query[BandMaybe]):
    """Return the order spectrum; empty when no speed is known. With a band given, that of the band."""
    recording = services.get_heard(request.user, recording_id)
    if band.low_hz is not None and band.high_hz is not None:
        return services.plot_of_band(recording, low_hz=band.low_hz, high_hz=band.high_hz)
    return recording.analysis.plot or {"orders": [], "db": []}


@router.get("/recordings/{uuid:recording_id}/audio", response={200: None})
def get_audio(request: HttpRequest, recording_id: UUID):
    """Return the kept sound; a log that no browser plays comes as WAV."""
    recording = services.get_recording(request.user, recording_id)
    kept = storage.file_of(recording)
    if kept.suffix in storage.PLAYABLE:
        kind, digest = storage.PLAYABLE[kept.suffix], recording.sound.file_sha256 or recording.sound.sha256
        return serve(request, kept, kind=kind, digest=digest)
    return HttpResponse(export(recording, "wav")[0], content_type="audio/wav")


@router.get("/recordings/{uuid:recording_id}/band", response={200: None})
def get_band(request: HttpRequest, recording_id: UUID, band: Query[BandIn]):
    """Return one band of the sound alone, brought to a common loudness, as WAV."""
    kept = storage.file_of(services.get_heard(request.user, recording_id))
    alone = confined.heard(decoded.band_as_wav, kept, band.low_hz, band.high_hz)
    return HttpResponse(alone, content_type="audio/wav")


@router.get("/recordings/{uuid:recording_id}/export/{form}", response={200: None})
def get_export(request: HttpRequest, recording_id: UUID, form: Literal["wav", "flac", "uff", "csv", "json"]):
    """Return the sound as WAV, FLAC or UFF, or what was heard as CSV or JSON."""
    data, kind, name = export(services.get_heard(request.user, recording_id), form)
    return HttpResponse(data, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@router.post("/speed-logs", auth=May(READ), response=SpeedLogOut)
def read_log(request: HttpRequest, log: File[UploadedFile]):
    """Read a logged course of speed, CSV or GPX, to the points of a profile. Nothing is stored."""
    return {"points": confined.read(read_speed_log, log.read())}


@router.post("/recordings/{uuid:recording_id}/made", response=RecordingOut)
def correct(request: HttpRequest, recording_id: UUID, payload: MadeIn):
    """Correct how a recording was made: its hub, its speed, its marked stretches. It is heard again."""
    made = payload.stored()
    return shown.recording_out(services.remake(request.user, recording_id, made))


@router.post("/recordings/{uuid:recording_id}/hear", response=RecordingOut)
def hear_again(request: HttpRequest, recording_id: UUID):
    """Have a kept recording heard anew."""
    return shown.recording_out(services.hear_again(request.user, recording_id))


@router.post("/recordings/{uuid:recording_id}/withdraw", response=RecordingOut)
def withdraw(request: HttpRequest, recording_id: UUID, payload: WithdrawIn):
    """Set a recording aside, or take it back."""
    return shown.recording_out(services.withdraw(request.user, recording_id, withdrawn=payload.withdrawn))
