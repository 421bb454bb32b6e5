"""Reels as one file with their media: handed out as it is made, and opened when it has arrived."""

from __future__ import annotations

import asyncio
import copy
from collections.abc import AsyncIterator, Iterator
from pathlib import Path
from uuid import UUID

from asgiref.sync import sync_to_async
from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase

from bathyphon.core.errors import Refused
from bathyphon.formats.archive import Archive, packed, source_of_file
from bathyphon.server.media.intake import refuse_size, take
from bathyphon.server.media.models import Media, Upload, known_ids
from bathyphon.server.media.storage import local_file
from bathyphon.server.ranges import attachment
from bathyphon.server.reels.head import head_of
from bathyphon.server.reels.importing import with_media
from bathyphon.server.reels.journal import create_reel
from bathyphon.server.reels.models import Reel

KIND = "application/zip"
ENOUGH = 2**18


async def reel_archive(request: HttpRequest, id: UUID) -> HttpResponseBase:
    """The reel as it is now with all of its media."""
    user = await request.auser()
    if not isinstance(user, User):
        return HttpResponse(status=401)
    name, pieces = await sync_to_async(_packed)(user, id)
    response = StreamingHttpResponse(_sent(pieces), content_type=KIND)
    response["Content-Disposition"] = attachment(f"{name}.zip")
    response["Cache-Control"] = "no-store"
    return response


def _packed(account: User, id: UUID) -> tuple[str, Iterator[bytes]]:
    reel = Reel.visible_to(account).filter(pk=id).first()
    if reel is None:
        raise Http404
    document = copy.deepcopy(head_of(reel.pk, reel.revision).document)
    listed = known_ids(medium["id"] for medium in document.get("media", []))
    rows = {listed[row.pk]: row for row in Media.visible_to(account).filter(pk__in=listed)}
    for medium in document.get("media", []):
        row = rows.get(medium["id"])
        if row is not None and row.stream:
            medium["stream"] = row.stream
    sources = {
        id: source_of_file(local_file(row.blob), row.name, row.blob.digest)
        for id, row in rows.items()
        if local_file(row.blob).is_file()
    }
    return reel.name, packed(document, sources)


async def _sent(pieces: Iterator[bytes]) -> AsyncIterator[bytes]:
    """Piece by piece, made in a thread of their own; whoever goes ends it."""
    while parts := await asyncio.to_thread(_some, pieces):
        yield parts


def _some(pieces: Iterator[bytes]) -> bytes:
    """The next few pieces together: a head of some bytes is not worth a turn of the server."""
    found = bytearray()
    while len(found) < ENOUGH:
        piece = next(pieces, None)
        if piece is None:
            break
        found += piece
    return bytes(found)


def open_archive(account: User, name: str, path: Path) -> Reel:
    """Make a reel of a packed one, its media as new files of the account.

    Raises
    ------
    Refused
        If it is no archive, or not whole: then nothing has been taken in.
    """
    with Archive(path) as archive:
        if archive.size:
            refuse_size(account, name, archive.size)
        for medium in archive.media:
            for _ in archive.bytes_of(medium):
                # Each is looked through to its end, and refused there if it is not what it was.
                pass
        document = archive.document
        streams = {m["id"]: m.get("stream", 0) for m in document.get("media", [])}
        with transaction.atomic():
            rows = {
                held.id: take(
                    account,
                    held.name,
                    archive.bytes_of(held),
                    document["sample_rate"],
                    streams.get(held.id, 0),
                )
                for held in archive.media
            }
            if not document.get("name"):
                document = {**document, "name": Path(name).stem}
            return create_reel(account, with_media(document, rows))


def take_archive(account: User, upload: Upload) -> UUID:
    """The same, for what has come as an upload; the file is taken away."""
    try:
        return open_archive(account, upload.name, upload.path).pk
    except Refused as error:
        said = f"“{upload.name}” cannot be opened: {error.message}"
        raise Refused(said, error.where) from None
    finally:
        upload.path.unlink(missing_ok=True)
