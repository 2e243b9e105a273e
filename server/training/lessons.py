"""Real work to learn on: closed and proven cases of the workshop, without people, plates and words."""

from collections.abc import Iterator
from uuid import UUID, uuid4

from cases.models import Case
from cases.services import core_observation, get_case, standing
from cases.work import jobs_of
from django.db import transaction
from garage.core import vehicle_json
from hematite.evidence.witnesses import causes
from hematite.language import say, small
from hematite.training import Truth
from hematite.training.kept import TOPIC, keep, wordless
from jobs.services import proof
from people.models import User
from recordings import decoded, storage
from recordings.models import Recording
from recordings.services import heard_in
from verdicts.models import Verdict
from workshop import confined
from workshop.refusals import Refusal

from training.models import Card, Exercise, Lesson

MADE = ("sensor", "situation", "speed", "segments")


def lesson_out(user: User, case_id: UUID) -> dict:
    """Return whether a case is learnt on, and if it cannot be, why not."""
    case = get_case(user, case_id)
    found = Lesson.objects.filter(case=case).first()
    if found is None:
        return {"kept": False, "why_not": _proven(user, case)[1], "answered": 0}
    answered = Exercise.objects.filter(topic=TOPIC, matter=str(found.pk)).exclude(answered_at=None)
    return {"kept": True, "why_not": "", "answered": answered.count()}


@transaction.atomic
def set_lesson(user: User, case_id: UUID, *, kept: bool) -> dict:
    """Let a case be learnt on, or no more. Asked for twice it is done once."""
    case = get_case(user, case_id)
    known = Lesson.objects.filter(case=case).first()
    if known and not kept:
        forget([known])
        known.delete()
    elif kept and not known:
        proved, why_not = _proven(user, case)
        if proved is None:
            raise Refusal("not_proven", why_not, status=422)
        number = uuid4()
        said = {"id": number, "truth": _truth(case, proved, number).to_json(), "made_by": user}
        Lesson.objects.get_or_create(case=case, defaults=said)
    return lesson_out(user, case_id)


def forget(lessons: list[Lesson]) -> None:
    """Take questions that nobody answered, and what was to come back, out of everybody's rounds."""
    of_them = {"topic": TOPIC, "matter__in": [str(one.pk) for one in lessons]}
    Exercise.objects.filter(answered_at=None, **of_them).delete()
    Card.objects.filter(**of_them).delete()


def _proven(user: User, case: Case) -> tuple[dict | None, str]:
    """Return the proof of the one job of a case that was proven, or why it cannot be learnt on."""
    if case.practice or case.closed_at is None:
        return None, say("Only a closed case of real work can be learnt on.")
    found = [proof(user, case.id, row.id) for row in jobs_of(case.verdicts.all())]
    mended = [one for one in found if not one["untouched"]]
    if len(mended) != 1:
        return None, say("One hub must have been mended, no more: what is right could not be asked.")
    proved = mended[0]
    if not proved["closing"].mended:
        return None, say("Nothing proved it, or something speaks against it: nobody knows that it was right.")
    later = Verdict.objects.filter(
        case__vehicle=case.vehicle_id, hub=proved["verdict"].hub, case__opened_at__gt=case.closed_at
    )
    if later.exclude(choice="leave").exists():
        return None, say("This hub came back since: nobody knows that it was right.")
    return proved, ""


def _truth(case: Case, proved: dict, number: UUID) -> Truth:
    row, closing = proved["verdict"], proved["closing"]
    return keep(
        vehicle_json(case.vehicle),
        [core_observation(one) for one in standing(case)],
        number=str(number),
        hub=row.hub,
        choice=row.choice,
        cause=_cause(row),
        because=say("Afterwards it was proven: {proven}.", proven=", ".join(small(one) for one in closing.proven)),
        recorded=[str(one.pk) for one in case.recorded if one.job is None and not one.withdrawn and one.sound.file],
    )


def _cause(row: Verdict) -> str:
    """Return the cause that was believed when it was decided."""
    if row.cause:
        return next(key for key, one in causes().items() if one["group"] == row.cause)
    return str(row.assessment["hubs"][row.hub]["mechanism"])


def places(user: User) -> list[tuple[str, str]]:
    """Return what of the workshop's work may be learnt on, as topic and matter."""
    rows = Lesson.objects.filter(case__workshop=user.workshop_id).values_list("pk", flat=True)
    return [(TOPIC, str(number)) for number in rows]


def truth_of(number: str) -> Truth:
    """Return what a lesson hides."""
    return Truth.from_json(Lesson.objects.get(pk=number).truth)


def given(truth: Truth) -> Iterator[tuple[str, bytes, dict]]:
    """Yield what was recorded in real work, where its sound is still there: its number, the sound, how it was made.

    The sound alone: whatever else its file told of itself stays, and so do the workshop's own words for a gain.
    """
    rows = Recording.objects.filter(pk__in=truth.kept.get("recorded", ())).select_related("sound")
    groups = sorted({row.gain_group for row in rows} - {""})
    for row in rows:
        if row.sound.file:
            made = {"place": row.place} | {name: wordless(getattr(row, name)) for name in MADE}
            group = str(groups.index(row.gain_group) + 1) if row.gain_group else ""
            sound = confined.read(decoded.encoded, storage.file_of(row), "flac", "")
            yield str(row.pk), sound, made | {"gain_group": group, "after_repair": False}


def heard_of(truth: Truth) -> list:
    """Return what was heard of real work before it was mended; nothing of a made-up vehicle."""
    lesson = Lesson.objects.filter(pk=truth.matter).select_related("case").first() if truth.kept else None
    return heard_in(lesson.case, after_repair=False) if lesson else []
