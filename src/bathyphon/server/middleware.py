"""What our middleware shares: before a view or after it, synchronous or not, without a thread."""

from __future__ import annotations

from collections.abc import Awaitable, Callable

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.http import HttpRequest
from django.http.response import HttpResponseBase

Answer = HttpResponseBase | Awaitable[HttpResponseBase]


class Middleware:
    """Refuses a request, or finishes an answer.

    Parameters
    ----------
    get_response : callable
        What comes next.
    """

    sync_capable = True
    async_capable = True

    def __init__(self, get_response: Callable[[HttpRequest], Answer]) -> None:
        self._get_response = get_response
        if iscoroutinefunction(get_response):
            markcoroutinefunction(self)

    def __call__(self, request: HttpRequest) -> Answer:
        answer: Answer = self.refusal(request) or self._get_response(request)
        if isinstance(answer, HttpResponseBase):
            if not iscoroutinefunction(self._get_response):
                return self.finished(answer)
            return self._at_once(answer)
        return self._later(answer)

    def refusal(self, request: HttpRequest) -> HttpResponseBase | None:
        """An answer that ends it here; none lets the request through."""
        return None

    def finished(self, response: HttpResponseBase) -> HttpResponseBase:
        """The answer as it leaves."""
        return response

    async def _at_once(self, response: HttpResponseBase) -> HttpResponseBase:
        return self.finished(response)

    async def _later(self, response: Awaitable[HttpResponseBase]) -> HttpResponseBase:
        return self.finished(await response)
