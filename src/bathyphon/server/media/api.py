"""Media over HTTP."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import File, Router, Schema
from ninja.files import UploadedFile
from ninja.responses import Status

from bathyphon.core.errors import Refused
from bathyphon.server.current import account_of
from bathyphon.server.media.intake import take_upload
from bathyphon.server.media.models import Media
from bathyphon.server.media.tasks import prepare_media

router = Router(tags=["media"])


class SoundInfo(Schema):
    """The sound of a medium, lengths at the reel's rate."""

    samples: int
    rate: int
    source_rate: int
    channels: int
    starts: int
    not_finite: int


class StripInfo(Schema):
    """Where small frames lie in the strip's picture; one for ``every`` so many frames."""

    width: int
    height: int
    columns: int
    count: int
    every: int


class PictureInfo(Schema):
    """The picture of a medium."""

    width: int
    height: int
    rate: str
    frames: int
    strip: StripInfo


class MediaInfo(Schema):
    """What a medium holds."""

    seconds: float = 0.0
    sound: SoundInfo | None = None
    picture: PictureInfo | None = None


class MediaLine(Schema):
    """A medium of the account."""

    id: UUID
    name: str
    rate: int
    state: str
    progress: float
    error: str
    info: MediaInfo


@router.get("", response=list[MediaLine])
def list_media(request: HttpRequest) -> Any:
    """All media of the account."""
    return Media.visible_to(account_of(request)).order_by("created")


@router.post("", response={201: MediaLine})
def upload(request: HttpRequest, file: File[UploadedFile], rate: int = 48000) -> Any:
    """Bring in a file; a job prepares it."""
    if not 8000 <= rate <= 192000:
        raise Refused("the rate must lie between 8000 and 192000", "rate")
    return Status(201, take_upload(account_of(request), file, rate))


@router.get("{uuid:id}", response=MediaLine)
def get_media(request: HttpRequest, id: UUID) -> Any:
    """One medium."""
    return get_object_or_404(Media.visible_to(account_of(request)), pk=id)


@router.post("{uuid:id}/retry", response=MediaLine)
def retry(request: HttpRequest, id: UUID) -> Any:
    """Prepare a medium again that could not be."""
    media = get_object_or_404(Media.visible_to(account_of(request)), pk=id)
    if media.state == Media.FAILED:
        with transaction.atomic():
            media.state, media.error = Media.WAITING, ""
            media.save(update_fields=["state", "error"])
            prepare_media.defer(media=str(media.pk))
    return media


@router.delete("{uuid:id}", response={204: None})
def trash_media(request: HttpRequest, id: UUID) -> Any:
    """Put a medium into the trash, where it stays for 30 days."""
    media = get_object_or_404(Media.visible_to(account_of(request)), pk=id)
    media.trashed = timezone.now()
    media.save(update_fields=["trashed"])
    return Status(204, None)
