"""Pictures that were laid into a reel before they were ready: their cuts come later."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.auth.models import User

from bathyphon.core.errors import Refused
from bathyphon.server.media.models import Media
from bathyphon.server.reels.found import found_in
from bathyphon.server.reels.head import head_of
from bathyphon.server.reels.journal import Conflict, edit
from bathyphon.server.reels.models import Reel


def picture_ready(media: Media, **_: Any) -> None:
    """Put a picture's cuts into the reels that show it and have none yet."""
    if "picture" not in media.info:
        return
    for row in Reel.visible_to(media.account).filter(changed__gte=media.created):
        _lay_in_cuts(media.account, row, str(media.pk))


def _lay_in_cuts(account: User, row: Reel, media: str) -> None:
    reel = head_of(row.pk, row.revision).reel
    picture = reel.picture
    if picture.cuts or picture.not_cuts or all(c.media != media for c in picture.clips):
        return
    cuts = found_in(account, reel)["cuts"]
    if not cuts:
        return
    command = {"kind": "set_cuts", "by": "finder", "cuts": cuts}
    try:
        edit(account, row.pk, uuid.uuid4(), row.revision, [command])
    except (Conflict, Refused):
        # Somebody is marking cuts at this moment; they can still be found with a button.
        return
