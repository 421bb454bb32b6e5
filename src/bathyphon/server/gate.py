"""What is turned away before anybody reads it."""

from __future__ import annotations

from collections.abc import Awaitable, Callable

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.http import HttpRequest, JsonResponse
from django.http.response import HttpResponseBase

NUL = (b"\\u0000", b"\0")


class GateMiddleware:
    """Refuses texts with a character that no database can hold."""

    sync_capable = True
    async_capable = True

    def __init__(
        self, get_response: Callable[[HttpRequest], HttpResponseBase | Awaitable[HttpResponseBase]]
    ) -> None:
        self._get_response = get_response
        if iscoroutinefunction(get_response):
            markcoroutinefunction(self)

    def __call__(self, request: HttpRequest) -> HttpResponseBase | Awaitable[HttpResponseBase]:
        if refusal := _refusal(request):
            return _later(refusal) if iscoroutinefunction(self._get_response) else refusal
        return self._get_response(request)


async def _later(response: HttpResponseBase) -> HttpResponseBase:
    return response


def _refusal(request: HttpRequest) -> HttpResponseBase | None:
    if "\0" in request.get_full_path():
        return _said("an address cannot hold the character NUL")
    if request.content_type == "application/json" and any(n in request.body for n in NUL):
        return _said("a text cannot hold the character NUL (U+0000): leave it out")
    return None


def _said(detail: str) -> HttpResponseBase:
    return JsonResponse({"detail": detail, "where": ""}, status=422)
