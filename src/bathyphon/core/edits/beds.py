"""Beds: sounds laid from cut to cut, that cross into each other at the cuts and stay with them."""

from __future__ import annotations

from collections.abc import Iterator

from bathyphon.core.edits.clip_speed import shortened, window_of
from bathyphon.core.edits.command import Part, set_values
from bathyphon.core.edits.find import Path
from bathyphon.core.edits.patch import Patch
from bathyphon.core.edits.shifts import fitted_fades
from bathyphon.core.edits.spans import RAMP_IN, RAMP_OUT, fitting
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

MOST_MARGIN_S = 30
"""Seconds of a sound that are left before and after a bed, so that it can be drawn out."""
CROSSING = {"law": "equal_power", "gives_way": True}
"""Two beds are two sounds, also where they are of one medium: their powers add to 1."""


def is_bed(clip: Part) -> bool:
    """Whether a clip was laid as a bed."""
    return bool(clip.get("bed"))


def fades_at(document: Document, first: int, last: int, clock: Clock) -> tuple[int, int]:
    """Samples of a bed's fades: as long as the treatments that begin and end at its cuts ramp.

    Parameters
    ----------
    first, last : int
        The cuts, in samples.
    """
    heads, feet = [0], [0]
    for track in document.get("tracks", []):
        for span in track.get("treatments", []):
            if span["start"] == first:
                heads.append(span.get("ramp_in", {}).get("length", 0))
            if span["start"] + span["length"] == last:
                feet.append(span.get("ramp_out", {}).get("length", 0))
    head = max(heads) or clock.move_by_frames(first, RAMP_IN) - first
    foot = max(feet) or last - clock.move_by_frames(last, -RAMP_OUT)
    return fitting(head, foot, last - first)


def margin(samples: int, length: int, sample_rate: int) -> int:
    """Where in a sound of so many samples a bed begins: with as much before it as after."""
    return max(0, min((samples - length) // 2, MOST_MARGIN_S * sample_rate))


def neighbours(clips: list[Part], first: int, last: int) -> tuple[int | None, int | None]:
    """Places of the beds that end where one begins, and begin where it ends."""
    before = after = None
    for place, clip in enumerate(clips):
        if is_bed(clip) and clip["start"] < first and _meets(clips, clip, first):
            before = place
        if is_bed(clip) and clip["start"] == last:
            after = place
    return before, after


def ends_again(clips: list[Part], bed: Part) -> tuple[int, int] | None:
    """What a bed that goes leaves behind: the place of the one that crosses into it, and how long
    that is up to the cut."""
    before, _ = neighbours(clips, bed["start"], bed["start"] + bed["length"])
    return None if before is None else (before, bed["start"] - clips[before]["start"])


def free(clips: list[Part], first: int, last: int) -> bool:
    """Whether a track holds beds alone, none of them within a stretch."""
    for clip in clips:
        end = clip["start"] + clip["length"]
        crosses = clip["start"] < last and end > first
        if not is_bed(clip) or (crosses and not _meets(clips, clip, first)):
            return False
    return True


def _meets(clips: list[Part], clip: Part, cut: int) -> bool:
    """Whether a bed ends at a cut, or crosses there into the one that begins at it."""
    end = clip["start"] + clip["length"]
    return end == cut or (
        end > cut > clip["start"]
        and any(is_bed(other) and other["start"] == cut for other in clips)
        and bool(clip.get("fade_out", {}).get("auto"))
    )


def follow_cut(document: Document, old: int, new: int, clock: Clock) -> tuple[Patch, set[Path]]:
    """Moves what of beds lies at a cut to where the cut goes.

    The sound stays in its place in time: only where it begins or ends to be heard moves. A bed
    that would be left with no length stays as it is.

    Returns
    -------
    patch
        The steps, without crossfades.
    tracks
        Paths of the tracks whose crossfades they touch.
    """
    patch: Patch = []
    touched: set[Path] = set()
    for path, clip, clips in _beds(document):
        start, end = clip["start"], clip["start"] + clip["length"]
        # Whatever a clip carries is trimmed as by hand: keyframes and speed keep their moments.
        if start == old and new < end:
            changed = window_of(clip, new - old, clock.sample_rate)
        elif start < old and _meets(clips, clip, old) and new + (end - old) > start:
            changed = shortened(clip, clip["length"] + new - old)
        else:
            continue
        patch += set_values(document, path, fitted_fades(changed))
        touched.add(path[:2])
    return patch, touched


def _beds(document: Document) -> Iterator[tuple[Path, Part, list[Part]]]:
    for t, track in enumerate(document.get("tracks", [])):
        clips = track.get("clips", [])
        for c, clip in enumerate(clips):
            if is_bed(clip):
                yield ("tracks", t, "clips", c), clip, clips
