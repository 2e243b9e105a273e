"""Answering sums with what is known at a hub, and keeping what was worked out."""

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any
from uuid import UUID

from cases.models import Case
from cases.services import get_case, open_case_of
from cases.work import brief_verdicts, work_of
from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404
from django.utils import timezone
from hematite.assembly import hub_facts
from hematite.jobs import is_step, torque_json
from hematite.language import say, small
from hematite.setting import drags_first, lock_of, sequence
from hematite.simulator import WORN, turned_nut, usual_loss
from hematite.sums import Answer, read, sums, work_out
from hematite.sums.filled import filled, sums_of
from hematite.training.hands import scattered_mm
from hematite.training.nuts import turned
from hematite.vehicles import Hub
from people.bench import step_up
from people.models import User
from policies.services import policy_of, take_shims
from workshop.refusals import Refusal

from sums.models import Worked

MOST_SHOWN = 60  # of what was worked out for a vehicle; the logbook has all of it


def answer(user: User, key: str, values: dict, *, case_id: UUID | None, hub: str) -> Answer:
    """Return a sum's answer; at a hub with what that hub, its vehicle and the workshop have taught."""
    if case_id is None:
        return work_out(key, values, known={"wrenches": policy_of(user.workshop_id).shop.wrenches})
    step_up(user, f"/api/cases/{case_id}")  # the address names no case, it may be one of a practice bench
    case = get_case(user, case_id)
    _hub_of(case, hub)
    return work_out(key, values, known=_known(case, hub))


def _known(case: Case, hub: str) -> dict[str, Any]:
    learnt = _rows(case).filter(hub=hub, sum="nut").exclude(keep={}).last()
    return {"wrenches": case.policy.shop.wrenches} | ({"learnt": learnt.keep} if learnt else {})


def _rows(case: Case) -> QuerySet[Worked]:
    """Return what was worked out for a case's vehicle, in this case and before."""
    return Worked.objects.filter(case__vehicle=case.vehicle_id).select_related("person")


def _hub_of(case: Case, hub: str) -> Hub:
    found = case.core.hub(hub)
    if found is None:
        raise Http404
    return found


def at_hub(user: User, case_id: UUID, hub: str, step_id: str) -> dict:
    """Return every sum at a hub, filled with what is known; those of the step first, and the moves of its nut."""
    case = get_case(user, case_id)
    found = _hub_of(case, hub)
    work = work_of(case, brief_verdicts().filter(case=case), ())
    step = next((one for one in work.plan.steps if one.id == step_id), None)
    rows = list(_rows(case).filter(hub=hub))
    last = {row.sum: row for row in rows}
    values = {key: filled(key, found, case.core, case.policy.schools, step) for key in sums()}
    for key, more in _remembered(case, rows).items():
        values[key] |= more
    lock = lock_of(found.design_key, hub_facts(found, case.core, case.policy.schools))
    return {
        "at_step": list(sums_of(step)) if step else [],
        "sums": [{"key": key, "values": values[key], "last": last.get(key)} for key in sums()],
        "moves": _moves(case, found, lock),
        "worn": dict(zip(("kind", "answer"), drags_first(), strict=True)),
        "worked": rows[-MOST_SHOWN:],
    }


def _moves(case: Case, hub: Hub, lock: str) -> list[dict]:
    """Return the moves of setting a hub's nut by the workshop's school, each with the torque that it shows."""
    moves = sequence(case.policy.schools["nut_setting"], lock) if lock else ()
    return [asdict(move) | {"torque": torque_json(move.torque, [hub]) if move.torque else None} for move in moves]


def _remembered(case: Case, rows: list[Worked]) -> dict[str, dict[str, Any]]:
    """Return what earlier sums and the workshop's store fill in."""
    stock = [{"mm": mm, "count": many} for mm, many in case.policy.shop.shims.items()]
    known: dict[str, dict[str, Any]] = {"shims": {"stock": stock}}
    nuts = [row for row in rows if row.sum == "wheel_nuts" and row.case_id == case.id]
    if nuts:
        read_at = [row.keep["now_km"] for row in nuts if "now_km" in row.keep]
        since = (timezone.now() - nuts[-1].at).total_seconds() / 60
        known["wheel_nuts"] = {"minutes_since": round(since, 1), "times": len(nuts)}
        known["wheel_nuts"]["wrench"] = nuts[-1].keep.get("wrench", "")
        known["wheel_nuts"] |= {"then_km": read_at[0]} if read_at else {}
    greased = [row.keep["new"] for row in rows if row.sum == "grease" and row.keep.get("new")]
    if greased:
        known["grease"] = {"old": greased[-1]}
    return known


@transaction.atomic
def keep(user: User, case_id: UUID, data: dict) -> Worked:
    """Keep a sum as it is answered now; the same number sent again is the same. A pack's shims leave the store."""
    case = open_case_of(user, case_id)
    place = {name: data[name] for name in ("hub", "step", "sum")}
    known = Worked.objects.filter(id=data["id"]).select_related("person").first()
    if known is not None and (known.case_id, known.hub, known.sum) == (case.id, place["hub"], place["sum"]):
        return known
    if known is not None:
        raise Refusal("id_taken", say("This sum's number is taken by another. Keep it again."))
    _hub_of(case, data["hub"])
    if data["step"] and not is_step(data["step"], [hub.id for hub in case.core.hubs()]):
        raise Refusal("no_such_step", say("This step is not in the plan any more. Look at the job as it is now."))
    found = work_out(data["sum"], data["values"], known=_known(case, data["hub"]))
    if not found.line or found.level == "ask":
        labels = {field.key: field.label for field in sums()[data["sum"]].fields}
        wanted = ", ".join(small(labels[key]) for key in found.missing)
        raise Refusal("not_worked_out", say("Still to be given: {wanted}.", wanted=wanted), status=422)
    if data["sum"] == "shims":
        take_shims(user, found.keep.get("shims_mm", []))
    return Worked.objects.create(
        id=data["id"], case=case, person=user, values=_plain(data["sum"], data["values"]), line=found.line,
        level=found.level, keep=dict(found.keep), **place,
    )  # fmt: skip


def _plain(key: str, values: dict) -> dict:
    """Return what was given as it is kept: the fields that say something."""
    said = read(key, values)
    return {name: value for name, value in values.items() if name in said}


def of_vehicle(user: User, vehicle_id: UUID) -> list[Worked]:
    """Return what was worked out for a vehicle, the latest first."""
    rows = Worked.objects.seen_by(user).filter(case__vehicle=vehicle_id).select_related("person")
    return list(rows.order_by("-at", "-id")[:MOST_SHOWN])


def turn(user: User, case_id: UUID, data: dict) -> dict:
    """Return what the simulated gauge finds when a nut is turned; refused at a real vehicle."""
    case = get_case(user, case_id)
    hub = _hub_of(case, data["hub"])
    if not (case.simulated or case.practice):
        raise Refusal("not_simulated", say("This vehicle is real: turn its nut, and read the dial."), status=422)
    asked = {name: data[name] for name in ("thread", "angle_deg", "preload_nm")}
    nut: Mapping[str, float] = {}
    seed = case.id.int % 2**32
    if case.truth is not None:
        found = turned(case.truth, hub, locked=data["locked"], **asked)
        nut, seed = (case.truth.nut if hub.id == case.truth.at else {}), case.truth.seed
    else:
        found = turned_nut(loses=usual_loss(hub.id), worn=case.hides(hub.id) in WORN, **asked)
    strokes = scattered_mm(found.play_mm, seed=seed, what=f"{hub.id} {data['angle_deg']} {data['locked']}")
    return {"strokes_mm": strokes, "drags": found.drags, "next_deg": nut.get("next_deg")}
