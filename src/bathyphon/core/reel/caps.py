"""How much a reel holds at most: far more than films need, and no more than can be worked with.

Somebody's slip, a hundred thousand copies of a clip, is refused as it is made, while all that was
done before it stands.
"""

from __future__ import annotations

from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Chain, Reel

MOST_MEDIA = 5_000
MOST_TRACKS = 500
MOST_CLIPS = 20_000
MOST_TREATMENTS = 20_000
MOST_MARKERS = 20_000
MOST_CUTS = 50_000
MOST_POSES = 500
MOST_RECIPES = 2_000
MOST_EFFECTS = 64
"""In one chain."""
MOST_KEPT = 32
"""Other settings that are kept of one chain."""
MOST_KEYFRAMES = 20_000
"""Of one value."""


def check_caps(reel: Reel) -> None:
    """Refuse a reel that holds more than can be worked with.

    Raises
    ------
    Refused
        With what it would hold, and how much it may.
    """
    picture = reel.picture
    for what, where, count, most in (
        ("media", "media", len(reel.media), MOST_MEDIA),
        ("tracks", "tracks", len(reel.tracks), MOST_TRACKS),
        ("clips", "tracks", sum(len(t.clips) for t in reel.tracks), MOST_CLIPS),
        ("treatments", "tracks", sum(len(t.treatments) for t in reel.tracks), MOST_TREATMENTS),
        ("markers", "markers", len(reel.markers), MOST_MARKERS),
        ("poses", "poses", len(reel.poses), MOST_POSES),
        ("recipes", "made", len(reel.made), MOST_RECIPES),
        ("cuts", "picture.cuts", len(picture.cuts) + len(picture.not_cuts), MOST_CUTS),
        ("picture clips", "picture.clips", len(picture.clips), MOST_CLIPS),
        ("shots", "picture.shots", len(picture.shots), MOST_CUTS),
        ("dismissed findings", "listening.dismissed", len(reel.listening.dismissed), MOST_MARKERS),
    ):
        if count > most:
            raise _too_many("a reel", most, what, count, where)


def check_chain_caps(chain: Chain, where: str) -> None:
    """Refuse a chain with more effects, keyframes or kept settings than can be worked with."""
    if len(chain.effects) > MOST_EFFECTS:
        raise _too_many("a chain", MOST_EFFECTS, "effects", len(chain.effects), f"{where}.effects")
    if len(chain.kept) > MOST_KEPT:
        raise _too_many("a chain", MOST_KEPT, "kept settings", len(chain.kept), f"{where}.kept")
    for i, kept in enumerate(chain.kept):
        if len(kept.effects) > MOST_EFFECTS:
            at = f"{where}.kept.{i}.effects"
            raise _too_many("a chain", MOST_EFFECTS, "effects", len(kept.effects), at)


def check_keyframe_cap(keyframes: Any, where: str) -> None:
    """Refuse a value that has more keyframes than can be worked with."""
    if len(keyframes) > MOST_KEYFRAMES:
        raise _too_many("a lane", MOST_KEYFRAMES, "keyframes", len(keyframes), where)


def _too_many(holder: str, most: int, what: str, count: int, where: str) -> Refused:
    return Refused(f"{holder} holds {most:,} {what} at most; this would be {count:,}", where)
