"""Practice, asked for: one's own only, by whatever role. What a practice vehicle answers is asked for at its case."""

from uuid import UUID

from cases.schemas import ObservationOut
from cases.services import get_case
from cases.shown import observation_out
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from people.permissions import DECIDE, OWN, May

from training import answers, bench, group, lessons, listening, rounds, shown
from training.schemas import (
    AnswerIn,
    DeskOut,
    EarIn,
    EarsOut,
    ExerciseOut,
    HandIn,
    LearnerOut,
    LessonIn,
    LessonOut,
    PartLookIn,
    RoundIn,
    RoundOut,
    SaidIn,
    SetRoundIn,
    StrokesOut,
    TrialIn,
    TrialOut,
)

router = Router(tags=["training"])


@router.get("/training", response=DeskOut)
def get_desk(request: HttpRequest):
    """Return where one stands: topics with their levels, what is due, and how sure one is against how right."""
    return shown.desk_out(request.user)


@router.post("/training/rounds", auth=May(OWN), response={201: RoundOut})
def begin_round(request: HttpRequest, payload: RoundIn):
    """Begin a round of five, or go on with the one that is not done."""
    return 201, shown.round_out(rounds.begin_round(request.user, round_id=payload.id, about=payload.topic))


@router.get("/training/rounds/{uuid:round_id}", response=RoundOut)
def get_round(request: HttpRequest, round_id: UUID):
    """Return one's own round."""
    return shown.round_out(rounds.get_round(request.user, round_id))


@router.get("/training/exercises/{uuid:exercise_id}", response=ExerciseOut)
def get_exercise(request: HttpRequest, exercise_id: UUID):
    """Return one question."""
    return shown.exercise_out(rounds.get_exercise(request.user, exercise_id))


@router.post("/training/exercises/{uuid:exercise_id}/begin", auth=May(OWN), response=ExerciseOut)
def begin_exercise(request: HttpRequest, exercise_id: UUID):
    """Put the question's vehicle on the bench: a case of its own, of the question's number."""
    return shown.exercise_out(rounds.begin(request.user, exercise_id))


@router.post("/training/exercises/{uuid:exercise_id}/ear", auth=May(OWN), response=ExerciseOut)
def say_by_ear(request: HttpRequest, exercise_id: UUID, payload: EarIn):
    """Say what one's ear hears; then the bench shows what it heard."""
    return shown.exercise_out(answers.say_by_ear(request.user, exercise_id, key=payload.key, sure=payload.sure))


@router.post("/training/exercises/{uuid:exercise_id}/answer", auth=May(OWN), response=ExerciseOut)
def answer(request: HttpRequest, exercise_id: UUID, payload: AnswerIn):
    """Answer; then what is hidden is shown."""
    return shown.exercise_out(answers.answer(request.user, exercise_id, **payload.dict()))


@router.get("/training/group", auth=May(DECIDE), response=list[LearnerOut])
def get_group(request: HttpRequest):
    """Return how the workshop's people stand, for who teaches."""
    return group.group(request.user)


@router.post("/training/group/rounds", auth=May(DECIDE), response={201: list[LearnerOut]})
def set_round(request: HttpRequest, payload: SetRoundIn):
    """Set a round for somebody of the workshop."""
    group.set_round(request.user, payload.person, round_id=payload.id, about=payload.topic)
    return 201, group.group(request.user)


@router.get("/training/pairs", response=EarsOut)
def get_ears(request: HttpRequest):
    """Return the pairs to listen to, and how often one told them."""
    return listening.ears_out(request.user)


@router.post("/training/pairs", auth=May(OWN), response={201: TrialOut})
def begin_trial(request: HttpRequest, payload: TrialIn):
    """Begin a trial: A, B, and an X that is one of them."""
    row = listening.begin(request.user, trial_id=payload.id, pair=payload.pair, number=payload.level)
    return 201, listening.trial_out(row)


@router.get("/training/pairs/{uuid:trial_id}/{which}.wav", response={200: None})
def get_trial_sound(request: HttpRequest, trial_id: UUID, which: str):
    """Return one sound of a trial."""
    row = listening.get_trial(request.user, trial_id)
    return HttpResponse(listening.wav_of(row, which), content_type="audio/wav")


@router.post("/training/pairs/{uuid:trial_id}/said", auth=May(OWN), response=TrialOut)
def answer_trial(request: HttpRequest, trial_id: UUID, payload: SaidIn):
    """Say what X is; then what it was is shown."""
    return listening.trial_out(listening.answer(request.user, trial_id, payload.said))


@router.get("/cases/{uuid:case_id}/lesson", response=LessonOut)
def get_lesson(request: HttpRequest, case_id: UUID):
    """Return whether a closed and proven case is learnt on."""
    return lessons.lesson_out(request.user, case_id)


@router.put("/cases/{uuid:case_id}/lesson", auth=May(DECIDE), response=LessonOut)
def set_lesson(request: HttpRequest, case_id: UUID, payload: LessonIn):
    """Let a closed and proven case be learnt on, without whose it was; or no more."""
    return lessons.set_lesson(request.user, case_id, kept=payload.kept)


@router.get("/cases/{uuid:case_id}/simulated/strokes", response=StrokesOut)
def get_strokes(
    request: HttpRequest, case_id: UUID, hub: str = Query(max_length=8), first: int = Query(0, ge=0, le=9999)
):
    """Return some strokes of the simulated gauge at a hub."""
    return {"strokes_mm": bench.strokes(request.user, case_id, hub, first=first)}


@router.post("/cases/{uuid:case_id}/simulated/hand", response={201: ObservationOut})
def feel(request: HttpRequest, case_id: UUID, payload: HandIn):
    """Make a test on a practice vehicle, and log what is felt."""
    return 201, _logged(request, case_id, bench.feel(request.user, case_id, payload.dict()).id)


@router.post("/cases/{uuid:case_id}/simulated/part", response={201: ObservationOut})
def look(request: HttpRequest, case_id: UUID, payload: PartLookIn):
    """Look at a part of a practice hub, and log what is seen."""
    return 201, _logged(request, case_id, bench.look(request.user, case_id, payload.dict()).id)


def _logged(request: HttpRequest, case_id: UUID, number: UUID) -> dict:
    case = get_case(request.user, case_id)
    return observation_out(next(row for row in case.log if row.id == number), case.core)
