"""States of a reel that are compared with each other."""

from __future__ import annotations

from threading import Lock
from typing import Any
from uuid import UUID

from cachetools import LRUCache, cached
from django.contrib.auth.models import User
from pydantic import BaseModel, ConfigDict, Field

from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.server.bodies import read_body
from bathyphon.server.reels.head import Head, load
from bathyphon.server.sound.media import PreparedMedia

MOST_COMMANDS = 1500
MOST_PAST = 16


class Heard(BaseModel):
    """What is heard instead of the reel as it is.

    Parameters
    ----------
    commands : list of dict
        Edits that are heard and never committed, such as an effect switched off.
    treated : bool
        False without all treatments.
    revision : int, optional
        The reel as it was then.
    """

    model_config = ConfigDict(extra="forbid")
    commands: list[dict[str, Any]] = Field([], max_length=MOST_COMMANDS)
    treated: bool = True
    revision: int | None = Field(None, ge=0)


def read_heard(body: bytes) -> Heard:
    """Read what is to be heard; refused in one sentence, if it cannot be read."""
    return read_body(Heard, body, "what is compared")


def asked_for(
    account: User, reel: UUID, head: Head, media: PreparedMedia, heard: Heard
) -> tuple[Head, PreparedMedia]:
    """The document that is meant, and its media.

    Raises
    ------
    Refused
        If the reel never had that revision.
    """
    if heard.revision is None or heard.revision == head.revision:
        return head, media
    if heard.revision > head.revision:
        raise Refused("the reel has no such state", "revision")
    past = past_head(reel, heard.revision)
    return past, PreparedMedia(account, past.reel)


@cached(LRUCache(MOST_PAST), lock=Lock())
def past_head(reel: UUID, revision: int) -> Head:
    """The document at a revision; it never changes, so the last few are kept."""
    document = load(reel, revision)
    return Head(revision, document, read_reel(document))
