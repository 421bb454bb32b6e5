"""Entering by a one-time link."""

from __future__ import annotations

from django.contrib.auth import login
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_GET

from bathyphon.server.accounts.models import SignInLink


@require_GET
def enter(request: HttpRequest, token: str) -> HttpResponse:
    """Sign in and go to ``?to=``; a used or expired link leads to the sign-in page."""
    account = SignInLink.use(token)
    if account is None:
        return redirect("/sign-in?link=used")
    login(request, account, backend="django.contrib.auth.backends.ModelBackend")
    target = request.GET.get("to", "/")
    if not url_has_allowed_host_and_scheme(target, allowed_hosts=None):
        target = "/"
    return redirect(target)
