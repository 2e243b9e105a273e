"""Whose address a request comes from, with as many proxies before the server as its settings say."""

from django.conf import settings
from django.http import HttpRequest


def client_address(request: HttpRequest) -> str | None:
    """Return the address that the outermost of our own proxies saw; what stands before it anybody can make up.

    Each proxy adds the address that it was called from at the end of `X-Forwarded-For`.
    """
    passed = [one.strip() for one in request.headers.get("X-Forwarded-For", "").split(",") if one.strip()]
    if settings.PROXIES and len(passed) >= settings.PROXIES:
        return passed[-settings.PROXIES]
    return request.META.get("REMOTE_ADDR")  # none where no server stands between, as in a command
