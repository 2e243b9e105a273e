"""The workshop's policy, asked for."""

from django.http import HttpRequest
from ninja import Router
from people.permissions import RULE, May

from policies import services, shown
from policies.schemas import PolicyIn, PolicyOut

router = Router(tags=["policies"])


@router.get("/policy", response=PolicyOut)
def get_policy(request: HttpRequest):
    """Return the workshop's policy: schools, play limits and prices."""
    return shown.policy_out(request.user.workshop_id)


@router.put("/policy", auth=May(RULE), response=PolicyOut)
def change_policy(request: HttpRequest, payload: PolicyIn):
    """Put a whole policy in the place of the old; what is left out goes back to its default."""
    services.change_policy(request.user, payload.dict())
    return shown.policy_out(request.user.workshop_id)
