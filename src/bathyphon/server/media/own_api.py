"""Sounds of one's own over HTTP."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema
from ninja.responses import Status

from bathyphon.server.current import account_of
from bathyphon.server.media import own
from bathyphon.server.media.api import MediaLine

router = Router(tags=["sounds"])
Tag = Annotated[str, Field(max_length=60)]


class OwnLine(Schema):
    """A sound of one's own; loudness in LUFS, none before it has been measured."""

    id: UUID
    name: str
    folder: str
    tags: list[str]
    state: str
    error: str
    seconds: float | None
    loudness: float | None


class OwnFound(Schema):
    """How many there are, and the first of them."""

    total: int
    sounds: list[OwnLine]


class Tagged(Schema):
    """Tags of a sound."""

    tags: list[Tag]


@router.get("", response=OwnFound)
def own_sounds(
    request: HttpRequest,
    text: Annotated[str, Query(max_length=200)] = "",
    limit: Annotated[int, Query(ge=1, le=500)] = 100,
) -> Any:
    """Sounds that words may mean; without words all of them."""
    total, rows = own.found(account_of(request), text, limit)
    return {"total": total, "sounds": [own.line_of(row) for row in rows]}


@router.patch("{uuid:id}", response=OwnLine)
def tag_sound(request: HttpRequest, id: UUID, body: Tagged) -> Any:
    """Give a sound other tags."""
    return own.line_of(own.tagged(account_of(request), id, body.tags))


@router.post("{uuid:id}/used", response=MediaLine)
def use_sound(request: HttpRequest, id: UUID) -> Any:
    """A sound that is laid in a reel."""
    return own.used(account_of(request), id)


@router.delete("{uuid:id}", response={204: None})
def remove_sound(request: HttpRequest, id: UUID) -> Any:
    """Take a sound off the shelf."""
    own.left(account_of(request), id)
    return Status(204, None)
