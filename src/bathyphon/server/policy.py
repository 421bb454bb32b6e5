"""Headers that keep a browser from running what it should not."""

from __future__ import annotations

from functools import lru_cache

from csp.utils import build_policy
from django.http.response import HttpResponseBase

from bathyphon.server.middleware import Middleware


@lru_cache(1)
def _policy() -> str:
    """What ``CONTENT_SECURITY_POLICY`` in the settings says, as browsers read it."""
    return build_policy()


class ContentPolicyMiddleware(Middleware):
    """Adds a Content-Security-Policy to every answer that has none."""

    def finished(self, response: HttpResponseBase) -> HttpResponseBase:
        response.headers.setdefault("Content-Security-Policy", _policy())
        return response
