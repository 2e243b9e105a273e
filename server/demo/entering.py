"""Entering what the demo's mechanic found and did, through the services that the screens call."""

import uuid

from cases.models import Case
from cases.schemas import ObservationIn
from cases.services import observe as log
from jobs.services import enter, job
from people.models import User


def observe(user: User, case: Case, hub: str, kind: str, value: dict, *, job: uuid.UUID | None = None) -> None:
    """Log what was found; `job`: the verdict after whose job it was."""
    typed = case.observations.filter(kind="complaint", job=None).first() if kind == "complaint" else None
    said = ObservationIn(id=uuid.uuid4(), hub=hub, kind=kind, value=value, supersedes=typed and typed.id, job=job)
    log(user, case.id, observation_id=said.id, data=said.dict(exclude={"id"}))


def measured(user: User, case: Case, hub: str, readings: list[float], *, job: uuid.UUID | None = None) -> None:
    """Log play as a dial indicator showed it, in mm."""
    observe(user, case, hub, "end_play", {"readings_mm": readings, "resolution_mm": 0.01}, job=job)


def tick(user: User, case: Case, many: int | None = None) -> None:
    """Tick the first steps of a case's job, or all of them."""
    steps = job(user, case.id)["work"].plan.steps
    for step in steps[:many]:
        enter(user, case.id, {"id": uuid.uuid4(), "step": step.id, "kind": "done", "rung": "", "note": ""})
