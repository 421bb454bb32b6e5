"""Who is asking."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.http import Http404, HttpRequest


def account_of(request: HttpRequest) -> User:
    """The signed-in account; for strangers there is nothing here."""
    if not isinstance(request.user, User):
        raise Http404
    return request.user
