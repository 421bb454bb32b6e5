"""Files over HTTP with byte ranges (RFC 9110, section 14), without which a browser cannot seek."""

from __future__ import annotations

import asyncio
import re
from collections.abc import AsyncIterator
from pathlib import Path

from django.http import Http404, HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase

CHUNK = 2**18
_RANGE = re.compile(r"bytes=(\d{0,18})-(\d{0,18})", re.ASCII)


def file_response(
    request: HttpRequest, path: Path, content_type: str, tag: str, name: str = ""
) -> HttpResponseBase:
    """Answer with a file or the asked part of it.

    Parameters
    ----------
    request : HttpRequest
    path : Path
        A file the account may see.
    content_type : str
    tag : str
        Names the content, for the browser's cache.
    name : str
        Offers the file for saving under this name.
    """
    if not path.is_file():
        raise Http404
    etag = f'"{tag}"'
    if request.headers.get("If-None-Match") == etag:
        return HttpResponse(status=304)
    size = path.stat().st_size
    start, stop = 0, size
    asked = request.headers.get("Range")
    if asked:
        found = _wanted(asked, size)
        if found is None:
            response = HttpResponse(status=416)
            response["Content-Range"] = f"bytes */{size}"
            return response
        start, stop = found
    stream = StreamingHttpResponse(
        _read(path, start, stop), status=206 if asked else 200, content_type=content_type
    )
    stream["Accept-Ranges"] = "bytes"
    stream["Content-Length"] = str(stop - start)
    stream["ETag"] = etag
    stream["Cache-Control"] = "private, no-cache"
    if asked:
        stream["Content-Range"] = f"bytes {start}-{stop - 1}/{size}"
    if name:
        stream["Content-Disposition"] = attachment(name)
    return stream


def attachment(name: str) -> str:
    """The header that offers what is sent for saving under a name."""
    plain = re.sub(r"[^A-Za-z0-9._ -]", "_", name)
    return f'attachment; filename="{plain}"'


def _wanted(asked: str, size: int) -> tuple[int, int] | None:
    found = _RANGE.fullmatch(asked.strip())
    if not found or found[1] == found[2] == "":
        return None
    if found[1] == "":
        start, stop = max(0, size - int(found[2])), size
    else:
        start = int(found[1])
        stop = min(size, int(found[2]) + 1) if found[2] else size
    return (start, stop) if start < stop else None


async def _read(path: Path, start: int, stop: int) -> AsyncIterator[bytes]:
    file = await asyncio.to_thread(path.open, "rb")
    try:
        await asyncio.to_thread(file.seek, start)
        left = stop - start
        while left > 0:
            chunk = await asyncio.to_thread(file.read, min(CHUNK, left))
            if not chunk:
                return
            left -= len(chunk)
            yield chunk
    finally:
        file.close()
