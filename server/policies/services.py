"""Reading and changing a workshop's policy."""

from django.db import transaction
from hematite.policy import Policy, known_only, read_policy
from people.models import User

from policies.models import WorkshopPolicy


def policy_row(workshop_id: int) -> WorkshopPolicy | None:
    """Return what a workshop entered, or None while everything stands at its default."""
    return WorkshopPolicy.objects.filter(workshop_id=workshop_id).select_related("changed_by").first()


def policy_of(workshop_id: int) -> Policy:
    """Return the policy of a workshop as the core knows it."""
    return core_policy(policy_row(workshop_id))


def core_policy(row: WorkshopPolicy | None) -> Policy:
    """Return a stored policy as the core knows it; its defaults for none."""
    return read_policy(known_only(row.data)) if row else Policy()


@transaction.atomic
def change_policy(user: User, data: dict) -> WorkshopPolicy:
    """Put a whole policy in the place of the old; the core refuses what cannot be."""
    read_policy(data)
    row, _ = WorkshopPolicy.objects.update_or_create(
        workshop_id=user.workshop_id, defaults={"data": data, "changed_by": user}
    )
    return row
