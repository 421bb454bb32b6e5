"""Headers that keep a browser from running what it should not."""

from __future__ import annotations

from collections.abc import Awaitable, Callable

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.http import HttpRequest
from django.http.response import HttpResponseBase

POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; media-src 'self' blob:; "
    "style-src 'self' 'unsafe-inline'; script-src 'self'; worker-src 'self' blob:; "
    "connect-src 'self'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'"
)


class ContentPolicyMiddleware:
    """Adds a Content-Security-Policy to every answer that has none."""

    sync_capable = True
    async_capable = True

    def __init__(
        self, get_response: Callable[[HttpRequest], HttpResponseBase | Awaitable[HttpResponseBase]]
    ) -> None:
        self._get_response = get_response
        if iscoroutinefunction(get_response):
            markcoroutinefunction(self)

    def __call__(self, request: HttpRequest) -> HttpResponseBase | Awaitable[HttpResponseBase]:
        response = self._get_response(request)
        if isinstance(response, HttpResponseBase):
            return _with_policy(response)
        return self._later(response)

    async def _later(self, response: Awaitable[HttpResponseBase]) -> HttpResponseBase:
        return _with_policy(await response)


def _with_policy(response: HttpResponseBase) -> HttpResponseBase:
    response.headers.setdefault("Content-Security-Policy", POLICY)
    return response
