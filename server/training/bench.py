"""What hands, eyes and a dial find on a simulated vehicle: asked for one at a time, and logged as if by hand."""

from uuid import UUID

from cases.models import Case, Observation
from cases.schemas import ObservationIn
from cases.services import get_case, observe, open_case_of
from hematite.doors import one_of
from hematite.evidence.observations import PART
from hematite.language import say
from hematite.simulator import simulated_play_mm
from hematite.training import Truth
from hematite.training.hands import entry_of, scattered_mm, seen, strokes_mm
from hematite.vehicles import Hub
from people.models import User
from workshop.refusals import Refusal


def strokes(user: User, case_id: UUID, hub: str, *, first: int) -> list[float]:
    """Return what the simulated gauge's pointer travels at a hub, stroke by stroke, in mm."""
    case = get_case(user, case_id)
    at = _hub(case, hub)
    if case.truth is not None:
        return strokes_mm(case.truth, at.id, first=first)
    return scattered_mm(simulated_play_mm(at, case.hides(at.id)), seed=case.id.int % 2**32, what=f"{at.id} {first}")


def _hub(case: Case, hub: str) -> Hub:
    one_of(hub, [known.id for known in case.core.hubs()], say("hub of this vehicle"))
    found = case.core.hub(hub)
    assert found is not None
    return found


def _truth(case: Case) -> Truth:
    if case.truth is None:
        raise Refusal("not_practice", say("This is no practice hub: do it, and enter what you find."), status=422)
    return case.truth


def feel(user: User, case_id: UUID, data: dict) -> Observation:
    """Make a test on a practice vehicle, and log what is felt. The same number sent again is the same entry."""
    case = open_case_of(user, case_id)
    if data["hub"]:
        _hub(case, data["hub"])
    return _log(user, case, data, data["kind"], entry_of(_truth(case), case.core, data["kind"], data["hub"]))


def look(user: User, case_id: UUID, data: dict) -> Observation:
    """Look at one part of an opened practice hub, and log what is seen."""
    case = open_case_of(user, case_id)
    found = {"part": data["part"], "finds": seen(_truth(case), _hub(case, data["hub"]), data["part"])}
    return _log(user, case, data, PART, found)


def _log(user: User, case: Case, data: dict, kind: str, value: dict) -> Observation:
    said = ObservationIn(id=data["id"], hub=data["hub"], kind=kind, value=value, supersedes=data["supersedes"])
    return observe(user, case.id, observation_id=said.id, data=said.dict(exclude={"id"}))
