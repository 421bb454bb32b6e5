"""Sound that belongs to the picture: by how much it is out, and whether the eye notices.

A clip is tied to the picture if it plays a file that the picture shows, or if it has been tied by
hand (``tie``: its ``start`` less its ``source_start`` while it is in sync).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from bathyphon.core.reel import Clip, Reel

# Sound before and behind the picture, in ms: where it is noticed, and where it is unacceptable
# (ITU-R BT.1359-1, from memory).
NOTICED = (45.0, 125.0)
DISTURBS = (90.0, 185.0)

Eye = Literal["in sync", "unnoticed", "noticed", "disturbing"]


@dataclass(frozen=True)
class Offset:
    """How far a clip is from where it belongs.

    ``samples`` and ``frames`` are positive where the sound is late.
    """

    samples: int
    frames: float
    ms: float
    eye: Eye


def offset_of(reel: Reel, clip: Clip) -> int | None:
    """Samples by which a clip's sound is late against its picture; ``None`` if it is not tied."""
    here = clip.start - clip.source_start
    if clip.tie is not None:
        return here - clip.tie
    places = [
        here - (part.start - part.source_start)
        for part in reel.picture.clips
        if part.media == clip.media
    ]
    return min(places, key=abs, default=None)


def eye_of(ms: float) -> Eye:
    """What the eye makes of sound that is so many milliseconds late, or early if below zero."""
    side = 0 if ms < 0 else 1
    if ms == 0:
        return "in sync"
    if abs(ms) < NOTICED[side]:
        return "unnoticed"
    return "noticed" if abs(ms) <= DISTURBS[side] else "disturbing"


def offsets(reel: Reel) -> dict[str, dict[str, Any]]:
    """The offsets of all tied clips by their ids, as plain data."""
    found = {}
    for track in reel.tracks:
        for clip in track.clips:
            samples = offset_of(reel, clip)
            if samples is None:
                continue
            ms = 1000.0 * samples / reel.sample_rate
            frames = round(float(samples * reel.rate / reel.sample_rate), 2)
            found[clip.id] = vars(Offset(samples, frames, round(ms, 1), eye_of(ms)))
    return found
