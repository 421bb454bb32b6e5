"""The prepared parts of media: proxy, strip, peaks, profile."""

from __future__ import annotations

import re
from collections.abc import AsyncIterator
from typing import cast
from uuid import UUID

import numpy as np
from asgiref.sync import sync_to_async
from django.contrib.auth.base_user import AbstractBaseUser
from django.contrib.auth.models import User
from django.http import Http404, HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase

from bathyphon.formats.conform import ConformedFile
from bathyphon.formats.names import sound_name
from bathyphon.formats.plain_wave import wave_frames, wave_head
from bathyphon.server.media.models import Media
from bathyphon.server.ranges import file_response

_PARTS = {
    "proxy.mp4": "video/mp4",
    "strip.jpg": "image/jpeg",
}
_SAMPLES = re.compile(r"samples-(\d{1,7})\.i16")
PAGE = 65_536
_NUMBERS = re.compile(r"(peaks-\d{1,6}\.i16|profile\.f32|onsets\.i32)")


async def media_file(request: HttpRequest, id: UUID, part: str) -> HttpResponseBase:
    """One part of a medium. Only what the decoder has made is served, never the file itself."""
    user = await request.auser()
    if not user.is_authenticated:
        return HttpResponse(status=401)
    page = _SAMPLES.fullmatch(part)
    if page:
        return await _samples(user, id, int(page[1]))
    if part == "sound.wav":
        return await _listen(user, id)
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
    if _NUMBERS.fullmatch(part):
        stem, _, ending = part.partition(".")
        return f"{stem}-{sound_name(media.rate, media.stream)}.{ending}"
    return part


async def _samples(user: AbstractBaseUser, id: UUID, page: int) -> HttpResponse:
    """Single samples for close views: the mean of both sides as int16, 65,536 to a page."""
    media = await sync_to_async(Media.visible_to(cast(User, user)).filter(pk=id).first)()
    if media is None or not media.sound_ready:
        raise Http404
    sound = await sync_to_async(ConformedFile)(media.sound_path)
    if page * PAGE >= sound.samples:
        raise Http404
    both = sound.read(page * PAGE, min((page + 1) * PAGE, sound.samples))
    mean = np.clip(np.rint((both[0] + both[1]) * 16383.5), -32768, 32767).astype("<i2")
    response = HttpResponse(mean.tobytes(), content_type="application/octet-stream")
    response["Cache-Control"] = "private, max-age=3600"
    return response


async def _listen(user: AbstractBaseUser, id: UUID) -> HttpResponseBase:
    """A medium's sound as 16-bit WAV, to be listened to by itself; it is made while it is sent."""
    media = await sync_to_async(Media.visible_to(cast(User, user)).filter(pk=id).first)()
    if media is None or not media.sound_ready:
        raise Http404
    sound = await sync_to_async(ConformedFile)(media.sound_path)

    async def parts() -> AsyncIterator[bytes]:
        yield wave_head(media.rate, 4 * sound.samples)
        for start in range(0, sound.samples, PAGE):
            both = await sync_to_async(sound.read)(start, min(start + PAGE, sound.samples))
            yield wave_frames(both)

    response = StreamingHttpResponse(parts(), content_type="audio/wav")
    response["Cache-Control"] = "private, max-age=3600"
    return response
