"""Rounds: what is in them, and beginning an exercise on the learner's own bench."""

import secrets
from collections.abc import Mapping
from uuid import UUID, uuid5
from zlib import crc32

from cases.models import Case, Withheld
from cases.schemas import ObservationIn
from cases.services import observe, open_case
from django.db import transaction
from django.http import Http404
from django.utils import timezone
from garage.services import add_vehicle
from hematite.doors import one_of
from hematite.language import say
from hematite.policy import Policy
from hematite.recordings import encode_wav
from hematite.simulator import PLAYED_TURNS_PER_S
from hematite.training import Truth, draw, topic, topics
from hematite.training.kept import TOPIC
from hematite.training.levels import Topic
from hematite.training.rounds import Place, compose, levels_after
from hematite.training.sounds import ROAD, on_stands, on_the_road
from people.bench import bench_of, to_bench
from people.models import User
from policies.models import WorkshopPolicy
from policies.services import policy_of, policy_row
from recordings.services import keep_recording
from workshop.refusals import Refusal

from training import lessons, returning, watching
from training.models import Card, Exercise, Round

SEEDS = 2**31


def standing_levels(user: User) -> dict[str, int]:
    """Return the level that somebody is at in every topic."""
    answers: dict[str, list[tuple[int, bool]]] = {}
    rows = Exercise.objects.filter(round__person=user).exclude(answered_at=None).order_by("answered_at")
    for key, number, right in rows.values_list("topic", "level", "right"):
        answers.setdefault(key, []).append((number, bool(right)))
    return levels_after(answers)


@transaction.atomic
def begin_round(user: User, *, round_id: UUID, about: str = "") -> Round:
    """Begin a round; asked for twice it is one. A round that is not done is gone on with first."""
    known = Round.objects.filter(id=round_id).first()
    if known is not None and known.person_id != user.pk:
        raise Refusal("id_taken", say("This round's number is taken by another. Begin it again."))
    open_one = known or open_round(user)
    return open_one or make_round(user, round_id=round_id, about=about)


@transaction.atomic
def make_round(user: User, *, round_id: UUID, about: str, set_by: User | None = None) -> Round:
    """Draw a round for somebody: what is due to come back, what they never met, at the level of each topic."""
    if about:
        one_of(about, topics(), say("topic"))
    made = Round.objects.create(id=round_id, person=user, topic=about, set_by=set_by)
    met = set(Card.objects.filter(person=user).values_list("topic", "matter"))
    due, own = returning.due(user, at=timezone.now()), lessons.places(user)
    places = compose(due, met, topic=about, seed=secrets.randbelow(SEEDS), own=own)
    if not places:
        words = say("No case of this workshop is learnt on yet. A closed one is made a question where it is proven.")
        raise Refusal("no_lesson", words, status=422)
    at, ways = standing_levels(user), policy_of(user.workshop_id)
    for number, place in enumerate(places, 1):
        made.exercises.add(_drawn(number, place, at, ways), bulk=False)
    return made


def _drawn(number: int, place: Place, levels: Mapping[str, int], ways: Policy) -> Exercise:
    """Return a question, not stored yet: drawn by chance and by the workshop's windows, or of real work."""
    key, matter = place
    if key == TOPIC:
        vehicle, truth = "", lessons.truth_of(matter)
    else:
        vehicle, truth = draw(key, matter, number=levels[key], seed=secrets.randbelow(SEEDS), policy=ways)
    said = {"topic": key, "matter": matter, "level": truth.level, "vehicle": vehicle, "truth": truth.to_json()}
    return Exercise(number=number, **said)


def open_round(user: User) -> Round | None:
    """Return the round that somebody has not done yet."""
    return Round.objects.filter(person=user, exercises__answered_at=None, exercises__isnull=False).first()


def get_round(user: User, round_id: UUID) -> Round:
    """Return one's own round, or raise Http404."""
    found = Round.objects.filter(id=round_id, person=user).first()
    if found is None:
        raise Http404
    return found


def get_exercise(user: User, exercise_id: UUID, *, alone: bool = False) -> Exercise:
    """Return one's own exercise, or raise Http404. `alone`: others wait until this is stored."""
    own = Exercise.objects.filter(id=exercise_id, round__person_id=user.pk)
    if alone:
        Exercise.objects.filter(id=exercise_id).select_for_update().first()
    found = own.select_related("round", "case").first()
    if found is None:
        raise Http404
    return found


def begin(user: User, exercise_id: UUID) -> Exercise:
    """Put an exercise's vehicle on the bench, with what is given; asked for twice it is done once."""
    exercise = get_exercise(user, exercise_id)
    if exercise.begun_at:
        return exercise
    bench = bench_of(user)
    about = topic(exercise.topic)
    _copy_ways(user, bench.pk, about)
    learner = User.objects.get(pk=user.pk)
    to_bench(learner, bench)
    with transaction.atomic():
        exercise = get_exercise(user, exercise_id, alone=True)
        case = exercise.case or _put_up(learner, exercise, about)
        Exercise.objects.filter(pk=exercise.pk).update(case=case)
    _record_given(learner, exercise.hidden, case, about)  # broken off, the next call keeps what is missing
    Exercise.objects.filter(pk=exercise.pk, begun_at=None).update(begun_at=timezone.now())
    watching.have_watched(exercise.id)
    return get_exercise(user, exercise_id)


def _copy_ways(user: User, bench: int, about: Topic) -> None:
    """Let the bench go by the ways of the workshop as they are now, but for those that a question is asked by."""
    own = policy_row(user.workshop_id) or WorkshopPolicy(data={}, changed_by=user)
    data = own.data | {"schools": (own.data.get("schools") or {}) | about.ways}
    said = {"data": data, "changed_by": own.changed_by, "revision": own.revision}
    WorkshopPolicy.objects.update_or_create(workshop_id=bench, defaults=said)


def _put_up(learner: User, exercise: Exercise, about: Topic) -> Case:
    truth = exercise.hidden
    vehicle = add_vehicle(learner, {"rolling_circumference_m": None} | exercise.described)
    case = open_case(learner, vehicle.id, str(truth.complaint["text"]), case_id=exercise.id)
    Case.objects.filter(pk=case.pk).update(
        practice=exercise.truth, withheld=Withheld.HEARD if about.by_ear else Withheld.OPINION
    )
    if not case.observations.exists():  # what the driver says counts, whatever language it was said in
        said = ObservationIn(
            id=uuid5(case.id, "complaint"),
            kind="complaint",
            value={k: v for k, v in truth.complaint.items() if k != "text"},
        )
        observe(learner, case.id, observation_id=said.id, data=said.dict(exclude={"id"}))
    return Case.objects.get(pk=case.pk)


def _record_given(learner: User, truth: Truth, case: Case, about: Topic) -> None:
    """Keep the recordings that come with a question."""
    vehicle = case.core
    for number, sound, made in lessons.given(truth):
        keep_recording(learner, case.id, recording_id=given_number(case.id, number), sound=sound, made=made)
    if "stands" in about.given:
        for hub in vehicle.hubs():
            number = crc32(f"{truth.seed} {hub.id}".encode())
            sound = on_stands(truth, vehicle, place=hub.id, turns_per_s=PLAYED_TURNS_PER_S, let_go=False, number=number)
            speed = {"kind": "wheel", "turns_per_s": PLAYED_TURNS_PER_S}
            made = {"sensor": "clip", "situation": "stand_driven", "gain_group": "stand", "speed": speed}
            _keep(learner, case, hub.id, sound, made)
    if "road" in about.given:
        sound = on_the_road(truth, vehicle, place="cabin", number=crc32(f"{truth.seed} road".encode()))
        made = {"sensor": "air", "situation": "road", "gain_group": "", "speed": {"kind": "unknown"}}
        _keep(learner, case, "cabin", sound, made | {"segments": list(map(dict, ROAD))})


def given_number(case_id: UUID, what: str) -> UUID:
    """Return the number of a recording that comes with a question: of a place, or one of real work by its number."""
    return uuid5(case_id, f"given {what}")


def given_numbers(case: Case) -> set[UUID]:
    """Return the numbers of all recordings that may have come with a question."""
    kept = case.truth.kept.get("recorded", ()) if case.truth else ()
    return {given_number(case.id, what) for what in (*(hub.id for hub in case.core.hubs()), "cabin", *kept)}


def _keep(learner: User, case: Case, place: str, sound: object, made: dict) -> None:
    number = given_number(case.id, place)
    whole = {"place": place, "segments": [], "after_repair": False} | made
    keep_recording(learner, case.id, recording_id=number, sound=encode_wav(sound), made=whole)
