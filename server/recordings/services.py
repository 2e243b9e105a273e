"""Keeping recordings, then having them heard."""

from dataclasses import replace
from pathlib import Path
from uuid import UUID

from cases.models import Case
from cases.services import case_itself, open_case_of, refuse_withheld
from django.db import IntegrityError, transaction
from django.http import Http404
from django.utils import timezone
from hematite.doors import one_of
from hematite.language import say
from hematite.listening import (
    Heard,
    Situation,
    SoFar,
    heard_from_json,
)
from hematite.listening.situation import segments_from_json
from hematite.recordings import encode_wav, measure
from hematite.simulator import CONDITIONS, PLAYED_S, PLAYED_TURNS_PER_S, simulate
from hematite.speed import wheel_turns
from hematite.training.sounds import on_stands
from people.models import User
from workshop import confined, media
from workshop.refusals import Refusal

from recordings import decoded, storage
from recordings.hearing import ask_again, have_heard
from recordings.models import Analysis, Recording
from recordings.situations import situation_of

CABIN = "cabin"


def get_recording(user: User, recording_id: UUID) -> Recording:
    """Return one recording of the workshop or raise Http404."""
    found = Recording.objects.seen_by(user).select_related("sound", "analysis", "case", "person")
    recording = found.filter(id=recording_id).first()
    if recording is None:
        raise Http404
    return recording


def get_heard(user: User, recording_id: UUID) -> Recording:
    """Return one recording to be looked into; refused in a practice case before one's own ear has spoken."""
    recording = get_recording(user, recording_id)
    refuse_withheld(recording.case)
    return recording


def keep_recording(user: User, case_id: UUID, *, recording_id: UUID, sound: bytes | Path, made: dict) -> Recording:
    """Keep a sound before anything hears it, then have it heard.

    The same id with the same sound is answered with the row that is there; with another sound it is refused.
    """
    case = open_case_of(user, case_id)
    with storage.as_file(sound) as file:
        digest = media.sha256(file)
        known = Recording.objects.filter(id=recording_id).select_related("sound", "analysis").first()
        if known is not None:
            return _same(known, case, digest)
        rate, duration_s = confined.read(measure, file)
        _check_situation(case, made, duration_s)
        kept = storage.keep(user.workshop_id, digest, file) | {"rate": rate, "duration_s": duration_s}
    job = job_after(case, made["place"]) if made.get("after_repair") else None
    row = Recording(id=recording_id, case=case, person=user, job=job, **made)
    try:
        recording = _store(row, digest, kept)
    except IntegrityError:
        return _same(get_recording(user, recording_id), case, digest)
    return get_recording(user, recording.id)


def _same(known: Recording, case: Case, digest: str) -> Recording:
    if known.case_id != case.id or known.sound.sha256 != digest:
        raise Refusal("id_taken", say("This recording's number is taken by another. Send it again as a new one."))
    return known


def _check_situation(case: Case, made: dict, duration_s: float) -> None:
    vehicle = case.core
    one_of(made["place"], [*(hub.id for hub in vehicle.hubs()), CABIN], say("place on this vehicle"))
    segments = segments_from_json(made.get("segments", []))
    speed = Situation(id="", place=made["place"], speed=made["speed"], segments=segments).effective_speed
    wheel_turns(speed, duration_s=duration_s, circumference_m=vehicle.circumference)


@transaction.atomic
def _store(row: Recording, digest: str, kept: dict) -> Recording:
    workshop_id = row.case.workshop_id
    row.sound = storage.row_of(workshop_id, digest, kept)
    row.save(force_insert=True)
    Analysis.objects.create(recording=row)
    have_heard(row.id)
    return row


@transaction.atomic
def hear_again(user: User, recording_id: UUID) -> Recording:
    """Have a kept recording heard anew, in a closed case too: what was decided holds what it was decided on."""
    recording = get_recording(user, recording_id)
    _refuse_ended(recording)
    ask_again(recording.id)
    return get_recording(user, recording_id)


def _refuse_ended(recording: Recording) -> None:
    """Refuse what would have a sound heard that was taken away: what was heard in it would be lost."""
    if recording.sound.ended_at:
        storage.file_of(recording)


def hear_live(user: User, case_id: UUID, *, data: bytes, made: dict) -> SoFar:
    """Hear a sound that is still being made, and keep nothing of it."""
    case = open_case_of(user, case_id)
    refuse_withheld(case)
    one_of(made["place"], [*(hub.id for hub in case.core.hubs()), CABIN], say("place on this vehicle"))
    row = Recording(case=case, person=user, **made)
    return confined.read(decoded.heard_so_far, data, situation_of(row), case.core)


def simulate_recording(
    user: User, case_id: UUID, *, recording_id: UUID, made: dict, condition: str | None
) -> Recording:
    """Record with the simulated pickup: it plays what the case hides at that place, or the condition asked for."""
    case = open_case_of(user, case_id)
    hub = case.core.hub(made["place"])
    if case.truth is not None and case.truth.kept:
        raise Refusal("heard_already", say("What was recorded of this vehicle stands here already."), status=422)
    if hub is None:
        raise Refusal("clip_only", say("The simulated pickup clips on a hub. Choose one."), status=422)
    turns = wheel_turns(made["speed"], duration_s=PLAYED_S, circumference_m=case.core.circumference)
    let_go = made["situation"] == "stand_spin"
    mean = turns.mean_rate if turns else PLAYED_TURNS_PER_S / (2 if let_go else 1)
    first = 2 * mean if let_go else mean  # it slows evenly to rest, and makes as many turns in all
    number = recording_id.int % 2**32
    if case.truth is not None and not made["after_repair"]:
        sound = on_stands(case.truth, case.core, place=hub.id, turns_per_s=first, let_go=let_go, number=number)
    else:
        hidden = "sound" if made["after_repair"] else case.hides(hub.id)
        played = one_of(condition or hidden, CONDITIONS, say("condition"))
        sound = simulate(hub, condition=played, turns_per_s=first, duration_s=PLAYED_S, seed=number, coast=let_go)
    return keep_recording(user, case_id, recording_id=recording_id, sound=encode_wav(sound), made=made)


def plot_of_band(recording: Recording, *, low_hz: float, high_hz: float) -> dict:
    """Return the order spectrum of one band, made now; empty where no speed is known."""
    case = recording.case
    vehicle = case_itself(case.id).core
    kept = storage.file_of(recording)
    return confined.heard(decoded.band_spectrum, kept, situation_of(recording), vehicle, low_hz, high_hz)


MADE = ("place", "sensor", "situation", "gain_group", "speed", "segments")


@transaction.atomic
def remake(user: User, recording_id: UUID, made: dict) -> Recording:
    """Correct how a recording was made: what was said before is kept beside it, the sound stays, it is heard again."""
    Recording.objects.seen_by(user).select_for_update().filter(id=recording_id).first()
    recording = get_recording(user, recording_id)
    case = open_case_of(user, recording.case_id)
    _refuse_ended(recording)
    _check_situation(case, made, recording.sound.duration_s)
    if all(getattr(recording, name) == made[name] for name in MADE):
        return recording  # sent twice
    before = {name: getattr(recording, name) for name in MADE} | {"until": timezone.now().isoformat()}
    for name in MADE:
        setattr(recording, name, made[name])
    recording.former = [*recording.former, before]
    recording.save(update_fields=[*MADE, "former"])
    ask_again(recording.id)
    return get_recording(user, recording_id)


def withdraw(user: User, recording_id: UUID, *, withdrawn: bool) -> Recording:
    """Set a recording aside, or take it back: it stays kept, but is no witness while set aside."""
    recording = get_recording(user, recording_id)
    open_case_of(user, recording.case_id)
    Recording.objects.filter(id=recording.id).update(withdrawn=withdrawn)
    return get_recording(user, recording_id)


def heard_in(case: Case, *, after_repair: bool | None = None) -> list[Heard]:
    """Return what was heard in a case's standing recordings, before or after the repair."""
    rows = [row for row in case.recorded if not row.withdrawn and row.analysis.state == "done"]
    if after_repair is not None:
        rows = [row for row in rows if row.after_repair is after_repair]
    return [_of_its_job(heard_from_json(row.analysis.heard), row) for row in rows]


def _of_its_job(heard: Heard, row: Recording) -> Heard:
    return replace(heard, situation=replace(heard.situation, job=str(row.job or "")))


def job_after(case: Case, place: str) -> UUID | None:
    """Return the job that a recording made after a repair follows: the last at its place, else the last."""
    verdicts = list(case.verdicts.only("id", "hub", "case"))
    return next((row.id for row in reversed(verdicts) if row.hub == place), verdicts[-1].id if verdicts else None)
