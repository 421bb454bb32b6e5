"""Sound that belongs to the picture: by how much it is out, and whether the eye notices.

A clip is tied to the picture if it plays a file that the picture shows, or if it has been tied by
hand (``tie``: its ``start`` less its ``source_start`` while it is in sync).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from bathyphon.core.reel.model import Clip, Reel
from bathyphon.core.reel.places import ClipPlaces

# Sound before and behind the picture, in ms: where it is noticed, and where it is unacceptable
# (ITU-R BT.1359-1, from memory).
NOTICED = (45.0, 125.0)
DISTURBS = (90.0, 185.0)

Eye = Literal["in sync", "unnoticed", "noticed", "disturbing"]


@dataclass(frozen=True)
class Offset:
    """How far a clip is from where it belongs, where it is farthest.

    ``samples`` and ``frames`` are positive where the sound is late; ``begins`` and ``ends`` are the
    frames at its start and its end, which differ where it plays at another speed.
    """

    samples: int
    frames: float
    ms: float
    eye: Eye
    begins: float
    ends: float


def ties_of(reel: Reel) -> dict[str, list[int]]:
    """Where each file that the picture shows has its first sample, once for every use of it."""
    ties: dict[str, list[int]] = {}
    for part in reel.picture.clips:
        ties.setdefault(part.media, []).append(part.start - part.source_start)
    return ties


def offset_of(clip: Clip, ties: dict[str, list[int]], sample_rate: int) -> int | None:
    """Samples by which a clip's sound is late against its picture where it begins.

    ``None`` if it is not tied.
    """
    own = [clip.tie] if clip.tie is not None else ties.get(clip.media, [])
    here = clip.start - clip.source_start
    if not clip.speed.at_own_speed:
        here = clip.start - ClipPlaces(clip, sample_rate).begins()
    return min((here - tie for tie in own), key=abs, default=None)


def drift_of(clip: Clip, sample_rate: int) -> int:
    """Samples by which a clip's sound is later at its end than at its start, for its speed."""
    if clip.speed.at_own_speed:
        return 0
    return clip.length - ClipPlaces(clip, sample_rate).covers()


def eye_of(ms: float) -> Eye:
    """What the eye makes of sound that is so many milliseconds late, or early if below zero.

    Examples
    --------
    >>> eye_of(130.0)
    'noticed'
    """
    side = 0 if ms < 0 else 1
    if ms == 0:
        return "in sync"
    if abs(ms) < NOTICED[side]:
        return "unnoticed"
    return "noticed" if abs(ms) <= DISTURBS[side] else "disturbing"


def offsets(reel: Reel) -> dict[str, dict[str, Any]]:
    """The offsets of all tied clips by their ids, as plain data."""
    found = {}
    ties = ties_of(reel)
    for track in reel.tracks:
        for clip in track.clips:
            begins = offset_of(clip, ties, reel.sample_rate)
            if begins is None:
                continue
            ends = begins + drift_of(clip, reel.sample_rate)
            samples = max(begins, ends, key=abs)
            ms = 1000.0 * samples / reel.sample_rate

            def frames(n: int) -> float:
                return round(float(n * reel.rate / reel.sample_rate), 2)

            found[clip.id] = vars(
                Offset(
                    samples, frames(samples), round(ms, 1), eye_of(ms), frames(begins), frames(ends)
                )
            )
    return found
