"""What follows from a document by computation."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User

from bathyphon.core.engine.graph import Graph, build_graph
from bathyphon.core.reel.model import Reel
from bathyphon.core.reel.speed_facts import speeds
from bathyphon.core.reel.sync import offsets
from bathyphon.server.media.tasks import conform_later
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.media import PreparedMedia


def derived(account: User, head: Head) -> dict[str, Any]:
    """Lengths and tails of a reel, and the media that are not (yet) there."""
    media = PreparedMedia(account, head.reel)
    for row in media.converting:
        conform_later(row, head.reel.sample_rate)
    return derived_with(media, head.reel, build_graph(head.reel, media))


def derived_with(media: PreparedMedia, reel: Reel, graph: Graph) -> dict[str, Any]:
    """The same of a reel whose graph has been built."""
    return {
        "length": graph.length,
        "tails": _some(graph.tails),
        "natural_tails": _some(graph.natural_tails),
        "missing_media": media.missing,
        "converting": [str(row.pk) for row in media.converting],
        "sync": offsets(reel),
        "speeds": speeds([c for t in reel.tracks for c in t.clips], reel.sample_rate),
    }


def _some(tails: dict[str, int]) -> dict[str, int]:
    """Only what rings: of a thousand clips most have no tail."""
    return {where: tail for where, tail in tails.items() if tail}
