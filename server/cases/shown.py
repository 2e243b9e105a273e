"""Rows as the screens see them."""

from garage.core import described
from garage.models import Vehicle
from hematite.evidence import words_of
from hematite.evidence.observations import CHECK
from hematite.evidence.witnesses import witnesses
from hematite.language import say, small
from hematite.play import EndPlay, end_play
from hematite.proof import check_words
from hematite.vehicles import Vehicle as CoreVehicle
from hematite.verdict import choices
from people.models import User

from cases.models import Case, Observation
from cases.services import core_observation, state_of
from cases.work import said

SPEAK_FOR_THEMSELVES = {"complaint", "end_play", "opened"}  # kinds whose words name what was asked


def _decided(case: Case) -> str:
    """Return the latest verdict in words, '' before any."""
    verdicts = case.in_brief if hasattr(case, "in_brief") else list(case.verdicts.all())
    return f"{verdicts[-1].hub}: {small(choices()[verdicts[-1].choice])}" if verdicts else ""


def case_brief(case: Case) -> dict:
    """Return a case for a list."""
    return {
        "decided": _decided(case),
        "waits": getattr(case, "waits", ""),
        "ordered": getattr(case, "ordered", ""),
        "id": case.id,
        "vehicle": case.vehicle_id,
        "vehicle_label": case.vehicle.label,
        "complaint": case.complaint,
        "opened_at": case.opened_at,
        "closed_at": case.closed_at,
        "outcome": case.outcome,
        "person": case.opened_by.shown_name,
    }


def vehicle_brief(vehicle: Vehicle) -> dict:
    """Return a vehicle for a list."""
    return {
        "id": vehicle.id,
        "label": vehicle.label,
        "plate": vehicle.plate,
        "tyre": vehicle.tyre,
        "axles": [[hub.name for hub in axle.hubs.all()] for axle in vehicle.axles.all()],
    }


def observation_out(row: Observation, vehicle: CoreVehicle) -> dict:
    """Return an entry of the log with its words."""
    play = _play(row, vehicle)
    return {
        "id": row.id,
        "hub": row.hub,
        "kind": row.kind,
        "value": row.value,
        "test": _test(row),
        "words": _words(row, vehicle),
        "mean_mm": play.mean_mm if play else None,
        "spread_mm": play.spread_mm if play else None,
        "person": row.person.shown_name,
        "at": row.at,
        "found_at": row.found_at,
        "superseded": row.superseded,
        "withdrawn": row.withdrawn,
        "unfit": row.unfit,
        "job": row.job,
    }


def _test(row: Observation) -> str:
    """Return what was asked, '' where the words say it themselves."""
    asked = not (row.withdrawn or row.unfit or row.kind in SPEAK_FOR_THEMSELVES)
    return str(witnesses()[row.kind]["label"]) if asked and row.kind in witnesses() else ""


def _play(row: Observation, vehicle: CoreVehicle) -> EndPlay | None:
    hub = vehicle.hub(row.hub)
    if row.unfit or row.kind != "end_play" or hub is None or row.withdrawn or "readings_mm" not in row.value:
        return None
    return end_play(row.value["readings_mm"], hub.play_window_mm, resolution_mm=row.value.get("resolution_mm") or 0.01)


def _words(row: Observation, vehicle: CoreVehicle) -> str:
    if row.withdrawn:
        return say("taken back")
    if row.kind == "note":
        return str(row.value.get("text", ""))
    if row.kind == "made_safe":
        return say("lifted and made safe")
    if row.kind == CHECK:
        return check_words(row.value)
    if row.unfit:
        return say("set aside: {unfit}", unfit=row.unfit)
    return words_of(core_observation(row), vehicle)


def case_out(user: User, case: Case) -> dict:
    """Return a whole case: its vehicle and its log, superseded entries included."""
    state = state_of(user, case.id)  # before the log is read: what comes in between is news
    return case_brief(case) | {
        "state": state,
        "closing": case.closing,
        "unproven_because": case.unproven_because,
        "vehicle_detail": described(case.vehicle, case.core),
        "observations": [observation_out(row, case.core) for row in case.log],
        "work": said(case),
        "came_from": case.came_from or None,
        "simulated": bool(case.simulated or case.practice),
        "practice": bool(case.practice),
        "withheld": case.withheld,
    }
