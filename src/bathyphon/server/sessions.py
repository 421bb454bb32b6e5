"""Who is signed in, for what is answered outside Django's own requests or goes on for long."""

from __future__ import annotations

from http.cookies import CookieError, SimpleCookie
from importlib import import_module
from threading import Lock

from cachetools import TTLCache
from django.conf import settings
from django.contrib.auth import get_user
from django.contrib.auth.models import User
from django.http import HttpRequest

LATELY_SECONDS = 5.0
"""Whoever asks many times a second is looked up as often as this."""

_lately: TTLCache[str, User] = TTLCache(1000, LATELY_SECONDS)
_lock = Lock()


def session_key(cookies: str) -> str:
    """The session that a request's cookies name; empty if they name none."""
    try:
        found = SimpleCookie(cookies).get(settings.SESSION_COOKIE_NAME)
    except CookieError:
        return ""
    return found.value if found else ""


def signed_in(session: str) -> User | None:
    """The account of a session, as long as it lasts and the password is the same."""
    if not session:
        return None
    request = HttpRequest()
    request.session = import_module(settings.SESSION_ENGINE).SessionStore(session)
    user = get_user(request)
    return user if isinstance(user, User) else None


def signed_in_lately(session: str) -> User | None:
    """The same as it was some seconds ago at most."""
    with _lock:
        known = _lately.get(session)
    if known is None:
        known = signed_in(session)
        if known is not None:
            with _lock:
                _lately[session] = known
    return known
