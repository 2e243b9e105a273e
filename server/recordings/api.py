"""Recordings, asked for."""

from uuid import UUID

from cases.services import get_case
from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import File, Form, Router, UploadedFile
from pydantic import ValidationError as ShapeError
from workshop.refusals import Refusal

from recordings import services, shown, storage
from recordings.bundles import bundle
from recordings.schemas import MadeIn, PlotOut, RecordingOut, SimulatedIn, UploadIn, WithdrawIn

router = Router(tags=["recordings"])


@router.get("/cases/{uuid:case_id}/recordings", response=list[RecordingOut])
def list_recordings(request: HttpRequest, case_id: UUID):
    """Return a case's recordings, compared."""
    return shown.recordings_out(services.recordings_of(get_case(request.user, case_id)))


@router.post("/cases/{uuid:case_id}/recordings", response={201: RecordingOut})
def keep_recording(request: HttpRequest, case_id: UUID, payload: Form[UploadIn], sound: File[UploadedFile]):
    """Keep a WAV or FLAC file. `made` is JSON of the shape MadeIn. Sending it twice stores it once."""
    if (sound.size or 0) > settings.LARGEST_UPLOAD_BYTES:
        raise Refusal("too_large", "The file is larger than 200 MB. Cut it to the minutes that matter.", status=413)
    try:
        made = MadeIn.model_validate_json(payload.made).stored()
    except ShapeError:
        words = "How the recording was made cannot be read. Choose place and speed again."
        raise Refusal("malformed", words, status=422) from None
    recording = services.keep_recording(request.user, case_id, recording_id=payload.id, data=sound.read(), made=made)
    return 201, shown.recording_out(recording)


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
def get_plot(request: HttpRequest, recording_id: UUID):
    """Return the order spectrum; empty when no speed is known."""
    return services.get_recording(request.user, recording_id).analysis.plot or {"orders": [], "db": []}


@router.get("/recordings/{uuid:recording_id}/audio", response={200: None})
def get_audio(request: HttpRequest, recording_id: UUID):
    """Return the kept sound."""
    sound = services.get_recording(request.user, recording_id).sound
    kind = "audio/flac" if sound.file.endswith(".flac") else "audio/wav"
    return FileResponse(storage.path(sound.file).open("rb"), content_type=kind)


@router.post("/recordings/{uuid:recording_id}/withdraw", response=RecordingOut)
def withdraw(request: HttpRequest, recording_id: UUID, payload: WithdrawIn):
    """Set a recording aside, or take it back."""
    return shown.recording_out(services.withdraw(request.user, recording_id, withdrawn=payload.withdrawn))


@router.get("/cases/{uuid:case_id}/bundle", response={200: None})
def get_bundle(request: HttpRequest, case_id: UUID):
    """Return the case as an open case bundle (.zip)."""
    data = bundle(get_case(request.user, case_id))
    return HttpResponse(
        data,
        content_type="application/zip",
        headers={"Content-Disposition": f'attachment; filename="case-{case_id}.zip"'},
    )
