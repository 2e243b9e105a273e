"""How a phone comes to the workshop's own server: where it is, and the authority that it trusts once."""

import hashlib
import ssl
from pathlib import Path

import segno
from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router

from workshop.shape import Schema

router = Router(tags=["phone"], auth=None)


class DoorstepOut(Schema):
    """What somebody with a phone has to know. `fingerprint` is '' where browsers trust the certificate anyhow."""

    address: str
    others: list[str]
    fingerprint: str
    qr: str


def _certificate() -> bytes:
    """Return the authority's certificate in DER, b'' where the server has one that browsers know."""
    if not settings.AUTHORITY:
        return b""
    return ssl.PEM_cert_to_DER_cert(Path(settings.AUTHORITY).read_text(encoding="ascii"))


@router.get("/phone", response=DoorstepOut)
def get_doorstep(request: HttpRequest):
    """Say where the server is, for a phone; a plain address to begin at where its authority is to be trusted first."""
    known = _certificate()
    address = settings.ADDRESS or f"{request.scheme}://{request.get_host()}"
    return {
        "address": address,
        "others": settings.AT,
        "fingerprint": hashlib.sha256(known).digest().hex(":").upper() if known else "",
        "qr": segno.make(_begin_at(address) if known else address, error="m").svg_data_uri(border=4, scale=4),
    }


def _begin_at(address: str) -> str:
    """Return the page that explains the trust, by an address that a phone reaches before it trusts or knows names."""
    host = (settings.AT or [address])[0].removeprefix("https://").rpartition(":")[0]
    return f"http://{host}:{settings.PLAIN_PORT}/phone"


@router.get("/phone/authority.crt")
def get_authority(request: HttpRequest) -> HttpResponse:
    """Return the certificate of the workshop's own authority, as phones take it."""
    known = _certificate()
    if not known:
        raise Http404
    named = {"Content-Disposition": 'attachment; filename="hematite-authority.crt"', "Cache-Control": "no-store"}
    return HttpResponse(known, content_type="application/x-x509-ca-cert", headers=named)
