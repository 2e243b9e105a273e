"""The snapshot of a verdict: everything it rested on, so that it can be read and done again years later."""

from collections.abc import Iterable
from dataclasses import asdict

from cases.models import Case
from cases.services import standing
from hematite.bundles.writing import vehicle_to_json
from hematite.evidence.observations import WEIGH_NOTHING
from hematite.policy import Policy
from photos.services import photos_of

from verdicts.models import Departure


def inputs_of(case: Case) -> dict[str, list[str]]:
    """Return the ids of the observations and usable recordings that count now."""
    return {
        "observations": [str(row.id) for row in standing(case) if row.kind not in WEIGH_NOTHING],
        "recordings": [str(row.id) for row in case.recorded if not row.withdrawn and not row.after_repair],
    }


def snapshot_of(case: Case, policy: Policy, departures: Iterable[Departure], prices: dict) -> dict:
    """Return the snapshot: vehicle and observations in the words of the open case format, the rest as it stood."""
    return {
        "inputs": inputs_of(case),
        "vehicle": vehicle_to_json(case.core),
        "observations": [
            {"id": str(row.id), "kind": row.kind, "hub": row.hub, "at": row.at.isoformat(), **row.value}
            for row in standing(case)
        ],
        "recordings": [
            {"id": str(row.id), "place": row.place, "sha256": row.sound.sha256, "heard_by": row.analysis.core_version}
            for row in case.recorded
            if not row.withdrawn and not row.after_repair
        ],
        "photos": [{"id": str(row.id), "hub": row.hub, "part": row.part} for row in photos_of(case)],
        "policy": {
            "schools": dict(policy.schools),
            "limits": {design: asdict(limit) for design, limit in policy.limits.items()},
            "prices": {"currency": policy.rates.currency, "figures": dict(policy.rates.own)},
        },
        "departures": [
            {"school": row.school, "option": row.option, "reason": row.reason, "person": row.person.shown_name}
            for row in departures
        ],
        "prices": prices,
    }
