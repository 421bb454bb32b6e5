"""Sounds of one's own: folders that an account has taken in, found by words, laid in any reel."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import PurePosixPath
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from bathyphon.core.errors import Refused
from bathyphon.formats.archive import is_foreign
from bathyphon.server.media.intake import adopt
from bathyphon.server.media.models import Media, Upload

MOST_FOLDER = 400
MOST_TAGS = 40
MOST_WORDS = 12


def plain_folder(folder: str) -> str:
    """A folder as it is shown: where the file lay within what was chosen.

    Raises
    ------
    Refused
        If it leads out of that.
    """
    if folder and is_foreign(folder):
        raise Refused("the folder of a sound must lie within what was chosen", "folder")
    plain = "".join(c for c in str(PurePosixPath(folder)) if c.isprintable())
    return "" if plain == "." else plain[:MOST_FOLDER]


def take_sound(account: User, upload: Upload) -> UUID:
    """Make a complete upload a sound of the account; what is there already stays as it is."""
    # Whoever prepares it sees it on the shelf, and puts other sounds of the same file there too.
    with transaction.atomic():
        row = adopt(account, upload.name, upload.path, upload.rate)
        known = own_sounds(account).filter(blob=row.blob, folder=upload.folder, name=row.name)
        first = known.first()
        if first is not None:
            row.delete()
            return first.pk
        row.own, row.listed, row.folder = True, False, upload.folder
        _with_words(row)
        row.save(update_fields=["own", "listed", "folder", "words"])
    return row.pk


def own_sounds(account: User) -> QuerySet[Media]:
    """All sounds that an account has taken in."""
    return Media.visible_to(account).filter(own=True)


def found(account: User, text: str, limit: int) -> tuple[int, list[Media]]:
    """How many sounds hold all of these words in name, folder or tags, and the first of them."""
    rows = own_sounds(account)
    for word in text.lower().split()[:MOST_WORDS]:
        rows = rows.filter(words__contains=word)
    return rows.count(), list(rows.order_by("folder", "name", "pk")[:limit])


def tagged(account: User, id: UUID, tags: Iterable[str]) -> Media:
    """Give a sound other tags."""
    row = get_object_or_404(own_sounds(account), pk=id)
    row.tags = list(dict.fromkeys(tag.strip() for tag in tags if tag.strip()))
    if len(row.tags) > MOST_TAGS:
        raise Refused(f"a sound has no more than {MOST_TAGS} tags", "tags")
    _with_words(row)
    row.save(update_fields=["tags", "words"])
    return row


def used(account: User, id: UUID) -> Media:
    """A sound that is laid: from now on it is listed with the media of reels."""
    row = get_object_or_404(own_sounds(account), pk=id)
    if not row.listed:
        row.listed = True
        row.save(update_fields=["listed"])
    return row


def left(account: User, id: UUID) -> None:
    """Take a sound off the shelf; in reels that use it it stays."""
    row = get_object_or_404(own_sounds(account), pk=id)
    if row.listed:
        row.own = False
        row.save(update_fields=["own"])
    else:
        row.delete()


def line_of(row: Media) -> dict[str, Any]:
    """What the shelf shows of a sound."""
    sound = row.info.get("sound", {})
    return {
        "id": row.pk, "name": row.name, "folder": row.folder, "tags": row.tags,
        "state": row.state, "error": row.error, "seconds": row.info.get("seconds"),
        "loudness": sound.get("loudness"),
    }  # fmt: skip


def _with_words(row: Media) -> None:
    row.words = " ".join([row.name, row.folder, *row.tags]).lower()
