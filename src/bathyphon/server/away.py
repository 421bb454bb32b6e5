"""The database may be away for a while: whoever asks meanwhile is told to ask again."""

from __future__ import annotations

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse

from bathyphon.server.middleware import Middleware

SECONDS = 2
SAID = "The database does not answer at the moment; this is tried again by itself."
DATABASE_AWAY = (OperationalError, InterfaceError)
"""Connections that are refused or lost, and none that comes free in time."""


def away() -> HttpResponse:
    """What is answered while the database is away."""
    return JsonResponse({"detail": SAID}, status=503, headers={"Retry-After": str(SECONDS)})


class AwayMiddleware(Middleware):
    """Answers for views that have met no database."""

    def process_exception(self, request: HttpRequest, error: Exception) -> HttpResponse | None:
        """Django asks here what a fault is answered with; another fault is not ours."""
        return away() if isinstance(error, DATABASE_AWAY) else None
