"""Rendering, as a job."""

from __future__ import annotations

import logging
import time
from pathlib import Path
from shutil import disk_usage
from uuid import UUID

from django.db import transaction
from procrastinate import JobContext
from procrastinate.contrib.django import app

from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.server.away import DATABASE_AWAY
from bathyphon.server.exports.models import Export
from bathyphon.server.jobs import LATER, lost, set_aside
from bathyphon.server.notify import tell
from bathyphon.server.reels.head import load

log = logging.getLogger(__name__)
LOOK_SECONDS = 0.25
LONGEST_HOURS = 24
LONGEST_WORK_HOURS = 6.0
"""What takes longer keeps all others waiting."""
SPARE_BYTES = 2**28
"""What is left to others on the disk."""
BROKEN = "the render broke off; the server’s log says why"
SET_ASIDE = "rendering it crashed the worker three times, so it was set aside"


@app.task(name="run_export", queue="exports", pass_context=True, retry=LATER)
def run_export(context: JobContext, export: str) -> None:
    """Render a reel at the revision it had when asked for."""
    row = Export.objects.select_related("account", "reel").filter(pk=UUID(export)).first()
    if row is None or row.state not in Export.OPEN:
        return
    if set_aside(context):
        row.state, row.error = Export.FAILED, SET_ASIDE
        update(row, "state", "error")
        return
    row.state = Export.RUNNING
    update(row, "state")
    stopping = False

    def wanted() -> bool:
        nonlocal stopping
        stopping = context.should_abort()
        return not stopping and _state(row) == Export.RUNNING

    try:
        finished = _render(row, wanted)
    except DATABASE_AWAY:
        raise
    except Refused as error:
        row.state, row.error = Export.FAILED, str(error)[:500]
    except OSError as error:
        row.state, row.error = Export.FAILED, f"the file cannot be written ({error.strerror})"
    except Exception:
        # Whatever happens, an export ends: nobody waits for one that is not worked on.
        log.exception("an export broke off")
        row.state, row.error = Export.FAILED, BROKEN
    else:
        if stopping:
            # The worker is going down, nobody has cancelled: another one shall do it.
            row.state, row.progress = Export.QUEUED, 0.0
            run_export.defer(export=export)
        elif finished:
            row.state, row.progress = Export.DONE, 1.0
        else:
            row.state = Export.CANCELLED
    update(row, "state", "error", "progress")


@app.periodic(cron="* * * * *")
@app.task(name="take_up_lost_exports", queue="exports")
def take_up_lost_exports(timestamp: int) -> None:
    """Take up exports that are waited for, and for which no job is left."""
    waited_for = Export.objects.filter(state__in=Export.OPEN)
    for export in lost("run_export", "export", waited_for, since="asked"):
        run_export.defer(export=export)


def _render(row: Export, wanted: object) -> bool:
    from bathyphon.core.engine.graph import build_graph
    from bathyphon.core.engine.render import render
    from bathyphon.core.engine.runner import Superseded
    from bathyphon.formats.wav import SoundWriter
    from bathyphon.server.sound.media import PreparedMedia

    reel = read_reel(load(row.reel_id, row.revision))
    media = PreparedMedia(row.account, reel)
    graph = build_graph(reel, media, row.treated)
    row.path.parent.mkdir(parents=True, exist_ok=True)
    if graph.length == 0:
        raise Refused("the reel is empty: there is nothing to render")
    stop = graph.length if row.stop is None else min(row.stop, graph.length)
    if row.start >= stop:
        raise Refused("nothing sounds in this range: the reel ends before it")
    samples = stop - row.start
    refuse_too_long(samples, reel.sample_rate, row.bits, row.path.parent)
    row.size = samples * frame_bytes(row.bits)
    row.save(update_fields=["size"])
    looked, began = 0.0, time.monotonic()
    go_on = True

    def still_wanted() -> bool:
        nonlocal looked, go_on
        now = time.monotonic()
        if now - looked > LOOK_SECONDS:
            looked = now
            if now - began > 3600 * LONGEST_WORK_HOURS:
                raise Refused(
                    f"after {LONGEST_WORK_HOURS:g} hours {100 * row.progress:.0f} % were rendered, "
                    "and no export may take longer: export it in ranges"
                )
            go_on = bool(wanted())  # type: ignore[operator]
            update(row, "progress")
        return go_on

    try:
        with SoundWriter(row.path, reel.sample_rate, row.bits, samples) as writer:  # type: ignore[arg-type]
            for part in render(graph, media, row.start, stop, wanted=still_wanted):
                writer.write(part.mix)
                row.progress = (part.start + part.mix.shape[1] - row.start) / samples
    except Superseded:
        return False
    return True


def refuse_too_long(samples: int, rate: int, bits: str, folder: Path) -> None:
    """Refuse what would run for ever, or fill the disk.

    Raises
    ------
    Refused
        With what would be possible.
    """
    hours = samples / rate / 3600
    if hours > LONGEST_HOURS:
        raise Refused(
            f"this would be {hours:,.0f} hours long, and an export holds {LONGEST_HOURS} at most: "
            "look for a clip that lies far behind the others, or export a range"
        )
    needed = samples * frame_bytes(bits)
    free = disk_usage(folder).free - SPARE_BYTES
    if needed > free:
        raise Refused(
            f"the file would take {needed / 1e9:.1f} GB, and the server’s disk has "
            f"{max(0.0, free / 1e9):.1f} GB to spare"
        )


def frame_bytes(bits: str) -> int:
    """What one sample of both sides takes in the file."""
    return 2 * int(bits.rstrip("f")) // 8


def _state(row: Export) -> str:
    return Export.objects.values_list("state", flat=True).get(pk=row.pk)


def update(row: Export, *fields: str) -> None:
    """Save what has changed and tell open windows."""
    with transaction.atomic():
        if fields:
            row.save(update_fields=fields)
        tell(row.account_id, "export", export=str(row.pk), reel=str(row.reel_id))
