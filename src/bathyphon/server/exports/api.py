"""Exports over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema
from ninja.responses import Status

from bathyphon.core.errors import Refused
from bathyphon.core.reel.chains import used_media
from bathyphon.core.reel.model import Reel as ReelDocument
from bathyphon.server.current import account_of
from bathyphon.server.exports.models import Export
from bathyphon.server.exports.tasks import frame_bytes, run_export, update
from bathyphon.server.media.models import Media, known_ids
from bathyphon.server.media.queue import turn
from bathyphon.server.media.quota import refuse_over_limit
from bathyphon.server.reels.head import head_of
from bathyphon.server.reels.models import Reel

router = Router(tags=["exports"])
MOST_OPEN = 50


class ExportLine(Schema):
    """One export."""

    id: UUID
    reel_id: UUID
    revision: int
    treated: bool
    bits: str
    state: str
    progress: float
    error: str
    name: str
    asked: datetime


class NewExport(Schema):
    """What to render."""

    bits: Literal["16", "24", "32f"] = "24"
    treated: bool = True
    name: str = Field("", max_length=120)
    start: int = Field(0, ge=0, le=2**47)
    stop: int | None = Field(None, ge=0, le=2**47)


@router.get("reels/{uuid:id}/exports", response=list[ExportLine])
def list_exports(request: HttpRequest, id: UUID) -> Any:
    """A reel's exports, the newest first."""
    reel = get_object_or_404(Reel.visible_to(account_of(request)), pk=id)
    return Export.visible_to(account_of(request)).filter(reel=reel).order_by("-asked")[:50]


@router.post("reels/{uuid:id}/exports", response={201: ExportLine})
def new_export(request: HttpRequest, id: UUID, data: NewExport) -> Any:
    """Render the reel as it is now, as a job."""
    account = account_of(request)
    reel = get_object_or_404(Reel.visible_to(account), pk=id)
    if data.stop is not None and data.stop <= data.start:
        raise Refused("the range ends before it begins", "stop")
    refuse_unprepared(account, head_of(reel.pk, reel.revision).reel)
    with transaction.atomic():
        size = _size(reel, head_of(reel.pk, reel.revision).reel.sample_rate, data)
        refuse_over_limit(account, "The export", size)
        open_ones = Export.objects.filter(account=account, state__in=Export.OPEN).count()
        if open_ones >= MOST_OPEN:
            raise Refused(f"{MOST_OPEN} exports are under way already; wait or cancel some first")
        export = Export.objects.create(
            reel=reel,
            account=account,
            revision=reel.revision,
            treated=data.treated,
            bits=data.bits,
            start=data.start,
            stop=data.stop,
            size=size,
            name=_own_name(reel, data),
        )
        run_export.configure(priority=turn(open_ones)).defer(export=str(export.pk))
    return Status(201, export)


def _size(reel: Reel, rate: int, data: NewExport) -> int:
    """Bytes of the file, as far as is known before it is rendered."""
    end = round((reel.seconds or 0) * rate)
    stop = end if data.stop is None else min(data.stop, end) if end else data.stop
    return max(0, stop - data.start) * frame_bytes(data.bits)


def _own_name(reel: Reel, data: NewExport) -> str:
    """What the file is called: as was asked for, or as the reel is; numbered if there is one."""
    given = "".join(c for c in data.name if c.isprintable() and c not in '/\\:*?"<>|').strip(" .")
    base = given.removesuffix(".wav") or f"{reel.name}{'' if data.treated else ' untreated'}"
    taken = set(Export.objects.filter(reel=reel).values_list("name", flat=True))
    number = 1
    while (name := f"{base}{f' {number}' if number > 1 else ''}.wav") in taken:
        number += 1
    return name


def refuse_unprepared(account: User, reel: ReelDocument) -> None:
    """Refuse a render that would lack sound which is only not prepared yet."""
    rows = Media.visible_to(account).filter(
        pk__in=known_ids(used_media(reel)), state__in=Media.OPEN
    )
    first = rows.order_by("created").first()
    if first is not None:
        raise Refused(f"“{first.name}” is still being prepared; export when it is ready")
    # What reads sound takes a while to import: not before something is exported.
    from bathyphon.server.sound.media import PreparedMedia

    converting = PreparedMedia(account, reel).converting
    if converting:
        raise Refused(
            f"“{converting[0].name}” is still being converted to {reel.sample_rate} Hz; "
            "export when that is done"
        )


@router.post("exports/{uuid:id}/cancel", response=ExportLine)
def cancel_export(request: HttpRequest, id: UUID) -> Any:
    """Stop a render that is queued or running."""
    export = get_object_or_404(Export.visible_to(account_of(request)), pk=id)
    changed = Export.objects.filter(pk=export.pk, state__in=Export.OPEN)
    if changed.update(state=Export.CANCELLED):
        export.refresh_from_db()
        update(export)
    return export
