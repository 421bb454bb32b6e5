"""What the exports of an account take of the disk."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.db.models import Sum
from django.dispatch import receiver

from bathyphon.server.exports.models import Export
from bathyphon.server.media.signals import other_bytes


@receiver(other_bytes)
def bytes_of_exports(sender: Any, account: User, **kwargs: Any) -> int:
    """Of those that are done or under way, whichever reel they are of."""
    held = Export.objects.filter(account=account, state__in=(*Export.OPEN, Export.DONE))
    return int(held.aggregate(all=Sum("size"))["all"] or 0)
