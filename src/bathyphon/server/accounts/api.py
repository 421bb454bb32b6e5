"""Signing in and out, and changing one's password."""

from __future__ import annotations

from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema
from ninja.responses import Status
from ninja.security import APIKeyCookie

from bathyphon.core.errors import Refused
from bathyphon.server.accounts.models import SignInLink
from bathyphon.server.current import account_of
from bathyphon.server.notify import tell
from bathyphon.server.taking_turns import one_at_a_time

router = Router(tags=["accounts"])
TOO_MANY = "Too many wrong tries; wait five minutes and try again."
AT_ONCE = "Somebody is signing in with this name at this moment; try again."


class Anyone(APIKeyCookie):
    """Lets everybody in, but still checks the CSRF token."""

    param_name = "sessionid"

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


class Account(Schema):
    """Who is signed in."""

    name: str


class SignIn(Schema):
    """Name and password."""

    name: str
    password: str


class Link(Schema):
    """What stands behind the # of a link that signs in."""

    token: str


class NewPassword(Schema):
    """The password until now, and from now on."""

    old: str
    new: str


class Message(Schema):
    """One sentence."""

    detail: str


@router.get("account", response=Account)
def get_account(request: HttpRequest) -> dict[str, Any]:
    """The signed-in account."""
    get_token(request)
    return {"name": account_of(request).username}


@router.post("session", auth=Anyone(), response={200: Account, 403: Message, 429: Message})
def sign_in(request: HttpRequest, data: SignIn) -> Any:
    """Sign in with name and password; ten wrong tries close a name for five minutes."""
    with one_at_a_time("sign-in", data.name, request.META.get("REMOTE_ADDR", "")) as mine:
        if not mine:
            return Status(429, {"detail": AT_ONCE})
        if not AxesProxyHandler.is_allowed(request, {"username": data.name}):
            return Status(403, {"detail": TOO_MANY})
        user = authenticate(request, username=data.name, password=data.password)
    if user is None:
        return Status(403, {"detail": "That name and password do not belong together."})
    login(request, user)
    return {"name": user.get_username()}


@router.post("session/link", auth=Anyone(), response={200: Account, 403: Message})
def use_link(request: HttpRequest, data: Link) -> Any:
    """Sign in by a link, once. Its secret has never been part of an address that is sent."""
    account = SignInLink.use(data.token)
    if account is None:
        return Status(403, {"detail": "That link has been used or has expired."})
    login(request, account, backend="django.contrib.auth.backends.ModelBackend")
    return {"name": account.get_username()}


@router.delete("session", response={204: None})
def sign_out(request: HttpRequest) -> Any:
    """Sign out."""
    account = account_of(request).pk
    logout(request)
    tell(account, "session")
    return Status(204, None)


@router.post("password", response={204: None})
def change_password(request: HttpRequest, data: NewPassword) -> Any:
    """Change the password; other windows of the account are signed out."""
    user = account_of(request)
    if user.has_usable_password() and not user.check_password(data.old):
        raise Refused("that is not your present password", "old")
    try:
        validate_password(data.new, user)
    except ValidationError as error:
        raise Refused(" ".join(error.messages), "new") from None
    user.set_password(data.new)
    user.save(update_fields=["password"])
    update_session_auth_hash(request, user)
    tell(user.pk, "session")
    return Status(204, None)
