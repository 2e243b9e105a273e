"""What frames a job: what is done before anything is touched, and once all is on again."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from hematite.assembly import holds
from hematite.jobs.step import Step, caution_words
from hematite.jobs.walk import Walk
from hematite.tables import table


def begins(walk: Walk) -> Iterator[Step]:
    """Yield what comes before anything is touched at a hub."""
    for row in table("jobs/frame.toml")["begin"]:
        if _applies(row, walk):
            yield _step(row, walk, ())


def ends(walks: Sequence[Walk], done: Sequence[Step]) -> Iterator[Step]:
    """Yield what is proven once everything is on again: each step after all of `done`, and after the rows before it."""
    before = [step.id for step in done]
    for row in table("jobs/frame.toml")["end"]:
        made = [_step(row, walk, tuple(before)) for walk in walks if _applies(row, walk)]
        yield from made
        before += [step.id for step in made]


def _applies(row: Mapping[str, Any], walk: Walk) -> bool:
    touched = {part for _, part, act in walk.steps if act.id != "look"}
    if row.get("opened") and not walk.depth.off:
        return False
    return holds(row.get("when"), walk.facts) and ("off" not in row or bool(touched & set(row["off"])))


def _step(row: Mapping[str, Any], walk: Walk, needs: tuple[str, ...]) -> Step:
    hub = "" if row.get("shared") else walk.hub
    return Step(
        id=f"{hub}.{row['id']}" if hub else row["id"],
        hub=hub,
        part="",
        act=row["act"],
        do=row["do"],
        needs=needs,
        see=row.get("see", ""),
        cautions=tuple(caution_words(key) for key in row.get("cautions", ())),
        tools=tuple(row.get("tools", ())),
        uses=tuple(row.get("uses", ())),
        torque=row.get("torque", ""),
        minutes=row["minutes"],
        wait_before=row.get("wait_before", 0.0),
        wait_after=row.get("wait_after", ""),
        wait_for=row.get("wait_for", ""),
    )
