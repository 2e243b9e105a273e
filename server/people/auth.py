"""Who makes a request: the session's person, and for what waited on a device only the one who entered it."""

from typing import Any

from django.conf import settings
from django.contrib.auth import authenticate
from django.http import HttpRequest
from hematite.language import say
from ninja.security import SessionAuth
from workshop.refusals import Refusal

from people.bench import step_up
from people.models import User

ENTERED_BY = "X-Entered-By"


class EnteredBySession(SessionAuth):
    """Ask for a session, and where a request says who entered it for that person's own.

    Another tab of the browser may have signed somebody else in: an entry must not be logged in another's name.
    """

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        """Return the person; None, which is signed out, where it is not the one who entered it."""
        user = super().authenticate(request, key)
        meant = request.headers.get(ENTERED_BY)
        if not user or not may_enter(user) or meant not in (None, str(user.pk)):
            return None
        step_up(user, request.path)
        return user


def recognised(request: HttpRequest, username: str, password: str) -> User | None:
    """Return whose name and password these are, None for nobody's. Refuses for a while after too many wrong ones."""
    user = authenticate(request, username=username, password=password)
    if user is None and getattr(request, "axes_locked_out", False):
        raise Refusal("too_many_tries", say("Too many wrong tries. Wait six minutes, then try again."), status=429)
    return user


def may_enter(user: User) -> bool:
    """Return whether somebody may be here at all: the demo's person only while the demo runs."""
    return settings.DEMO or not user.demo
