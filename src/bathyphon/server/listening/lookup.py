"""The reel that is asked about, as whoever asks may see it."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest

from bathyphon.server.current import account_of
from bathyphon.server.reels.head import Head, seen_by
from bathyphon.server.sound.media import PreparedMedia


def looked_up(request: HttpRequest, id: UUID) -> tuple[User, Head, PreparedMedia]:
    """Account, newest state and media.

    Raises
    ------
    Http404
        For strangers, too.
    """
    account = account_of(request)
    head = seen_by(account, id)
    return account, head, PreparedMedia(account, head.reel)
