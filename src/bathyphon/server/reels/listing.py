"""What the list of reels shows of each: its length, who changed it, a frame of its picture."""

from __future__ import annotations

from collections.abc import Iterable
from contextlib import suppress
from typing import Any

from django.contrib.auth.models import User
from django.db.models import OuterRef, QuerySet, Subquery

from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Reel as TypedReel
from bathyphon.server.media.models import Media, known_ids
from bathyphon.server.reels.head import head_of
from bathyphon.server.reels.models import JournalEntry, Reel


def shown_of(reel: TypedReel) -> dict[str, Any]:
    """Fields of a reel's row that follow from its document."""
    clips = [clip.end for track in reel.tracks for clip in track.clips]
    pictures = [clip.start + clip.length for clip in reel.picture.clips]
    first = reel.picture.clips[0].media if reel.picture.clips else ""
    return {"seconds": max([0, *clips, *pictures]) / reel.sample_rate, "picture": first}


def lines_of(account: User, reels: QuerySet[Reel]) -> list[dict[str, Any]]:
    """Lines of the list.

    Parameters
    ----------
    account : User
        Whose media the frames come from.
    reels : QuerySet
    """
    last = JournalEntry.objects.filter(reel=OuterRef("pk")).order_by("-revision")
    by = Subquery(last.values("account__username")[:1])
    found = [_known(reel) for reel in reels.annotate(changed_by=by)]
    frames = _frames(account, (reel.picture for reel in found))
    return [
        {
            "id": reel.pk,
            "name": reel.name,
            "revision": reel.revision,
            "changed": reel.changed,
            "trashed": reel.trashed,
            "changed_by": reel.changed_by or "",
            "seconds": reel.seconds or 0.0,
            "frame": frames.get(reel.picture),
        }
        for reel in found
    ]


def _known(reel: Any) -> Any:
    """A reel whose length is known: of one that is older than the list, it is read once."""
    if reel.seconds is None:
        # One that this version cannot read is in the list all the same.
        with suppress(Refused):
            shown = shown_of(head_of(reel.pk, reel.revision).reel)
            Reel.objects.filter(pk=reel.pk).update(**shown)
            reel.seconds, reel.picture = shown["seconds"], shown["picture"]
    return reel


def _frames(account: User, pictures: Iterable[str]) -> dict[str, dict[str, Any]]:
    """The middle frame of each picture, as a place in the strip of its frames."""
    ids = known_ids(set(pictures) - {""})
    frames = {}
    for media in Media.visible_to(account).filter(pk__in=ids):
        strip = (media.info.get("picture") or {}).get("strip")
        if media.state == Media.READY and strip and strip["count"]:
            row, column = divmod(strip["count"] // 2, strip["columns"])
            frames[ids[media.pk]] = {
                "media": media.pk,
                "width": strip["width"],
                "height": strip["height"],
                "x": column * strip["width"],
                "y": row * strip["height"],
            }
    return frames
