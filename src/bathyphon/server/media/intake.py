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
from bathyphon.server.media.models import Blob, Media


def take_upload(account: User, upload: UploadedFile[Any], rate: int) -> Media:
    """Store an uploaded file and ask for its preparation.

    Raises
    ------
    Refused
        If it is empty or too large.
    """
    largest = settings.BATHYPHON_LARGEST_UPLOAD
    if upload.size is not None and upload.size > largest:
        raise Refused(f"“{upload.name}” is larger than {largest / 2**30:.0f} GB, the limit here")
    if not upload.size:
        raise Refused(f"“{upload.name}” is empty")
    return take(account, Path(upload.name or "file").name, upload.chunks(2**20), rate)


def take(account: User, name: str, chunks: Iterable[bytes], rate: int) -> Media:
    """Store a file's bytes under their hash and make a row for the account."""
    from bathyphon.server.media.tasks import prepare_media

    folder = Path(settings.DATA) / "blobs"
    folder.mkdir(parents=True, exist_ok=True)
    digest, size = hashlib.sha256(), 0
    handle, partial = tempfile.mkstemp(dir=folder, prefix="incoming-")
    try:
        with os.fdopen(handle, "wb") as file:
            for chunk in chunks:
                file.write(chunk)
                digest.update(chunk)
                size += len(chunk)
            file.flush()
            os.fsync(file.fileno())
        with transaction.atomic():
            blob, _ = Blob.objects.get_or_create(digest=digest.hexdigest(), defaults={"size": size})
            if not blob.path.exists():
                blob.path.parent.mkdir(parents=True, exist_ok=True)
                shutil.move(partial, blob.path)
            media = Media.objects.create(
                account=account, blob=blob, name=name.replace("\0", "")[-400:], rate=rate
            )
            prepare_media.defer(media=str(media.pk))
    finally:
        Path(partial).unlink(missing_ok=True)
    return media
