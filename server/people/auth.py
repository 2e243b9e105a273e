"""Who makes a request: the session's person, and for what waited on a device only the one who entered it."""

from typing import Any

from django.http import HttpRequest
from ninja.security import SessionAuth

ENTERED_BY = "X-Entered-By"


class EnteredBySession(SessionAuth):
    """Ask for a session, and where a request says who entered it for that person's own.

    Another tab of the browser may have signed somebody else in: an entry must not be logged in another's name.
    """

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        """Return the person; None, which is signed out, where it is not the one who entered it."""
        user = super().authenticate(request, key)
        meant = request.headers.get(ENTERED_BY)
        return user if user is None or meant in (None, str(user.pk)) else None
