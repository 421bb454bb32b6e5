"""How much of the disk is an account's, whatever state it is in.

All of it counts: what lies in the trash can be brought back, what is on its way in has been
promised, and what was made of a file lies beside it.
"""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth.models import User
from django.db.models import BigIntegerField, Sum
from django.db.models.fields.json import KT
from django.db.models.functions import Cast, Coalesce

from bathyphon.core.errors import Refused
from bathyphon.server.media.models import Media, Upload
from bathyphon.server.media.signals import other_bytes
from bathyphon.server.taking_turns import wait_for_turn


def used(account: User) -> int:
    """Bytes that an account takes up or has been promised."""
    # A file that was brought in twice lies there once, with all that was made of it.
    media = Media.objects.filter(account=account)
    blobs = media.order_by().values("blob", "blob__size").distinct()
    stored = sum(row["blob__size"] for row in blobs)
    made = media.filter(info__has_key="bytes").order_by("blob", "-created").distinct("blob")
    prepared = Media.objects.filter(pk__in=made.values("pk")).aggregate(
        all=Coalesce(Sum(Cast(KT("info__bytes"), BigIntegerField())), 0)
    )["all"]
    coming = Upload.objects.filter(account=account, media=None, made=None)
    promised = coming.aggregate(all=Coalesce(Sum("size"), 0))["all"]
    others = sum(int(taken or 0) for _, taken in other_bytes.send(User, account=account))
    return int(stored + prepared + promised + others)


def refuse_over_limit(account: User, name: str, size: int) -> None:
    """Refuse what would take an account over its limit; within a transaction, one at a time.

    Parameters
    ----------
    account : User
    name : str
        What is to come.
    size : int
        Its bytes.
    """
    limit = settings.BATHYPHON_ACCOUNT_LIMIT
    if not limit:
        return
    # Of two at the same moment each would fit alone.
    wait_for_turn("quota", str(account.pk))
    free = max(0, limit - used(account))
    if size > free:
        raise Refused(
            f"“{name}” does not fit: {in_words(free)} of this account's {in_words(limit)} are "
            "left; remove media or exports that are no longer needed"
        )


def in_words(size: int) -> str:
    """A number of bytes as people say it."""
    return f"{size / 2**30:.0f} GB" if size >= 2**30 else f"{size / 2**20:.0f} MB"
