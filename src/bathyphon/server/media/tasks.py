"""Preparing media, as jobs."""

from __future__ import annotations

import json
import logging
import os
import select
import subprocess
import time
from collections.abc import Callable, Iterator
from contextlib import suppress
from uuid import UUID

from django.conf import settings
from django.db import transaction
from procrastinate import JobContext
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

from bathyphon.formats.confined.room import start, why_not
from bathyphon.formats.names import PREPARED
from bathyphon.server.away import DATABASE_AWAY
from bathyphon.server.jobs import LATER, lost, set_aside
from bathyphon.server.media.models import Media, Upload
from bathyphon.server.media.signals import media_ready
from bathyphon.server.media.storage import local_file
from bathyphon.server.notify import tell

log = logging.getLogger(__name__)
BROKEN = "it could not be prepared; the server’s log says why"
SET_ASIDE = "preparing it crashed the worker three times, so it was set aside"
UNSAFE = "nothing is decoded on this server, because it could not be kept from the rest of it: {}"
MOST_THREADS = 512
LONGEST_LINE = 2**24
STALLED_SECONDS = 30
SHOW_SECONDS = 0.3
WAKE_SECONDS = 0.5
MOST_SOUNDS = 16
MOST_ANEW = 20
KEPT_HOURS = 72
LEFT_DAYS = 7


class Interrupted(Exception):
    """The worker is being stopped."""


class Cancelled(Exception):
    """Its owner no longer wants it."""


@app.task(name="prepare_media", queue="media", pass_context=True, retry=LATER)
def prepare_media(context: JobContext, media: str) -> None:
    """Decode, conform, measure and draw one file."""
    row = Media.objects.select_related("blob").filter(pk=UUID(media)).first()
    if row is None or row.state in (Media.READY, Media.CANCELLED):
        return
    if set_aside(context):
        _update(row, state=Media.FAILED, error=SET_ASIDE)
        return
    _update(row, state=Media.PREPARING, progress=0.0, error="")

    def go_on() -> None:
        if context.should_abort():
            raise Interrupted
        if Media.objects.filter(pk=row.pk, state=Media.CANCELLED).exists():
            raise Cancelled

    try:
        info = prepare(row, go_on)
    except Cancelled:
        return
    except Interrupted:
        # The worker is going down, nobody has cancelled: another one shall do it.
        _update(row, state=Media.WAITING, progress=0.0)
        prepare_media.defer(media=media)
        return
    except DATABASE_AWAY:
        raise
    except Exception:
        # Whatever happens, it ends: nobody waits for a file that is not worked on.
        log.exception("a file could not be prepared")
        info = {"error": BROKEN}
    if "error" in info:
        _update(row, state=Media.FAILED, error=str(info["error"])[:500])
    else:
        _update(row, state=Media.READY, progress=1.0, info=info)
        bring_in_other_sounds(row)
        media_ready.send(Media, media=row)


def bring_in_other_sounds(row: Media) -> None:
    """A file with several sounds becomes a medium for each, once."""
    count = row.info.get("sounds", 0)
    if row.stream != 0 or count < 2:
        return
    for stream in range(1, min(count, MOST_SOUNDS)):
        made, new = Media.objects.get_or_create(
            account=row.account,
            blob=row.blob,
            rate=row.rate,
            stream=stream,
            defaults={
                "name": f"{row.name[:380]} · sound {stream + 1}",
                **{key: getattr(row, key) for key in ("own", "listed", "folder", "words")},
            },
        )
        if new:
            prepare_media.defer(media=str(made.pk))


@app.task(name="conform_medium", queue="media", pass_context=True, retry=LATER)
def conform_medium(context: JobContext, media: str, rate: int) -> None:
    """Conform a sound to the rate of a reel that it is heard in."""
    row = Media.objects.select_related("blob").filter(pk=UUID(media)).first()
    if row is None or row.sound_at(rate).is_file() or set_aside(context):
        return

    def go_on() -> None:
        if context.should_abort():
            raise Interrupted

    try:
        prepare(row, go_on, rate)
    except Interrupted:
        conform_later(row, rate)
    _update(row)


def conform_later(row: Media, rate: int) -> None:
    """Have a sound conformed to another rate, unless that is waited for already."""
    lock = f"conform-{row.blob_id}-{row.stream}-{rate}"
    with suppress(AlreadyEnqueued), transaction.atomic():
        conform_medium.configure(queueing_lock=lock).defer(media=str(row.pk), rate=rate)


@app.task(name="find_cuts_again", queue="media")
def find_cuts_again(media: str, sensitivity: float) -> None:
    """Find a picture's cuts anew with another sensitivity."""
    from bathyphon.formats.picture import found_cuts

    row = Media.objects.select_related("blob").filter(pk=UUID(media)).first()
    seen = row.blob.prepared / "small.u8" if row else None
    if row is None or seen is None or not seen.is_file() or "picture" not in row.info:
        return
    picture = row.info["picture"]
    num, den = (int(x) for x in picture["rate"].split("/"))
    cuts = found_cuts(seen, num / den, sensitivity)
    picture |= {"cuts": cuts, "sensitivity": sensitivity}
    _update(row, info={**row.info, "picture": picture})


def prepare(
    row: Media, go_on: Callable[[], None] = lambda: None, other_rate: int = 0
) -> dict[str, object]:
    """Run the limited process that decodes; returns what it found, or ``{"error": sentence}``.

    ``go_on`` is called at least each half second; the process ends with what it raises. With
    ``other_rate`` the sound alone is conformed, to that rate.
    """
    lacking = why_not()
    if lacking:
        return {"error": UNSAFE.format(lacking)}
    arguments = [
        str(other_rate or row.rate),
        row.name,
        "--memory",
        str(settings.BATHYPHON_DECODE_MEMORY),
        "--file-size",
        str(settings.BATHYPHON_PREPARED_FILE),
        "--seconds",
        str(settings.BATHYPHON_DECODE_SECONDS),
        "--threads",
        str(MOST_THREADS),
        "--stream",
        str(row.stream),
        *(["--sound-only"] if other_rate else []),
    ]
    deadline = time.monotonic() + settings.BATHYPHON_DECODE_SECONDS
    process = start("bathyphon.formats.prepare", local_file(row.blob), row.blob.prepared, arguments)
    last: dict[str, object] = {"error": f"“{row.name}” cannot be read: its decoder failed"}
    shown = 0.0
    try:
        for line in _told(process):
            if line is not None:
                last = json.loads(line)
                if "so_far" in last:
                    _update(row, info=last["so_far"])
                if other_rate:
                    continue
            if time.monotonic() - shown < SHOW_SECONDS:
                continue
            shown = time.monotonic()
            go_on()
            if isinstance(done := last.get("progress"), float):
                _update(row, progress=done)
            if shown > deadline:
                return {"error": f"“{row.name}” takes too long to decode"}
        process.wait(timeout=30)
    finally:
        if process.poll() is None:
            process.kill()
            process.wait()
    if "progress" in last:
        return {"error": f"“{row.name}” cannot be read to its end"}
    return last


def _told(process: subprocess.Popen[bytes]) -> Iterator[bytes | None]:
    """Lines of its output as they come; None each half second in which none has."""
    assert process.stdout
    handle = process.stdout.fileno()
    held = b""
    while True:
        ready, _, _ = select.select([handle], [], [], WAKE_SECONDS)
        if not ready:
            yield None
            continue
        data = os.read(handle, 65536)
        if not data:
            return
        *lines, held = (held + data).split(b"\n")
        if len(held) > LONGEST_LINE:
            return
        yield from lines


@app.periodic(cron="* * * * * */20")
@app.task(name="retry_stalled", queue="media", pass_context=True)
async def retry_stalled(context: JobContext, timestamp: int) -> None:
    """Take up jobs whose worker was killed."""
    manager = context.app.job_manager
    for job in await manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_SECONDS):
        await manager.retry_job(job)


@app.periodic(cron="* * * * *")
@app.task(name="take_up_lost", queue="media")
def take_up_lost(timestamp: int) -> None:
    """Take up media that are waited for, and for which no job is left."""
    waited_for = Media.objects.filter(state__in=Media.OPEN)
    for media in lost("prepare_media", "media", waited_for, since="created"):
        prepare_media.defer(media=media)


@app.periodic(cron="17 4 * * *")
@app.task(name="forget_old_jobs", queue="media", pass_context=True)
async def forget_old_jobs(context: JobContext, timestamp: int) -> None:
    """Remove the rows of jobs that ended days ago."""
    await context.app.job_manager.delete_old_jobs(
        nb_hours=KEPT_HOURS, include_failed=True, include_cancelled=True, include_aborted=True
    )


@app.periodic(cron="41 4 * * *")
@app.task(name="forget_left_uploads", queue="media")
def forget_left_uploads(timestamp: int) -> None:
    """Give up uploads that nobody has gone on with for days: their room is promised meanwhile."""
    oldest = time.time() - LEFT_DAYS * 24 * 3600
    for row in Upload.objects.filter(media=None, made=None):
        try:
            changed = row.path.stat().st_mtime
        except OSError:
            changed = row.created.timestamp()
        if changed < oldest:
            row.path.unlink(missing_ok=True)
            row.delete()


@app.periodic(cron="* * * * *")
@app.task(name="prepare_anew", queue="media")
def prepare_anew(timestamp: int) -> None:
    """Prepare again what an older version of the program has prepared."""
    old = Media.objects.filter(state=Media.READY).exclude(info__prepared=PREPARED)
    for row in old.order_by("created")[:MOST_ANEW]:
        with transaction.atomic():
            row.state = Media.WAITING
            row.save(update_fields=["state"])
            prepare_media.defer(media=str(row.pk))


def _update(row: Media, **values: object) -> None:
    with transaction.atomic():
        for key, value in values.items():
            setattr(row, key, value)
        row.save(update_fields=list(values))
        tell(
            row.account_id,
            "media",
            media=str(row.pk),
            state=row.state,
            progress=row.progress,
        )
