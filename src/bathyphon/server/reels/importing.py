"""Reels from ``reel.json`` files on the server's own disk, such as the demo's."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import Path

from django.contrib.auth.models import User

from bathyphon.core.edits.uses import with_other_media
from bathyphon.core.reel.model import Document
from bathyphon.core.reel.parse import read_reel
from bathyphon.formats.reel_file import load_document
from bathyphon.server.media.intake import take
from bathyphon.server.media.models import Media
from bathyphon.server.reels.journal import create_reel
from bathyphon.server.reels.models import Reel


def import_reel(account: User, path: Path) -> tuple[Reel, list[Media]]:
    """Bring in a reel file with its media; they are prepared by jobs.

    Parameters
    ----------
    account : User
        Who will own it.
    path : Path
        A ``reel.json`` chosen by the operator: paths in it are followed.
    """
    document = load_document(path)
    read_reel(document)
    rate = document["sample_rate"]
    media: dict[str, Media] = {}
    for medium in document["media"]:
        file = path.parent / medium["path"]
        media[medium["id"]] = take(account, file.name, _chunks(file), rate)
    return create_reel(account, with_media(document, media)), list(media.values())


def with_media(document: Document, rows: Mapping[str, Media]) -> Document:
    """A reel whose media are an account's rows, wherever it names them.

    Parameters
    ----------
    document : dict
        It is left as it is.
    rows : dict
        By the ids that the document has for its media; others keep theirs.
    """
    return with_other_media(
        document,
        {
            medium["id"]: {
                **medium,
                "id": str(rows[medium["id"]].pk),
                "path": rows[medium["id"]].name,
            }
            for medium in document.get("media", [])
            if medium["id"] in rows
        },
    )


def _chunks(path: Path) -> Iterator[bytes]:
    with path.open("rb") as file:
        while chunk := file.read(2**20):
            yield chunk
