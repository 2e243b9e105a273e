"""A plan as plain JSON, for the command line, the case format and the screens."""

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from hematite.assembly import library, questions
from hematite.errors import HematiteError
from hematite.fastenings import Fastening, kinds
from hematite.jobs.day import Day
from hematite.jobs.lists import Item, Lists, lists
from hematite.jobs.plan import HubJob, Plan, assumed
from hematite.jobs.step import Step
from hematite.tables import table
from hematite.tightening import star_order, stop_gap
from hematite.vehicles import Hub, Vehicle


def plan_json(plan: Plan, vehicle: Vehicle, jobs: Sequence[HubJob]) -> dict[str, Any]:
    """Return a plan with its torques, its lists and what was assumed."""
    return {
        "steps": [step_json(step, vehicle) for step in plan.steps],
        "lists": lists_json(lists(plan, vehicle)),
        "assumed": {job.hub: assumed_json(vehicle, job) for job in jobs},
    }


def assumed_json(vehicle: Vehicle, job: HubJob) -> list[dict[str, Any]]:
    """Return the questions about a job's hub that nobody answered and that would change its plan."""
    hub = vehicle.hub(job.hub)
    return questions(hub, vehicle, assumed(vehicle, job)) if hub else []


def step_json(step: Step, vehicle: Vehicle) -> dict[str, Any]:
    """Return a step in words, with whose torque it is and what is known of it."""
    words = table("assembly/words.toml")
    plain = asdict(step) | {
        "act_words": words["act"][step.act],
        "where_words": words["where"].get(step.where, ""),
        "held_by": words["held"].get(library()[step.part].held, "") if step.part else "",
        "wait_since": [need for need in step.needs if step.lag_of(need) > 0],
    }
    hubs = [hub for hub in vehicle.hubs() if step.hub in ("", hub.id)]
    plain["torque"] = torque_json(step.torque, hubs) if step.torque else None
    return plain


def torque_json(key: str, hubs: Sequence[Hub]) -> dict[str, Any]:
    """Return what is known of a torque: the vehicle's own, what was seen elsewhere, a stop-gap where there is one."""
    known = next((hub.fastenings[key] for hub in hubs if key in hub.fastenings), Fastening(key))
    gap = _gap(known) if known.aim_nm is None and kinds()[key].stop_gap else None
    return {
        "key": key,
        "label": kinds()[key].label,
        "least_nm": known.least_nm,
        "most_nm": known.most_nm,
        "aim_nm": known.aim_nm,
        "source": known.source_words if known.aim_nm is not None else "",
        "socket_mm": known.socket_mm,
        "star": list(star_order(known.count if known.count and known.count > FEWEST else kinds()[key].usual)),
        "count": known.count,
        "seen": [{"nm": list(seen.nm), "of": seen.of} for seen in kinds()[key].seen],
        "stop_gap": asdict(gap) if gap else None,
    }


FEWEST = 2  # more than these make a star


def _gap(known: Fastening) -> Any:
    if not known.thread or not known.grade:
        return None
    try:
        return stop_gap(known.thread, known.grade)
    except HematiteError:
        return None


def lists_json(found: Lists) -> dict[str, Any]:
    """Return the lists of a plan."""
    columns = {"tools": found.tools, "parts": found.parts, "uses": found.uses}
    made: dict[str, Any] = {name: [_item(item) for item in items] for name, items in columns.items()}
    return made | {"minutes": found.minutes, "waiting": found.waiting}


def _item(item: Item) -> dict[str, Any]:
    return asdict(item) | {"hubs": list(item.hubs)}


def day_json(day: Day) -> dict[str, Any]:
    """Return the order of the day."""
    return asdict(day)
