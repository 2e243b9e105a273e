"""Reading and changing a workshop's policy."""

from audit.services import What, changed, trace
from django.db import transaction
from hematite.language import say
from hematite.policy import Policy, known_only, read_policy
from people.models import User
from workshop.refusals import Refusal
from workshop.revisions import overtaken

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
def take_shims(user: User, shims_mm: list[float]) -> None:
    """Take shims that went into a pack out of the workshop's store, as far as somebody counted them."""
    row = WorkshopPolicy.objects.select_for_update().filter(workshop_id=user.workshop_id).first()
    stock = ((row.data.get("shop") or {}).get("shims") or []) if row else []
    left = [_without(one, shims_mm.count(one["mm"])) for one in stock]
    if left == stock:
        return
    row.data = row.data | {"shop": row.data["shop"] | {"shims": left}}
    row.changed_by, row.revision = user, row.revision + 1
    row.save()


def _without(one: dict, taken: int) -> dict:
    return one if one.get("count") is None else one | {"count": max(one["count"] - taken, 0)}


@transaction.atomic
def change_policy(user: User, data: dict) -> WorkshopPolicy:
    """Put a whole policy in the place of the old; the core refuses what cannot be.

    `revision` is that of the policy as it was seen: if somebody else changed it meanwhile nothing of theirs is lost.
    `after`: the person's own change, still on its way, that it was made on top of.
    """
    kept = {name: value for name, value in data.items() if name not in ("revision", "change", "after")}
    read_policy(kept)
    first = {"data": {}, "changed_by": user}
    row, _ = WorkshopPolicy.objects.select_for_update().get_or_create(workshop_id=user.workshop_id, defaults=first)
    if row.change == data["change"]:
        return row
    if overtaken(row, data):
        words = say(
            "{shown_name} changed the workshop’s ways meanwhile. Look at them as they are now.",
            shown_name=row.changed_by.shown_name,
        )
        raise Refusal("changed_meanwhile", words)
    trace(user, What.POLICY_CHANGED, details=changed(row.data, kept))
    row.data, row.changed_by, row.revision, row.change = kept, user, row.revision + 1, data["change"]
    row.save()
    return row
