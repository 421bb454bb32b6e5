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
from bathyphon.server.media.queue import put_first
from bathyphon.server.media.tasks import find_cuts_again, prepare_media
from bathyphon.server.notify import tell

router = Router(tags=["media"])


class SoundInfo(Schema):
    """The sound of a medium, lengths at the reel's rate."""

    samples: int
    rate: int
    source_rate: int
    channels: int
    layout: list[str] = []
    starts: int
    not_finite: int
    loudness: float | None = None
    onsets: int | None = None
    tempo: float | None = None
    steadiness: float | None = None


class StripInfo(Schema):
    """Where small frames lie in the strip's picture; one for ``every`` so many frames."""

    width: int
    height: int
    columns: int
    count: int
    every: int


class FoundCut(Schema):
    """A cut in the picture's own frames; ``length`` counts the frames of a soft one."""

    frame: int
    length: int
    kind: str


class PictureInfo(Schema):
    """The picture of a medium."""

    width: int
    height: int
    rate: str
    frames: int
    strip: StripInfo
    cuts: list[FoundCut] = []
    sensitivity: float = 0.5


class Expected(Schema):
    """What a file says of its picture, before that is prepared."""

    rate: str
    frames: int


class MediaInfo(Schema):
    """What a medium holds."""

    seconds: float = 0.0
    sounds: int = 0
    timecode: str = ""
    time_reference: int = 0
    sound: SoundInfo | None = None
    picture: PictureInfo | None = None
    expected: Expected | None = None


class MediaLine(Schema):
    """A medium of the account."""

    id: UUID
    name: str
    rate: int
    stream: int
    state: str
    progress: float
    error: str
    info: MediaInfo


@router.get("", response=list[MediaLine])
def list_media(request: HttpRequest) -> Any:
    """All media of the account, sounds of its own that no reel uses aside."""
    return Media.visible_to(account_of(request)).filter(listed=True).order_by("created")


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
    """Prepare a medium again that could not be, or whose preparation was cancelled."""
    media = get_object_or_404(Media.visible_to(account_of(request)), pk=id)
    if media.state in (Media.FAILED, Media.CANCELLED):
        with transaction.atomic():
            media.state, media.error = Media.WAITING, ""
            media.save(update_fields=["state", "error"])
            prepare_media.defer(media=str(media.pk))
    return media


@router.post("{uuid:id}/cancel", response=MediaLine)
def cancel(request: HttpRequest, id: UUID) -> Any:
    """Stop preparing a medium; what was ready stays, and it can be prepared again."""
    media = get_object_or_404(Media.visible_to(account_of(request)), pk=id)
    wanted = Media.objects.filter(pk=id, state__in=Media.OPEN)
    with transaction.atomic():
        if wanted.update(state=Media.CANCELLED, progress=0.0):
            tell(media.account_id, "media", media=str(id), state=Media.CANCELLED, progress=0.0)
    media.refresh_from_db()
    return media


class First(Schema):
    """Media whose preparation is waited for, such as what is on the screen."""

    media: list[UUID]


@router.post("first", response={204: None})
def first(request: HttpRequest, data: First) -> Any:
    """Prepare these before the account's others."""
    put_first(account_of(request), data.media)
    return Status(204, None)


class FindCuts(Schema):
    """How much must change for a cut: 0 finds what is beyond doubt, 1 the slightest change."""

    sensitivity: float


@router.post("{uuid:id}/cuts", response={202: MediaLine})
def find_cuts(request: HttpRequest, id: UUID, data: FindCuts) -> Any:
    """Find a picture's cuts again, as a job."""
    media = get_object_or_404(Media.visible_to(account_of(request)), pk=id)
    if not 0.0 <= data.sensitivity <= 1.0:
        raise Refused("the sensitivity must lie between 0 and 1", "sensitivity")
    if "picture" not in media.info:
        raise Refused(f"“{media.name}” has no picture in which cuts could be found")
    find_cuts_again.defer(media=str(media.pk), sensitivity=data.sensitivity)
    return Status(202, media)


@router.delete("{uuid:id}", response={204: None})
def trash_media(request: HttpRequest, id: UUID) -> Any:
    """Put a medium into the trash, where it stays for 30 days."""
    media = get_object_or_404(Media.visible_to(account_of(request)), pk=id)
    media.trashed = timezone.now()
    media.save(update_fields=["trashed"])
    return Status(204, None)
