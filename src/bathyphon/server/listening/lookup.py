"""The reel that is asked about, as whoever asks may see it."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from bathyphon.server.current import account_of
from bathyphon.server.reels.head import Head, head_of
from bathyphon.server.reels.models import Reel
from bathyphon.server.sound.media import PreparedMedia


def looked_up(request: HttpRequest, id: UUID) -> tuple[User, Head, PreparedMedia]:
    """Account, newest state and media.

    Raises
    ------
    Http404
        For strangers, too.
    """
    account = account_of(request)
    reel = get_object_or_404(Reel.visible_to(account), pk=id)
    head = head_of(reel.pk, reel.revision)
    return account, head, PreparedMedia(account, head.reel)
