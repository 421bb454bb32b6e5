"""Files of the built front end, as WhiteNoise finds them: compressed when built, kept for ever.

Their names carry a hash of what is in them, so a browser need never ask for one again.
"""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from asgiref.sync import sync_to_async
from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from whitenoise import WhiteNoise

ASSETS = "/assets/"


async def built_file(request: HttpRequest, name: str) -> HttpResponseBase:
    """A file of the front end, in the shortest form that the browser reads."""
    return await sync_to_async(_answer, thread_sensitive=False)(request)


def _answer(request: HttpRequest) -> HttpResponse:
    page = settings.WEB_DIST / "index.html"
    built = page.stat().st_mtime_ns if page.is_file() else 0
    found = _files(settings.WEB_DIST, built).files.get(request.path_info)
    if found is None:
        raise Http404
    sent = found.get_response(request.method, request.META)
    body = b""
    if sent.file is not None:
        with sent.file as file:
            body = file.read()
    return HttpResponse(body, status=int(sent.status), headers=dict(sent.headers))


@lru_cache(1)
def _files(folder: Path, built: int) -> WhiteNoise:
    """What there is; looked at anew when it has been built anew."""
    found = WhiteNoise(
        None, immutable_file_test=lambda path, url: url.startswith(ASSETS), allow_all_origins=False
    )
    if (folder / "assets").is_dir():
        found.add_files(folder / "assets", ASSETS)
    for mark in folder.glob("*.svg"):
        found.add_file_to_dictionary(f"/{mark.name}", str(mark))
    return found
