"""What sounds at a place of a reel, looked at beside those who play it."""

from __future__ import annotations

from threading import Lock
from typing import Any
from uuid import UUID

from cachetools import LRUCache

from bathyphon.core.analysis.kind import Settings
from bathyphon.core.analysis.kinds import KINDS
from bathyphon.core.analysis.spot import Side, Spot, spot_of
from bathyphon.core.analysis.tiles import STEPS, Tiles
from bathyphon.server.listening.judging import survey_for
from bathyphon.server.reels.head import Head
from bathyphon.server.sound.engine import COMPUTED_BY, engine_of
from bathyphon.server.sound.media import PreparedMedia

MOST_SPOTS = 32

_spots: LRUCache[tuple[Any, ...], Spot] = LRUCache(MOST_SPOTS)
_lock = Lock()


def spot_in(reel: UUID, head: Head, media: PreparedMedia, of: str, side: Side) -> Spot:
    """A place of a reel as it is; those that were looked at last are kept."""
    name = (reel, head.revision, *(media.digest(m.id) for m in head.reel.media))
    with _lock:
        found = _spots.get((*name, of, side))
        if found is None:
            survey = _spots.get((*name, "mix", "after"))
            known = survey.survey if survey else survey_for(reel, head, media, lambda: True)
            _spots[(*name, "mix", "after")] = spot_of(known, "mix")
            found = _spots[(*name, of, side)] = spot_of(known, of, side)
        return found


def tiles_of(
    reel: UUID,
    head: Head,
    media: PreparedMedia,
    of: str,
    side: Side,
    kind: str,
    settings: Settings,
) -> Tiles:
    """Tiles of a place; what is known of its seconds is shared with everybody."""
    kept = engine_of(reel, head.reel.sample_rate).columns
    return Tiles(spot_in(reel, head, media, of, side), KINDS[kind], settings, kept)


def name_of(tiles: Tiles, step: int, index: int) -> str:
    """Of what a tile shows, and of what has made it."""
    return f"{COMPUTED_BY}-{tiles.name(STEPS[step], index)}"
