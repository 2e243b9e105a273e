"""The work of a case: its jobs as the core knows them, one plan for all of them, and what of it is done."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property

from django.db.models import Prefetch, QuerySet, prefetch_related_objects
from hematite.assembly import library, possible_choices
from hematite.decision import UNTOUCHED
from hematite.jobs import HubJob, Plan, Tick, ladder, plan, rungs, standing
from hematite.language import say, small
from hematite.sums import label_of
from hematite.units import first_unit, shown
from hematite.vehicles import Vehicle

from cases.models import Case

TICKS = ("done", "undone")


def jobs_of(verdicts: Iterable) -> list:
    """Return the verdicts that make the jobs of a case: the latest at each hub, in the order they were decided."""
    latest = {row.hub: row for row in verdicts}
    return sorted(latest.values(), key=lambda row: row.at)


@dataclass(frozen=True)
class Work:
    """The jobs of a case. `rows`: its verdicts that count; `entries`: what was entered at their steps, oldest first."""

    vehicle: Vehicle
    rows: tuple
    entries: tuple

    @cached_property
    def jobs(self) -> tuple[HubJob, ...]:
        """Return the jobs that can be carried out, in the order in which they were decided."""
        return tuple(_hub_job(row, self.rungs) for row in self.rows if _can_be_done(row, self.vehicle))

    @cached_property
    def rungs(self) -> dict[str, str]:
        """Return the rung that is tried at each step that would not move; one that no ladder has any more is let go."""
        latest = {row.step: row.rung for row in self.entries if row.kind == "stuck"}
        return {step: rung for step, rung in latest.items() if rung in _ladder_of(step)}

    @cached_property
    def plan(self) -> Plan:
        """Return the one plan of all jobs."""
        return plan(self.vehicle, self.jobs)

    @cached_property
    def decided(self) -> dict:
        """Return when it was decided last at each hub."""
        return {row.hub: row.at for row in self.rows}

    @cached_property
    def done(self) -> frozenset[str]:
        """Return the steps that are done and still hold."""
        ticks = [Tick(row.step, row.kind == "done", row.at) for row in self.entries if row.kind in TICKS]
        return standing(ticks, self.decided)

    def left(self, hub: str | None = None) -> list:
        """Return the steps that are not done, of one hub and of the whole job when a hub is given."""
        return [step for step in self.plan.steps if step.id not in self.done and hub in (None, step.hub)]

    @property
    def finished(self) -> bool:
        """Return whether nothing is left to do; what is only left alone, or not ours to mend, has nothing."""
        idle = {job.hub for job in self.jobs if job.choice in UNTOUCHED and not _touched(job, self.plan)}
        return all(step.hub in idle for step in self.left())


def brief_verdicts() -> QuerySet:
    """Return verdicts without what they rest on, a hundred times as much, but for what their jobs follow from."""
    verdicts = Case.verdicts.rel.related_model.objects
    return verdicts.only("case", "hub", "choice", "cause", "repair", "at", "brief")


def work_of(case: Case, verdicts: Iterable, entries: Iterable) -> Work:
    """Return the work of a case; hubs are of the design that they were decided as, all else as it is known now."""
    rows = tuple(jobs_of(verdicts))
    return Work(_as_decided(case.core, rows), rows, tuple(entries))


def entered() -> tuple[str | Prefetch, ...]:
    """Return what `said` reads, for lists that read it of many cases at once."""
    return "steps__person", "worked__person", Prefetch("verdicts", brief_verdicts())


def said(case: Case) -> list[dict]:
    """Return what was entered at the steps of a case's job and worked out for them, oldest first: part of its log."""
    prefetch_related_objects([case], *entered())
    return sorted([*_entered(case), *_worked_out(case)], key=lambda row: row["at"])


def _worked_out(case: Case) -> list[dict]:
    return [
        {
            "id": row.id,
            "hub": row.hub,
            "words": f"{small(label_of(row.sum))}: {row.line}",
            "person": row.person.shown_name,
            "at": row.at,
            "undone": False,
        }
        for row in case.worked.all()
    ]


def _entered(case: Case) -> list[dict]:
    entries = list(case.steps.all())
    if not entries:
        return []
    made = work_of(case, case.verdicts.all(), entries).plan
    steps = {step.id: step.do for step in made.steps}
    return [
        {
            "id": row.id,
            "hub": row.step.split(".")[0] if row.step.count(".") and not row.step.startswith("lift") else "",
            "words": _words(row, steps.get(row.step, row.step)),
            "person": row.person.shown_name,
            "at": row.at,
            "undone": row.kind == "undone",
        }
        for row in entries
    ]


def _words(row: object, step: str) -> str:
    figure = row.figure
    amount = shown(figure["value"], quantity=figure["quantity"], unit=first_unit(figure["quantity"])) if figure else ""
    heads = {"done": say("done"), "undone": say("not done after all"), "note": say("note"), "stuck": say("came loose")}
    head = (
        say("would not move, {label}", label=small(rungs()[row.rung].label)) if row.rung in rungs() else heads[row.kind]
    )
    return ": ".join(part for part in (head, " ".join(part for part in (row.note, amount) if part), step) if part)


def _as_decided(vehicle: Vehicle, rows: Iterable) -> Vehicle:
    """Return a vehicle whose hubs are of the design that was decided on: a correction meanwhile changes no job."""
    frozen = {row.hub: row.brief["design"] for row in rows if "design" in row.brief}
    axles = (
        replace(axle, hubs=tuple(replace(h, design_key=frozen.get(h.id, h.design_key)) for h in axle.hubs))
        for axle in vehicle.axles
    )
    return replace(vehicle, axles=tuple(axles)) if frozen else vehicle


def _ladder_of(step: str) -> set[str]:
    part = library().get((*step.split("."), "")[1])
    return {rung.key for rung in ladder(part)} if part else set()


def _hub_job(row: object, rungs: dict[str, str]) -> HubJob:
    return HubJob(row.hub, row.choice, row.cause, row.repair, row.brief.get("ways", {}), rungs)


def _can_be_done(row: object, vehicle: Vehicle) -> bool:
    """Return whether a verdict's hub is still there and can be worked on as decided."""
    hub = vehicle.hub(row.hub)
    return hub is not None and row.choice in possible_choices(hub.design_key)


def _touched(job: HubJob, made: Plan) -> bool:
    return any(step.hub == job.hub and step.act in ("off", "set") for step in made.steps)
