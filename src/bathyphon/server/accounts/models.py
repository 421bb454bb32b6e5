"""Accounts are Django's users; here are their one-time sign-in links and preferences."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from urllib.parse import urlencode

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models
from django.utils import timezone


class SignInLink(models.Model):
    """A link that signs an account in once; only its hash is kept."""

    digest = models.CharField(max_length=64, unique=True)
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    expires = models.DateTimeField()

    @classmethod
    def make(cls, account: User, hours: float = 12.0) -> str:
        """Create a link; returns its token."""
        token = secrets.token_urlsafe(24)
        cls.objects.create(
            digest=_digest(token),
            account=account,
            expires=timezone.now() + timedelta(hours=hours),
        )
        return token

    @classmethod
    def path(cls, account: User, to: str) -> str:
        """The address within the site of a new link; who has used it goes on to a page.

        What stands behind the # stays in the browser: neither logs nor other servers come to see
        it, and whoever only looks at the page, as mail programs do, does not use it up.
        """
        return f"/sign-in?{urlencode({'to': to}, safe='/')}#link={cls.make(account)}"

    @classmethod
    def use(cls, token: str) -> User | None:
        """The account of a token that has neither expired nor been used; it is used up now."""
        links = cls.objects.filter(digest=_digest(token), expires__gt=timezone.now())
        link = links.select_related("account").first()
        # Deleting tells whether this call was the first to use the link.
        if link is None or links.delete()[0] == 0:
            return None
        return link.account if link.account.is_active else None


class Preferences(models.Model):
    """What an account has set for itself: keys of commands, by the commands' ids."""

    account = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    keys = models.JSONField(default=dict)

    class Meta:
        verbose_name_plural = "preferences"


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
