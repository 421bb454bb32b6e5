"""What is turned away before anybody reads it."""

from __future__ import annotations

from urllib.parse import unquote_plus

from django.http import HttpRequest, JsonResponse
from django.http.response import HttpResponseBase

from bathyphon.server.middleware import Middleware

NUL = (b"\\u0000", b"\0")


class GateMiddleware(Middleware):
    """Refuses texts with a character that no database can hold."""

    def refusal(self, request: HttpRequest) -> HttpResponseBase | None:
        if "\0" in unquote_plus(request.get_full_path()):
            return _said("an address cannot hold the character NUL")
        if request.content_type == "application/json" and any(n in request.body for n in NUL):
            return _said("a text cannot hold the character NUL (U+0000): leave it out")
        return None


def _said(detail: str) -> HttpResponseBase:
    return JsonResponse({"detail": detail, "where": ""}, status=422)
