"""The database may be away for a while: whoever asks meanwhile is told to ask again."""

from __future__ import annotations

from django.db import DatabaseError, InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse

from bathyphon.server.middleware import Middleware

SECONDS = 2
SAID = "The database does not answer at the moment; this is tried again by itself."
# Refused connections, lost ones, and none that comes free in time.
AWAY = (OperationalError, InterfaceError)


def away(error: BaseException) -> HttpResponse | None:
    """What is answered to a fault of the database; none if it is another fault."""
    if not isinstance(error, AWAY) and not _no_connection(error):
        return None
    return JsonResponse({"detail": SAID}, status=503, headers={"Retry-After": str(SECONDS)})


def _no_connection(error: BaseException) -> bool:
    # The pool's own class is no database's.
    from psycopg_pool import PoolTimeout

    return isinstance(error, PoolTimeout) or isinstance(
        error.__cause__ if isinstance(error, DatabaseError) else None, PoolTimeout
    )


class AwayMiddleware(Middleware):
    """Answers for views that have met no database."""

    def process_exception(self, request: HttpRequest, error: Exception) -> HttpResponse | None:
        """Django asks here what a fault is answered with."""
        return away(error)
