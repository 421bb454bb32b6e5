"""Taking files in: bytes to a blob, a row for the account, a job to prepare it."""

from __future__ import annotations

import hashlib
import os
import shutil
import tempfile
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction

from bathyphon.core.errors import Refused
from bathyphon.formats.names import plain_name
from bathyphon.server.media.models import Blob, Media
from bathyphon.server.media.queue import media_turn
from bathyphon.server.media.quota import in_words, refuse_over_limit
from bathyphon.server.media.storage import keep


def take_upload(account: User, upload: UploadedFile[Any], rate: int) -> Media:
    """Store an uploaded file and ask for its preparation.

    Raises
    ------
    Refused
        If it is empty or too large.
    """
    refuse_size(account, upload.name or "the file", upload.size or 0)
    return take(account, upload.name or "file", upload.chunks(2**20), rate)


def refuse_size(account: User, name: str, size: int) -> None:
    """Refuse a file that is empty, or larger than the file, the account or the disk allows."""
    if size <= 0:
        raise Refused(f"“{name}” is empty")
    largest = settings.BATHYPHON_LARGEST_UPLOAD
    if size > largest:
        raise Refused(f"“{name}” is larger than {in_words(largest)}, the limit here")
    with transaction.atomic():
        refuse_over_limit(account, name, size)
    folder = Path(settings.DATA)
    folder.mkdir(parents=True, exist_ok=True)
    if shutil.disk_usage(folder).free < 2 * size:
        raise Refused(f"there is not enough room on the server's disk for “{name}”")


def take(account: User, name: str, chunks: Iterable[bytes], rate: int, stream: int = 0) -> Media:
    """Store a file's bytes under their hash and make a row for the account."""
    folder = Path(settings.DATA) / "uploads"
    folder.mkdir(parents=True, exist_ok=True)
    handle, partial = tempfile.mkstemp(dir=folder, prefix="incoming-")
    try:
        with os.fdopen(handle, "wb") as file:
            for chunk in chunks:
                file.write(chunk)
        return adopt(account, name, Path(partial), rate, stream)
    finally:
        Path(partial).unlink(missing_ok=True)


def adopt(account: User, name: str, file: Path, rate: int, stream: int = 0) -> Media:
    """Make a complete file the account's medium and ask for its preparation."""
    from bathyphon.server.media.tasks import prepare_media

    with file.open("rb") as source:
        os.fsync(source.fileno())
        digest = hashlib.file_digest(source, "sha256").hexdigest()
    size = file.stat().st_size
    with transaction.atomic():
        priority = media_turn(account)
        blob, _ = Blob.objects.get_or_create(digest=digest, defaults={"size": size})
        keep(blob, file)
        media = Media.objects.create(
            account=account, blob=blob, name=plain_name(name), rate=rate, stream=stream
        )
        prepare_media.configure(priority=priority).defer(media=str(media.pk))
    return media
