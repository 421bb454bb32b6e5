"""What a track carries: speech, music or a bed."""

from __future__ import annotations

import threading
from math import gcd

import numpy as np
from cachetools import LRUCache
from scipy.signal import resample_poly

from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.material import MATERIALS, RATE, Likely, Material, likely
from bathyphon.core.reel.model import Track

SPEECH, MUSIC, BED = MATERIALS
LONGEST_SECONDS = 60
"""So much of a track is listened to, spread over its clips."""
LEAST_SURE = 0.5
_known: LRUCache[tuple[object, ...], Likely | None] = LRUCache(1000)
_lock = threading.Lock()


def material_of(survey: Survey, track: Track) -> Material:
    """What a track carries, as it was said or as it sounds; a bed where nothing can be told."""
    if track.material:
        return track.material
    found = heard_material(survey, track)
    return found.material if found and found.sure >= LEAST_SURE else BED


def heard_material(survey: Survey, track: Track) -> Likely | None:
    """What a track's recordings sound like; None of what is too short or silent.

    The same stretches of the same recordings are listened to once.
    """
    stretches = _stretches(survey, track)
    key = (
        survey.rate,
        *((survey.media.digest(media), start, stop) for media, start, stop in stretches),
    )
    with _lock:
        if key in _known:
            return _known[key]
    parts = []
    for media, start, stop in stretches:
        parts.append(survey.media.read(media, start, stop).mean(axis=0, dtype=np.float64))
    whole = np.concatenate([np.zeros(0), *parts])
    found = None
    if whole.any():
        common = gcd(RATE, survey.rate)
        found = likely(resample_poly(whole, RATE // common, survey.rate // common))
    with _lock:
        _known[key] = found
    return found


def _stretches(survey: Survey, track: Track) -> list[tuple[str, int, int]]:
    """Stretches of media that a track plays, each once, together at most so many seconds."""
    found: dict[tuple[str, int, int], None] = {}
    for clip in track.clips:
        if clip.enabled:
            start = max(0, clip.source_start)
            stop = min(survey.media.length(clip.media), clip.source_start + clip.length)
            if stop > start:
                found[clip.media, start, stop] = None
    most = LONGEST_SECONDS * survey.rate
    total = sum(stop - start for _, start, stop in found)
    if total <= most:
        return list(found)
    # Of each its share, from its middle, and of very many every so many.
    share = most / total
    shares = [
        (media, start + int((stop - start) * (1 - share) / 2), int((stop - start) * share))
        for media, start, stop in found
    ]
    return [(media, start, start + n) for media, start, n in shares if n > 0]
