"""Taking away for good: a name, whose a vehicle was, a photograph, a case, a vehicle, sounds after some years.

Rows go at once; files stay for a day, because a backup that runs now may still have to read them.
"""

from collections.abc import Iterable
from datetime import timedelta
from pathlib import Path
from uuid import UUID

from audit.services import What, rename, trace, trace_of_itself
from cases.models import Case, Observation
from cases.services import get_case
from django.conf import settings
from django.db import transaction
from django.db.models import Max
from django.utils import timezone
from garage.models import Vehicle
from garage.services import get_vehicle
from hematite.language import say
from logbook.models import Entry
from people import staff
from people.models import User, Workshop
from photos.models import Photo
from photos.services import get_photo
from recordings.models import Recording, Sound
from training.lessons import TOPIC, forget
from training.models import Card, Heard, Lesson, Round
from upkeep.models import Feel, Reading, Recheck
from verdicts.models import Verdict
from workshop import media
from workshop.refusals import Refusal

from keeping.archive import named_files
from keeping.models import Leaving

STAY = timedelta(days=1)
YEAR = timedelta(days=365.25)
AT_LEAST_YEARS = 1
PRACTICE_STAYS = timedelta(days=60)
AT_ONCE = 200


@transaction.atomic
def erase_person(user: User, person_id: int) -> User:
    """Take the name off somebody who left: what they entered stays, by nobody in particular."""
    person = staff.one_of_ours(user, person_id)
    if person.is_active:
        raise Refusal(
            "still_here", say("{shown_name} is still here. Let them leave first.", shown_name=person.shown_name)
        )
    _forget_practice(person)
    number, called = f"erased-{person.pk}", person.shown_name
    trace(user, What.PERSON_ERASED, number)
    person.username, person.first_name, person.last_name, person.email = number, "", "", ""
    person.preferences, person.erased_at, person.last_login = {}, timezone.now(), None
    person.set_unusable_password()
    person.save()
    staff.sign_out_all(person)
    _unname(user.workshop_id, called, person.shown_name)
    rename(user.workshop_id, called, number)
    return person


def _unname(workshop_id: int, called: str, now: str) -> None:
    """Take a name out of what was frozen as words: who departed from the ways, who took a bundle in."""
    for verdict in Verdict.objects.filter(case__workshop=workshop_id, snapshot__icontains=called):
        departures = verdict.snapshot.get("departures") or []
        if any(one.get("person") == called for one in departures):
            said = [one | {"person": now} if one.get("person") == called else one for one in departures]
            Verdict.objects.filter(pk=verdict.pk).update(snapshot=verdict.snapshot | {"departures": said})
    for case in Case.objects.filter(workshop=workshop_id, came_from__by=called):
        Case.objects.filter(pk=case.pk).update(came_from=case.came_from | {"by": now})


@transaction.atomic
def sold(user: User, vehicle_id: UUID) -> Vehicle:
    """Forget whose a vehicle was: its plate, its name, what drivers said. What was found and done stays."""
    vehicle = get_vehicle(user, vehicle_id)
    label = say("Sold {now:%Y-%m-%d}, {one}", now=timezone.now(), one=str(vehicle.pk)[:8])
    trace(user, What.VEHICLE_SOLD, label)
    Vehicle.objects.filter(pk=vehicle.pk).update(label=label, plate="", revision=vehicle.revision + 1, change=None)
    vehicle.cases.update(complaint="")
    rename(user.workshop_id, vehicle.label, label)
    return get_vehicle(user, vehicle_id)


@transaction.atomic
def delete_photo(user: User, photo_id: UUID) -> None:
    """Delete a photograph for good, of a closed case too."""
    photo = get_photo(user, photo_id)
    trace(user, What.PHOTO_DELETED, photo.case, [f"{photo.hub} {photo.part}".strip()])
    _let_go([photo.file])
    photo.delete()


@transaction.atomic
def delete_case(user: User, case_id: UUID) -> None:
    """Delete a case with all that was found, recorded and decided in it."""
    case = get_case(user, case_id)
    trace(user, What.CASE_DELETED, case, _delete_cases(Case.objects.filter(pk=case.pk)))


@transaction.atomic
def delete_vehicle(user: User, vehicle_id: UUID) -> None:
    """Delete a vehicle with all its cases and readings."""
    vehicle = get_vehicle(user, vehicle_id)
    what = _empty(vehicle)
    gone = say("added {added_at:%Y-%m-%d}", added_at=vehicle.added_at)
    trace(user, What.VEHICLE_DELETED, gone, what)
    if not Vehicle.objects.filter(workshop=user.workshop_id, label=vehicle.label).exclude(pk=vehicle.pk).exists():
        rename(user.workshop_id, vehicle.label, say("deleted, {gone}", gone=gone))
    vehicle.delete()


def _empty(vehicle: Vehicle) -> list[str]:
    """Delete all that is kept of a vehicle; return in words how much went."""
    what = _delete_cases(vehicle.cases.all())
    for model in (Reading, Entry):  # what corrects another holds it
        model.objects.filter(vehicle=vehicle).update(supersedes=None)
    for model in (Recheck, Reading, Feel, Entry):
        model.objects.filter(vehicle=vehicle).delete()
    return what


def clear_benches() -> int:
    """Take away the practice vehicles of questions answered a while ago; the answers stay. Returns how many."""
    before = timezone.now() - PRACTICE_STAYS
    old = Vehicle.objects.filter(cases__exercise__answered_at__lt=before).exclude(workshop__practice_of=None)
    return _take_away(old[:AT_ONCE])


@transaction.atomic
def _take_away(vehicles: Iterable[Vehicle]) -> int:
    many = 0
    for vehicle in vehicles:
        _empty(vehicle)
        vehicle.delete()
        many += 1
    return many


def _forget_practice(person: User) -> None:
    """Delete somebody's bench with all that stands on it, their rounds, and what was to come back to them."""
    Round.objects.filter(person=person).delete()
    Card.objects.filter(person=person).delete()
    Heard.objects.filter(person=person).delete()
    bench = Workshop.objects.filter(practice_of=person).first()
    if bench is not None:
        _take_away(Vehicle.objects.filter(workshop=bench))
        Sound.objects.filter(workshop=bench).delete()
        bench.delete()


def _forget_lessons(numbers: list[UUID]) -> None:
    """Take cases that go off every practice bench too, where they were learnt on."""
    rows = list(Lesson.objects.filter(case__in=numbers))
    learnt = [str(row.pk) for row in rows]
    _take_away(Vehicle.objects.filter(cases__exercise__topic=TOPIC, cases__exercise__matter__in=learnt))
    forget(rows)


def _delete_cases(cases: Iterable[Case]) -> list[str]:
    """Delete cases; return in words how much went."""
    numbers = [case.pk for case in cases]
    _forget_lessons(numbers)
    sounds = list(Sound.objects.filter(recordings__case__in=numbers).distinct())
    pictures = list(Photo.objects.filter(case__in=numbers).values_list("file", flat=True))
    Observation.objects.filter(case__in=numbers).update(supersedes=None)
    Recheck.objects.filter(case__in=numbers).delete()
    Recheck.objects.filter(opened__in=numbers).update(opened=None)
    Case.objects.filter(pk__in=numbers).delete()
    alone = [sound for sound in sounds if not sound.recordings.exists()]
    _let_go([*pictures, *(sound.file for sound in alone)])
    Sound.objects.filter(pk__in=[sound.pk for sound in alone]).delete()
    return [
        say("cases: {numbers}", numbers=len(numbers)),
        say("sounds: {alone}", alone=len(alone)),
        say("photographs: {pictures}", pictures=len(pictures)),
    ]


def _let_go(names: Iterable[str]) -> None:
    Leaving.objects.bulk_create(Leaving(name=name) for name in names if name)


@transaction.atomic
def keep_sounds_for(user: User, years: int | None) -> None:
    """Set for how many years sounds of closed cases are kept, None for ever."""
    if years is not None and years < AT_LEAST_YEARS:
        raise Refusal(
            "too_short", say("Keep them a year at least: a job is proven by comparing with them."), status=422
        )
    trace(user, What.KEEPING_CHANGED, details=[say("years: {years}", years=years) if years else say("for ever")])
    Workshop.objects.filter(pk=user.workshop_id).update(sounds_years=years)


def end_old_sounds() -> int:
    """Take away the sounds that every workshop's rule has ended; what was heard in them stays. Returns how many."""
    ended = 0
    for workshop in Workshop.objects.exclude(sounds_years=None):
        before = timezone.now() - workshop.sounds_years * YEAR
        with transaction.atomic():
            ended += _end_sounds(workshop, before)
    return ended


def _end_sounds(workshop: Workshop, before: object) -> int:
    open_ones = Recording.objects.filter(case__workshop=workshop, case__closed_at=None).values("sound")
    rows = Sound.objects.filter(workshop=workshop).exclude(file="").exclude(pk__in=open_ones)
    old = list(rows.annotate(last=Max("recordings__case__closed_at")).filter(last__lt=before))
    if old:
        _let_go([sound.file for sound in old])
        Sound.objects.filter(pk__in=[sound.pk for sound in old]).update(file="", ended_at=timezone.now())
        trace_of_itself(workshop.pk, What.SOUNDS_ENDED, details=[say("sounds: {old}", old=len(old))])
    return len(old)


def take_files_away() -> int:
    """Remove the files that were let go a day ago and that no row names; return how many."""
    due = list(Leaving.objects.filter(since__lt=timezone.now() - STAY))
    named = named_files()
    gone = 0
    for row in due:
        if row.name not in named:
            if media.lain_s(row.name) < STAY.total_seconds():
                continue  # sent again meanwhile: the row that names it may be on its way
            media.remove(row.name)
            media.remove(row.name.removesuffix(".jpg") + "-small.jpg")
            gone += 1
        row.delete()
    return gone + _sweep(named)


def _sweep(named: dict[str, str]) -> int:
    """Remove what lies on this disk and no row ever named, as a bundle leaves it that was refused; return how many."""
    root = Path(settings.MEDIA_ROOT)
    if media.shared() or not root.is_dir():
        return 0
    before = (timezone.now() - STAY).timestamp()
    known = set(named) | {name.removesuffix(".jpg") + "-small.jpg" for name in named if name.endswith(".jpg")}
    known |= set(Leaving.objects.values_list("name", flat=True))
    files = [one for one in root.rglob("*.*") if one.is_file() and one.stat().st_mtime < before]
    stray = [one for one in files if str(one.relative_to(root)) not in known]
    for one in stray:
        one.unlink(missing_ok=True)
    return len(stray)
