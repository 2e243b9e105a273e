"""A hub's choice priced, with the hub across the axle."""

from typing import Any

from hematite.decision import choices
from hematite.prices import Pricing, Rates, price
from hematite.vehicles import Vehicle
from hematite.verdict.assessment import Assessment


def price_choice(assessment: Assessment, vehicle: Vehicle, hub_id: str, rates: Rates) -> Pricing:
    """Return what the choice at a hub and its possible alternatives cost."""
    verdict = assessment.at(hub_id)
    mate = vehicle.mate(hub_id)
    return price(
        verdict.hub.design_key,
        recommended=verdict.choice.choice,
        possible=[other.choice for other in verdict.choice.alternatives if other.possible],
        beliefs=verdict.choice.mutual,
        right=verdict.choice.right,
        repair=verdict.choice.repair,
        rates=rates,
        mate=assessment.at(mate.id).belief.bearing if mate else None,
    )


def pricing_json(pricing: Pricing, rates: Rates) -> dict[str, Any]:
    """Return prices as plain JSON, money to the cent."""
    return {
        "currency": rates.currency,
        "cheapest": pricing.cheapest,
        "rows": [
            {
                "choice": row.choice,
                "label": choices()[row.choice],
                "parts": round(row.parts, 2),
                "labour": round(row.labour, 2),
                "fees": round(row.fees, 2),
                "consumables": round(row.consumables, 2),
                "now": round(row.now, 2),
                "hours": row.hours,
                "wait_days": row.wait_days,
                "days": round(row.days, 2),
                "comeback": round(row.comeback, 4),
                "expected": round(row.expected, 2),
                "expected_days": round(row.expected_days, 2),
                "example": row.example,
            }
            for row in pricing.rows
        ],
        "flips": [
            {
                "choice": flip.choice,
                "label": choices()[flip.choice],
                "below_probability": None if flip.below_probability is None else round(flip.below_probability, 4),
                "parts_above": None if flip.parts_above is None else round(flip.parts_above, 2),
            }
            for flip in pricing.flips
        ],
        "sides": None
        if pricing.sides is None
        else {
            "both_now": round(pricing.sides.both_now, 2),
            "one_now": round(pricing.sides.one_now, 2),
            "chance": round(pricing.sides.chance, 4),
        },
    }
