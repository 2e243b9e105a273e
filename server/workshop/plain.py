"""The door without TLS: shows what a phone needs before it trusts this server; sends all else on to https."""

import re
from collections.abc import Callable, Iterable
from typing import Any
from urllib.parse import urlsplit
from wsgiref.util import request_uri

from django.conf import settings

from workshop.wsgi import application as whole

OPEN = re.compile(
    r"/phone|/_app/.+|/icon\.svg|/manifest\.webmanifest|/api/session|/api/phone(/authority\.crt)?|/healthz|/readyz"
)
NOT_HERE = b"This address is not safe to send anything to. Open the one that begins with https."


def application(environ: dict[str, Any], start_response: Callable) -> Iterable[bytes]:
    """Answer what reads the few open addresses; nothing is ever taken here that somebody entered."""
    reads = environ["REQUEST_METHOD"] in {"GET", "HEAD"}
    if reads and OPEN.fullmatch(environ["PATH_INFO"]):
        return whole(environ, start_response)
    if not reads:
        start_response("403 Forbidden", [("Content-Type", "text/plain; charset=utf-8"), ("Connection", "close")])
        return [NOT_HERE]
    asked = urlsplit(request_uri(environ))
    there = f"https://{asked.hostname}:{settings.TLS_PORT}{asked.path}{'?' + asked.query if asked.query else ''}"
    start_response("307 Temporary Redirect", [("Location", there), ("Cache-Control", "no-store")])
    return [b""]
