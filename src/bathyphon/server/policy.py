"""Headers that keep a browser from running what it should not."""

from __future__ import annotations

from django.http.response import HttpResponseBase

from bathyphon.server.middleware import Middleware

POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; media-src 'self' blob:; "
    "style-src 'self' 'unsafe-inline'; script-src 'self'; worker-src 'self' blob:; "
    "connect-src 'self'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'"
)


class ContentPolicyMiddleware(Middleware):
    """Adds a Content-Security-Policy to every answer that has none."""

    def finished(self, response: HttpResponseBase) -> HttpResponseBase:
        response.headers.setdefault("Content-Security-Policy", POLICY)
        return response
