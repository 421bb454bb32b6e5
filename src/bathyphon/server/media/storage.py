"""Where the bytes of media lie: Django's storage API over a folder or an S3-compatible store."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

from django.conf import settings
from django.core.files.base import File
from django.core.files.storage import FileSystemStorage, Storage, storages

from bathyphon.server.media.models import Blob


def blob_storage() -> Storage:
    """The store that the settings choose; a folder of the data folder by default."""
    if "blobs" in settings.STORAGES:
        return storages["blobs"]
    return FileSystemStorage(location=Path(settings.DATA) / "blobs")


def keep(blob: Blob, file: Path) -> None:
    """Put a blob's bytes into the store, unless they are there; takes the file away."""
    storage = blob_storage()
    if not storage.exists(blob.name):
        if isinstance(storage, FileSystemStorage):
            target = Path(storage.path(blob.name))
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.move(file, target)
        else:
            with file.open("rb") as source:
                storage.save(blob.name, File(source))
    file.unlink(missing_ok=True)


def local_file(blob: Blob) -> Path:
    """A blob's bytes as a file of this machine, fetched from the store if need be."""
    storage = blob_storage()
    if isinstance(storage, FileSystemStorage):
        return Path(storage.path(blob.name))
    target = Path(settings.DATA) / "fetched" / blob.name
    if not target.exists():
        target.parent.mkdir(parents=True, exist_ok=True)
        partial = target.with_suffix(f".{os.getpid()}.part")
        with storage.open(blob.name) as source, partial.open("wb") as out:
            shutil.copyfileobj(source, out, 2**20)
        partial.replace(target)
    return target
