"""What each role may do: one table, asked at the door of every operation."""

from typing import Any

from django.http import HttpRequest
from hematite.language import later, say, small
from workshop.refusals import Refusal

from people.auth import EnteredBySession
from people.models import Role, User

OWN = "own"  # what is one's own: how one likes units, one's password and devices
READ, WORK, DECIDE, RULE = "read", "work", "decide", "rule"
WORDS = {
    OWN: later("change what is one's own"),
    READ: later("look at everything"),
    WORK: later("find, measure, record and do"),
    DECIDE: later("decide, close a case, depart from the workshop’s ways, take in a bundle"),
    RULE: later("change the workshop’s ways, its people and its secret addresses"),
}
ABOUT = {
    Role.READER: later("Looks at everything."),
    Role.APPRENTICE: later("Finds, measures, records and does; decides nothing."),
    Role.MECHANIC: later(
        "Decides as well, closes cases, departs from the workshop’s ways in a case, takes in bundles."
    ),
    Role.OWNER: later("Changes the workshop’s ways, its people and its secret addresses as well."),
}
MAY = {
    Role.READER: (OWN, READ),
    Role.APPRENTICE: (OWN, READ, WORK),
    Role.MECHANIC: (OWN, READ, WORK, DECIDE),
    Role.OWNER: (OWN, READ, WORK, DECIDE, RULE),
}
SAFE = ("GET", "HEAD")


def allows(user: User, need: str) -> bool:
    """Return whether a person's role may do what is needed."""
    return need in MAY[Role(user.role)]


def refusal_of(user: User, need: str) -> str:
    """Return why somebody may not do what is needed and whom to ask, '' where they may."""
    if allows(user, need):
        return ""
    who = say(" or ").join(small(say(role.label)) for role in reversed(Role) if need in MAY[role])
    return say(
        "As {label} you may not {words}. Ask somebody who is {who}.",
        label=small(say(Role(user.role).label)),
        words=say(WORDS[need]),
        who=who,
    )


class May(EnteredBySession):
    """Let in whoever is signed in and may do it. `need`: if not said, to look for what only reads, to work else."""

    def __init__(self, need: str = "") -> None:
        super().__init__()
        self.need = need

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        """Return the person, None if nobody is signed in. Raises a refusal for one whose role may not."""
        user = super().authenticate(request, key)
        need = self.need or (READ if request.method in SAFE else WORK)
        if user is not None and (words := refusal_of(user, need)):
            raise Refusal("not_allowed", say("{words} Nothing was changed.", words=words), status=403)
        return user
