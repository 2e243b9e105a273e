"""Whether what a bundle brought can be shown: every view of it is made once before any of it stays."""

import logging
from collections.abc import Callable, Iterable, Iterator
from uuid import UUID

from cases.schemas import CaseOut
from cases.services import get_case
from cases.shown import case_out
from garage.models import Vehicle
from hematite.language import say
from jobs import services as jobs
from jobs.owner import for_the_owner
from logbook.growth import growth
from logbook.rows import rows_of
from people.models import User
from recordings.shown import recordings_out
from upkeep.services import of_vehicle
from upkeep.shown import recheck_out
from verdicts.schemas import VerdictOut
from verdicts.services import assessment, verdicts_of
from verdicts.shown import verdict_out
from workshop.refusals import Refusal

log = logging.getLogger(__name__)


def refuse_what_cannot_be_shown(user: User, vehicle: Vehicle, cases: Iterable[UUID]) -> None:
    """Make every view of a vehicle and of cases once. Raises a refusal where one fails: nothing is taken in then."""
    for what, make in _views(user, vehicle, cases):
        try:
            make()
        except Refusal:
            continue  # said in words on its page too: nothing is decided yet, say
        except Exception as wrong:  # whatever it is: these rows come from outside
            log.warning("A bundle was refused: %s cannot be shown: %r", what, wrong)
            words = say("The bundle holds something of {what} that cannot be shown.", what=what)
            raise Refusal("cannot_be_shown", words, status=422) from wrong


def _views(user: User, vehicle: Vehicle, cases: Iterable[UUID]) -> Iterator[tuple[str, Callable[[], object]]]:
    for number in cases:
        what = say("the case of ") + format(get_case(user, number).opened_at, "%Y-%m-%d")
        yield what, lambda number=number: CaseOut.model_validate(case_out(user, get_case(user, number)))
        yield what, lambda number=number: recordings_out(get_case(user, number).recorded)
        yield what, lambda number=number: assessment(user, number)
        yield what, lambda number=number: [VerdictOut.model_validate(verdict_out(r)) for r in verdicts_of(user, number)]
        yield what, lambda number=number: (jobs.job(user, number), jobs.proof(user, number))
        yield what, lambda number=number: for_the_owner(user, number)
    yield say("its logbook"), lambda: rows_of(user, vehicle.id)
    yield say("its trends"), lambda: growth(user, vehicle.id)
    yield say("its rechecks"), lambda: [recheck_out(row) for row in of_vehicle(user, vehicle.id)[2]]
