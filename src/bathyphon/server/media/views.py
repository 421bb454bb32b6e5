"""The prepared parts of media: proxy, strip, peaks, profile."""

from __future__ import annotations

import re
from uuid import UUID

from asgiref.sync import sync_to_async
from django.http import Http404, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase

from bathyphon.formats.names import sound_name
from bathyphon.server.media.models import Media
from bathyphon.server.ranges import file_response

_PARTS = {
    "proxy.mp4": "video/mp4",
    "strip.jpg": "image/jpeg",
}
_NUMBERS = re.compile(r"(peaks-\d{1,6}\.i16|profile\.f32|onsets\.i32)")


async def media_file(request: HttpRequest, id: UUID, part: str) -> HttpResponseBase:
    """One part of a medium. Only what the decoder has made is served, never the file itself."""
    user = await request.auser()
    if not user.is_authenticated:
        return HttpResponse(status=401)
    content_type = _PARTS.get(part)
    if content_type is None and _NUMBERS.fullmatch(part):
        content_type = "application/octet-stream"
    media = await sync_to_async(Media.visible_to(user).filter(pk=id).first)()
    if content_type is None or media is None:
        raise Http404
    part = _file_of(media, part)
    digest = media.blob.digest
    return file_response(request, media.blob.prepared / part, content_type, f"{digest[:32]}-{part}")


def _file_of(media: Media, part: str) -> str:
    """A part's file name: what depends on rate or sound carries them there."""
    stem, _, ending = part.partition(".")
    if stem == "onsets":
        return f"onsets-{sound_name(media.rate, media.stream)}.{ending}"
    if media.stream and (stem == "profile" or stem.startswith("peaks-")):
        return f"{stem}-{media.stream}.{ending}"
    return part
