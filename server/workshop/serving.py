"""Kept files answered: in part where a player asks for a part, and not at all where the browser has them already."""

import re
from collections.abc import Iterator
from pathlib import Path

from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseNotModified, StreamingHttpResponse
from django.http.response import HttpResponseBase
from django.utils.cache import patch_cache_control
from django.utils.http import parse_etags, quote_etag

PIECE = 1 << 16
RANGE = re.compile(
    r"bytes=([0-9]{0,18})-([0-9]{0,18})"
)  # RFC 9110 section 14.2; of several none: the whole is as right


def serve(request: HttpRequest, file: Path, *, kind: str, digest: str) -> HttpResponseBase:
    """Answer with a file that never changes, known by its hash: whole, a range of it, or that it has not changed."""
    etag = quote_etag(digest)
    if etag in parse_etags(request.headers.get("If-None-Match", "")):
        return _lasting(HttpResponseNotModified(), etag)
    size = file.stat().st_size
    asked = RANGE.fullmatch(request.headers.get("Range", ""))
    if not asked or asked.groups() == ("", ""):
        return _lasting(FileResponse(file.open("rb"), content_type=kind), etag)
    first, last = _ends(*asked.groups(), size)
    if first > last:
        return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
    answer = StreamingHttpResponse(_piece(file, first, last), status=206, content_type=kind)
    answer["Content-Range"], answer["Content-Length"] = f"bytes {first}-{last}/{size}", str(last - first + 1)
    return _lasting(answer, etag)


def _ends(first: str, last: str, size: int) -> tuple[int, int]:
    if not first:  # the last so many bytes
        return max(size - int(last), 0), size - 1
    return int(first), min(int(last), size - 1) if last else size - 1


def _piece(file: Path, first: int, last: int) -> Iterator[bytes]:
    with file.open("rb") as opened:
        opened.seek(first)
        left = last - first + 1
        while piece := opened.read(min(PIECE, left)):
            left -= len(piece)
            yield piece


def _lasting(answer: HttpResponseBase, etag: str) -> HttpResponseBase:
    answer["ETag"], answer["Accept-Ranges"] = etag, "bytes"
    patch_cache_control(answer, private=True, max_age=31_536_000, immutable=True)
    return answer
