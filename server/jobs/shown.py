"""The work of a case as the screens, the paper and the lists see it."""

from collections.abc import Mapping
from dataclasses import asdict

from cases.work import Work
from hematite.assembly import assembly, hub_facts, library
from hematite.jobs import (
    Day,
    HubJob,
    Means,
    Step,
    assumed_json,
    cost,
    day,
    freeing_step,
    ladder,
    lists,
    lists_json,
    step_json,
)
from hematite.policy import Policy
from hematite.sums.filled import sums_of
from hematite.tables import table
from hematite.vehicles import Vehicle
from hematite.verdict import choices
from verdicts.shown import verdict_out

HOUR = 60.0


def means_of(
    policy: Policy, *, at_h: float | None, hands: int | None, parts_in_h: float, press_in_h: float | None
) -> Means:
    """Return what a job has to work with; `at_h`: the hour at which what is left is begun, None: at opening."""
    shop = policy.shop
    begins = 0.0 if at_h is None else min(max(at_h - shop.opens_h, 0.0), 24.0) * HOUR
    return Means(
        hands=hands or shop.hands,
        press_t=shop.press_t,
        press_from=None if press_in_h is None else begins + press_in_h * HOUR,
        open_for=(shop.closes_h - shop.opens_h) * HOUR,
        parts_in=begins + parts_in_h * HOUR if parts_in_h else 0.0,
        begins=begins,
    )


class Shown:
    """The work of a case, read once for a screen."""

    def __init__(self, work: Work, policy: Policy, means: Means) -> None:
        """Take the work, what it costs by and what there is to do it with."""
        self.work, self.policy, self.means = work, policy, means
        self.today = day(work.left(), means)
        self.at = {slot.step: slot for slot in self.today.slots}
        self.said: dict[str, list] = {}
        for row in work.entries:
            self.said.setdefault(row.step, []).append(row)
        self.parts = {job.hub: _parts(work.vehicle, job) for job in work.jobs}

    def out(self) -> dict:
        """Return the plan of a case's jobs with what is done, what it needs and when it will be done."""
        return {
            "jobs": [_job(self.work, job) for job in self.work.jobs],
            "steps": [self._step(step) for step in self.work.plan.steps],
            "lists": lists_json(lists(self.work.plan, self.work.vehicle)),
            "day": _day(self.today, self.policy, self.means),
        }

    def _step(self, step: Step) -> dict:
        tools = table("assembly/tools.toml")
        slot = self.at.get(step.id)
        return step_json(step, self.work.vehicle) | {
            "part_label": library()[step.part].label if step.part else "",
            "tools": [tools["tool"][key]["label"] for key in step.tools],
            "uses": [tools["use"][key]["label"] for key in step.uses],
            "ladder": self._ladder(step) if step.stuck and step.hub else [],
            "rung": self.work.rungs.get(step.id, ""),
            "sums": sums_of(step),
            "done": step.id in self.work.done,
            "entries": [entry_out(row) for row in self.said.get(step.id, [])],
            "start": slot.start if slot else None,
            "end": slot.end if slot else None,
        }

    def _ladder(self, step: Step) -> list[dict]:
        design = self.work.vehicle.hub(step.hub).design_key
        words = table("assembly/cautions.toml")
        return [
            {
                "key": rung.key,
                "step": freeing_step(step.id, rung),
                "label": rung.label,
                "do": rung.act.do,
                "stop": rung.stop,
                "wait": rung.act.wait,
                "cautions": [words[key] for key in rung.act.cautions],
                **asdict(cost(rung, step.part, self.parts[step.hub], design, self.policy.rates)),
            }
            for rung in ladder(library()[step.part])
        ]


def _day(today: Day, policy: Policy, means: Means) -> dict:
    shop = {
        "currency": policy.rates.currency,
        "hands": means.hands,
        "opens_h": policy.shop.opens_h,
        "closes_h": policy.shop.closes_h,
    }
    return {name: getattr(today, name) for name in ("end", "proven", "blocked", "first")} | shop


def _job(work: Work, job: HubJob) -> dict:
    row = next(one for one in work.rows if one.hub == job.hub)
    own = [step for step in work.plan.steps if step.hub == job.hub]
    return {
        "hub": job.hub,
        "choice": job.choice,
        "choice_label": choices()[job.choice],
        "repair_label": choices()[job.repair] if job.repair else "",
        "verdict": verdict_out(row),
        "left": sum(step.id not in work.done for step in own),
        "steps": len(own),
        "assumed": assumed_json(work.vehicle, job),
    }


def _parts(vehicle: Vehicle, job: HubJob) -> Mapping:
    hub = vehicle.hub(job.hub)
    return assembly(hub.design_key, hub_facts(hub, vehicle, job.ways))


def entry_out(row: object) -> dict:
    """Return what was entered at a step, as a screen shows it."""
    fields = {name: getattr(row, name) for name in ("id", "kind", "rung", "note", "at")}
    return fields | {
        "quantity": row.figure.get("quantity", ""),
        "value": row.figure.get("value"),
        "person": row.person.shown_name,
    }
