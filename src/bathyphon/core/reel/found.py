"""Beats and cuts of media as they fall in a reel."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.measure.found import Cut, Stretch
from bathyphon.core.reel.model import Clip, Reel
from bathyphon.core.reel.places import ClipPlaces
from bathyphon.core.timing.clock import Clock

MOST_BEATS = 20_000


def counted(stretches: tuple[Stretch, ...], factor: float, shift: int) -> NDArray[np.int64]:
    """Beats counted ``factor`` times as fast and shifted, in samples of the medium, rising."""
    parts = []
    for stretch in stretches:
        period = stretch.period / factor
        count = max(1, round(stretch.count * factor))
        parts.append(stretch.first + shift + period * np.arange(count))
    both = np.concatenate(parts) if parts else np.zeros(0)
    return np.unique(np.rint(both).astype(np.int64))


def beats_in_reel(reel: Reel, grids: Mapping[str, tuple[Stretch, ...]]) -> dict[str, list[int]]:
    """Beats under each clip, in samples of the reel.

    Parameters
    ----------
    reel : Reel
    grids : mapping
        Stretches of constant tempo of each medium that has a steady beat, by its id.
    """
    choices = {m.id: m.beats for m in reel.media}
    out: dict[str, list[int]] = {}
    for track in reel.tracks:
        for clip in track.clips:
            stretches = grids.get(clip.media)
            if not stretches or not clip.enabled:
                continue
            choice = choices[clip.media]
            beats = counted(stretches, choice.factor, choice.shift)
            inside = places_in_reel(clip, beats, reel.sample_rate)
            out[clip.id] = [int(b) for b in inside[:MOST_BEATS]]
    return out


def places_in_reel(clip: Clip, places: NDArray[np.int64], sample_rate: int) -> NDArray[np.int64]:
    """Samples of the reel at which places of a clip's medium are heard, those that are."""
    at = np.rint(ClipPlaces(clip, sample_rate).when(places.astype(float))).astype(np.int64)
    return at[(at >= 0) & (at < clip.length)] + clip.start


def cuts_in_reel(reel: Reel, found: Mapping[str, tuple[Clock, Sequence[Cut]]]) -> list[Cut]:
    """Cuts of the picture's files as frames of the reel; where two files meet there is one too.

    Parameters
    ----------
    reel : Reel
    found : mapping
        For each picture file its own clock and its cuts, by the medium's id.
    """
    cuts: dict[int, Cut] = {}
    for i, clip in enumerate(reel.picture.clips):
        first = reel.clock.frame_of_sample(clip.start)
        if i and first not in cuts:
            cuts[first] = Cut(first)
        if clip.media not in found:
            continue
        clock, own = found[clip.media]
        for cut in own:
            at = clock.sample_of_frame(cut.frame) - clip.source_start + clip.start
            if clip.start < at < clip.start + clip.length:
                frame = _nearest_frame(reel.clock, at)
                length = round(cut.length * reel.clock.frame_rate / clock.frame_rate)
                cuts[frame] = Cut(frame, length, cut.kind)
    return [cuts[frame] for frame in sorted(cuts) if frame > 0]


def _nearest_frame(clock: Clock, sample: int) -> int:
    frame = clock.frame_of_sample(sample)
    here, following = clock.sample_of_frame(frame), clock.sample_of_frame(frame + 1)
    return frame if sample - here <= following - sample else frame + 1
