"""Answers of text are sent compressed: a long reel takes a tenth of its bytes on the way."""

from __future__ import annotations

import asyncio
from collections.abc import Awaitable

from asgiref.sync import iscoroutinefunction
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware

from bathyphon.server.middleware import Answer, Middleware

TEXTS = ("application/json", "text/html", "text/plain", "text/csv", "application/xml")
LITTLE = 50_000
"""Bytes that are compressed faster than a thread is found for it."""


class PackingMiddleware(Middleware):
    """Compresses texts; sound and pictures are none, and a stream is sent as it comes."""

    def __call__(self, request: HttpRequest) -> Answer:
        answer = self.refusal(request) or self._get_response(request)
        if not isinstance(answer, HttpResponseBase):
            return self._packed_later(request, answer)
        if iscoroutinefunction(self._get_response):
            return self._at_once(answer)
        return _packed(request, answer)

    async def _packed_later(
        self, request: HttpRequest, answer: Awaitable[HttpResponseBase]
    ) -> HttpResponseBase:
        response = await answer
        if isinstance(response, HttpResponse) and len(response.content) > LITTLE:
            return await asyncio.to_thread(_packed, request, response)
        return _packed(request, response)


def _packed(request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
    kind = response.headers.get("Content-Type", "").partition(";")[0]
    if response.streaming or kind not in TEXTS:
        return response
    return _gzip.process_response(request, response)


_gzip = GZipMiddleware(lambda request: HttpResponse())
