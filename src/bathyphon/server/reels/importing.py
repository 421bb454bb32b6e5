"""Reels from ``reel.json`` files on the server's own disk, such as the demo's."""

from __future__ import annotations

import copy
from collections.abc import Iterator
from pathlib import Path

from django.contrib.auth.models import User

from bathyphon.core.edits.find import at
from bathyphon.core.edits.patch import apply_patch, pointer
from bathyphon.core.edits.uses import uses_of_media
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
    document = copy.deepcopy(document)
    rate = document["sample_rate"]
    media: dict[str, Media] = {}
    for medium in document["media"]:
        file = path.parent / medium["path"]
        media[medium["id"]] = take(account, file.name, _chunks(file), rate)
        medium["id"], medium["path"] = str(media[medium["id"]].pk), file.name
    named = [
        {"op": "replace", "path": pointer(*path), "value": str(media[at(document, path)].pk)}
        for path in uses_of_media(document)
    ]
    document, _ = apply_patch(document, named)
    return create_reel(account, document), list(media.values())


def _chunks(path: Path) -> Iterator[bytes]:
    with path.open("rb") as file:
        while chunk := file.read(2**20):
            yield chunk
