"""The assessment as the command line and the case format print it."""

from typing import Any

from hematite.evidence import Statement
from hematite.evidence.tables import causes, witnesses
from hematite.inspection import Inspection
from hematite.verdict.assessment import AT_HUBS, STANDINGS, Assessment, HubVerdict
from hematite.verdict.choice import Choice, Road, choices
from hematite.verdict.culprits import Culprit
from hematite.verdict.following import NextTest


def as_json(assessment: Assessment) -> dict[str, Any]:
    """Return an assessment as plain JSON, probabilities rounded to four places."""
    lead, following = assessment.lead, assessment.next_test
    return {
        "culprits": [_culprit(culprit) for culprit in assessment.culprits],
        "hubs": {verdict.hub.id: _hub(verdict) for verdict in assessment.hubs},
        "elsewhere": {cause: round(p, 4) for cause, p in assessment.elsewhere.items()},
        "decision": {"hub": lead.hub.id} | _choice(lead.choice) | {"label": lead.choice.label},
        "road": {"hub": assessment.strictest.hub.id} | _road(assessment.strictest.choice.road),
        "next_test": _test(following),
        "nothing_wrong": round(assessment.nothing, 4),
        "tests": {place: list(tests) for place, tests in assessment.tests.items()},
        "contradictions": [
            {
                "hub": c.hub,
                "speaks_for": c.speaks_for.words(c.hub),
                "speaks_against": c.speaks_against.words(c.hub),
            }
            for c in assessment.contradictions
        ],
        "overturned_by": [
            {"hub": o.place or None, "words": o.words, "chance": round(o.chance, 3), "leaves": round(o.leaves, 3)}
            for o in assessment.overturned_by
        ],
    }


def _culprit(culprit: Culprit) -> dict[str, Any]:
    found: dict[str, Any] = {
        "cause": culprit.cause,
        "cause_label": _words(culprit.cause, culprit.mechanism),
        "hub": culprit.hub,
        "side": culprit.side,
        "probability": round(culprit.probability, 4),
    }
    return found | ({"mechanism": culprit.mechanism} if culprit.mechanism else {})


def _hub(verdict: HubVerdict) -> dict[str, Any]:
    return {
        "bearing_fault": round(verdict.beliefs.bearing, 4),
        "standing": verdict.standing,
        "standing_label": STANDINGS[verdict.standing],
        "cause": verdict.cause,
        "cause_label": _words(verdict.cause, verdict.mechanism),
        "probability": round(verdict.probability, 4),
        "mechanisms": {name: round(p, 4) for name, p in verdict.beliefs.mechanisms.items()},
        "causes": {group: round(verdict.beliefs.of_group(group), 4) for group in AT_HUBS if group != "bearing"},
        **_choice(verdict.choice),
        "choice_label": verdict.choice.label,
        "settle": _test(verdict.settle) if verdict.settle else None,
        "inspection": _inspection(verdict.inspection),
        "witnesses": [_witness(statement, bits, verdict.hub.id) for statement, bits in verdict.beliefs.weights],
    }


def _choice(choice: Choice) -> dict[str, Any]:
    return {
        "choice": choice.choice,
        "choice_probability": round(choice.probability, 4),
        "settled": choice.settled,
        "off_road": choice.off_road,
        "rule": choice.lead.id,
        "because": choice.lead.because,
        "would_change": choice.lead.change,
        "rules": [
            {"id": fired.rule.id, "because": fired.rule.because, "share": round(fired.share, 4)}
            for fired in choice.fired
        ],
        "overruled": [{"id": rule.id, "because": rule.because, "share": 0.0} for rule in choice.overruled],
        "then": f"{choices()[choice.repair]}. {choice.then.because}" if choice.then else "",
        "also": list(choice.also),
        "alternatives": [
            {
                "choice": other.choice,
                "label": choices()[other.choice],
                "probability": round(other.probability, 4),
                "because": other.because,
                "possible": other.possible,
            }
            for other in choice.alternatives
        ],
        "road": _road(choice.road),
    }


def _road(road: Road) -> dict[str, Any]:
    return {"key": road.key, "label": road.label, "because": list(road.because), "cautions": list(road.cautions)}


def _test(following: NextTest) -> dict[str, Any]:
    return {
        "test": following.test,
        "hub": following.hub,
        "label": following.label,
        "why": following.why,
        "stage": following.stage,
        "minutes": following.minutes,
        "gain_bits": round(following.gain_bits, 3),
    }


def _inspection(inspection: Inspection) -> dict[str, Any]:
    return {
        "complete": inspection.complete,
        "looked": [
            {
                "part": one.part.key,
                "words": one.words,
                "damage": list(dict.fromkeys(find.damage for find in one.finds if find.damage)),
                "fine": all(find.fine for find in one.finds),
                "note": one.note,
            }
            for one in inspection.looked
        ],
    }


def _witness(statement: Statement, bits: float, hub: str) -> dict[str, Any]:
    row = witnesses()[statement.witness]
    return {
        "witness": statement.witness,
        "label": row["label"],
        "words": statement.words(hub),
        "share": round(statement.shares(hub)[statement.outcome(hub)], 3),
        "bits": round(bits, 2),
        "source": statement.source,
        "why": row["why"],
        "standing": row["standing"],
    }


def _words(group: str, mechanism: str) -> str:
    """Return the cause in the trade's words: the mechanism's where the group has several."""
    rows = {cause: row for cause, row in causes().items() if row["group"] == group}
    for cause, row in rows.items():
        if mechanism and mechanism in (cause, row.get("mechanism")):
            return str(row["label"])
    first = next(iter(rows.values()))
    return str(first.get("group_label", first["label"]))
