"""States of a reel that are held against each other."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.server.reels.head import Head, load
from bathyphon.server.sound.media import PreparedMedia

MOST_COMMANDS = 1500


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
    """Read what is to be heard.

    Raises
    ------
    Refused
        In one sentence, if it cannot be read.
    """
    try:
        return Heard.model_validate_json(body)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        place = ".".join(map(str, first["loc"]))
        raise Refused(f"what is compared cannot be read: {first['msg'].lower()}", place) from None


def asked_for(
    account: Any, reel: UUID, head: Head, media: PreparedMedia, heard: Heard
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
    assert isinstance(account, User)
    past = past_head(reel, heard.revision)
    return past, PreparedMedia(account, past.reel)


_past: dict[tuple[UUID, int], Head] = {}
MOST_PAST = 16


def past_head(reel: UUID, revision: int) -> Head:
    """The document at a revision; it never changes, so the last few are kept."""
    known = _past.get((reel, revision))
    if known is None:
        document = load(reel, revision)
        known = Head(revision, document, read_reel(document))
        while len(_past) >= MOST_PAST:
            _past.pop(next(iter(_past)), None)
        _past[reel, revision] = known
    return known
