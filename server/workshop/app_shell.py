"""The single page: every address that is no file and no API answers with it."""

import base64
import hashlib
import re
from functools import cache

from csp.constants import NONCE, SELF
from csp.decorators import csp_update
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie

_INLINE_SCRIPT = re.compile(r"<script(?![^>]*\bsrc=)[^>]*>(.*?)</script>", re.DOTALL)


@cache
def page() -> str:
    """Return the built page, or words that say how to build it."""
    built = settings.WEB_BUILD / "index.html"
    if not built.is_file():
        return "<!doctype html><title>Hematite</title><p>The web app is not built yet. Run <code>make start</code>."
    return built.read_text(encoding="utf-8")


@cache
def script_sources() -> list[str]:
    """Return our own origin and the hash of each inline script of the built page, so that no other inline one runs."""
    digests = (hashlib.sha256(script.encode()).digest() for script in _INLINE_SCRIPT.findall(page()))
    return [SELF, *(f"'sha256-{base64.b64encode(digest).decode()}'" for digest in digests)]


@ensure_csrf_cookie
def app_shell(request: HttpRequest) -> HttpResponse:
    """Answer with the single page. It carries a nonce, with which its own libraries may add a style sheet."""
    nonce = f'<meta name="style-nonce" content="{request.csp_nonce}">'  # type: ignore[attr-defined]
    response = HttpResponse(page().replace("<head>", f"<head>{nonce}", 1), headers={"Cache-Control": "no-cache"})
    return csp_update({"script-src": script_sources(), "style-src": [NONCE]})(lambda _: response)(request)
