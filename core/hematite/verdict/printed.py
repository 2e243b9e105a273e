"""The assessment as the command line and the case format print it."""

from typing import Any

from hematite.decision import GRADES, Choice, Culprit, choices
from hematite.decision.choice import Road
from hematite.evidence import Statement
from hematite.evidence.witnesses import causes, label_of, witnesses
from hematite.following import NextTest
from hematite.inspection import Inspection
from hematite.language import say
from hematite.verdict.assessment import AT_HUBS, STANDINGS, Assessment, HubVerdict

# What a decision about the vehicle as a whole has not: it follows from no rule at a hub.
OF_NO_HUB: dict[str, Any] = {
    "off_road": False,
    "rule": "",
    "rules": [],
    "overruled": [],
    "repair": "",
    "then": "",
    "also": [],
    "alternatives": [],
}


def as_json(assessment: Assessment) -> dict[str, Any]:
    """Return an assessment as plain JSON, probabilities rounded to four places."""
    return {
        "culprits": [_culprit(culprit) for culprit in assessment.culprits],
        "hubs": {verdict.hub.id: _hub(verdict) for verdict in assessment.hubs},
        "elsewhere": {cause: round(p, 4) for cause, p in assessment.elsewhere.items()},
        "decision": _decision(assessment),
        "road": {"hub": assessment.strictest.hub.id} | _road(assessment.strictest.choice.road),
        "next_test": _test(assessment.next_test),
        "nothing_wrong": round(assessment.nothing, 4),
        "tests": {place: list(tests) for place, tests in assessment.tests.items()},
        "contradictions": [
            {
                "hub": c.hub,
                "speaks_for": c.speaks_for,
                "speaks_against": c.speaks_against,
            }
            for c in assessment.contradictions
        ],
        "overturned_by": [
            {"hub": o.place or None, "words": o.words, "chance": round(o.chance, 3), "leaves": round(o.leaves, 3)}
            for o in assessment.overturned_by
        ],
    }


def _decision(assessment: Assessment) -> dict[str, Any]:
    """Return the decision about the vehicle, with all that stands behind the choice at its hub where it is of one."""
    decision = assessment.decision
    at = assessment.at(decision.hub).choice if decision.hub else None
    words = choices()[decision.choice]
    return (_choice(at) if at else OF_NO_HUB | {"road": _road(assessment.strictest.choice.road)}) | {
        "hub": decision.hub,
        "choice": decision.choice,
        "label": at.label if at and decision.choice == at.choice else words,
        "choice_probability": round(decision.probability, 4),
        "settled": decision.settled,
        "grade": decision.grade,
        "grade_label": say(GRADES[decision.grade]),
        "because": decision.because,
        "would_change": decision.change,
    }


def _culprit(culprit: Culprit) -> dict[str, Any]:
    found: dict[str, Any] = {
        "cause": culprit.cause,
        "cause_label": group_label(culprit.cause),
        "hub": culprit.hub,
        "side": culprit.side,
        "probability": round(culprit.probability, 4),
    }
    if not culprit.mechanism:
        return found
    return found | {
        "mechanism": culprit.mechanism,
        "mechanism_label": _mechanism_label(culprit.cause, culprit.mechanism),
        "mechanism_probability": round(culprit.mechanism_probability, 4),
    }


def _hub(verdict: HubVerdict) -> dict[str, Any]:
    return {
        "bearing_fault": round(verdict.belief.bearing, 4),
        "standing": verdict.standing,
        "standing_label": say(STANDINGS[verdict.standing]),
        "cause": verdict.cause,
        "cause_label": group_label(verdict.cause),
        "mechanism": verdict.mechanism,
        "mechanism_label": label_of(verdict.mechanism),
        "mechanism_probability": round(verdict.belief.causes[verdict.mechanism], 4),
        "play": {name: round(p, 4) for name, p in verdict.belief.play.items()},
        "probability": round(verdict.probability, 4),
        "mechanisms": {name: round(p, 4) for name, p in verdict.belief.mechanisms.items()},
        "causes": {group: round(verdict.belief.of_group(group), 4) for group in AT_HUBS if group != "bearing"},
        **_choice(verdict.choice),
        "choice_label": verdict.choice.label,
        "settle": _test(verdict.settle) if verdict.settle else None,
        "inspection": _inspection(verdict.inspection),
        "witnesses": [_witness(statement, bits) for statement, bits in verdict.belief.weights],
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
        "overruled": [
            {"id": fired.rule.id, "because": fired.rule.because, "share": round(fired.share, 4)}
            for fired in choice.overruled
        ],
        "repair": choice.repair if choice.choice == "off_road" else "",
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


def _witness(statement: Statement, bits: float) -> dict[str, Any]:
    row = witnesses()[statement.witness]
    return {
        "witness": statement.witness,
        "label": row["label"],
        "words": statement.words,
        "share": round(statement.shares[statement.outcome] * statement.trust, 3),
        "bits": round(bits, 2),
        "source": statement.source,
        "why": row["why"],
        "standing": row["standing"],
    }


def group_label(group: str) -> str:
    """Return a group of causes in the trade's words."""
    first = next(row for row in causes().values() if row["group"] == group)
    return str(first.get("group_label", first["label"]))


def _mechanism_label(group: str, mechanism: str) -> str:
    rows = {cause: row for cause, row in causes().items() if row["group"] == group}
    return str(next(row["label"] for cause, row in rows.items() if mechanism in (cause, row.get("mechanism"))))
