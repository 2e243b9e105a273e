"""A policy as the screens see it."""

from dataclasses import asdict

from hematite.hubs import designs
from hematite.policy import Policy, schools
from hematite.prices import figures

from policies.services import core_policy, policy_row


def schools_out(policy: Policy) -> list[dict]:
    """Return every difference with what is chosen."""
    return [
        {
            "key": school.key,
            "label": school.label,
            "chosen": policy.schools[school.key],
            "options": [asdict(option) for option in school.options],
        }
        for school in schools().values()
    ]


def _limits(policy: Policy) -> list[dict]:
    rows = []
    for key, design in designs().items():
        own = policy.limits.get(key)
        rows.append(
            {
                "design": key,
                "label": design.label,
                "least_mm": own.least_mm if own else design.play_min_mm,
                "most_mm": own.most_mm if own else design.play_max_mm,
                "source": own.source if own else design.play_source,
                "own": own is not None,
            }
        )
    return rows


def policy_out(workshop_id: int) -> dict:
    """Return a workshop's policy with the tables it is chosen from."""
    row = policy_row(workshop_id)
    policy = core_policy(row)
    return {
        "schools": schools_out(policy),
        "limits": _limits(policy),
        "currency": policy.rates.currency,
        "shop": asdict(policy.shop) | {"shims": [{"mm": mm, "count": n} for mm, n in policy.shop.shims.items()]},
        "figures": [asdict(figure) for figure in figures(policy.rates)],
        "changed_by": row.changed_by.shown_name if row else None,
        "changed_at": row.changed_at if row else None,
        "revision": row.revision if row else 0,
    }
