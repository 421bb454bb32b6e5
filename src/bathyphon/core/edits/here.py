"""Where one is in a reel, and the stretch that this means: what is selected, else the shot."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from bathyphon.core.edits.find import at, treatment_path
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

OPEN_SECONDS = 30
"""How long a bed is where nothing says where it ends."""


@dataclass(frozen=True)
class Place:
    """The playhead, and what is selected: a range of a track, a clip (and another one besides), or
    a treatment."""

    at: int = 0
    start: int | None = None
    end: int | None = None
    track: str | None = None
    clip: str | None = None
    other: str | None = None
    treatment: str | None = None


@dataclass(frozen=True)
class Stretch:
    """Samples from the first to the one after the last; ``of`` says what it is, for people."""

    start: int
    end: int
    of: str = ""


def cuts_of(document: Document) -> list[int]:
    """Frames of all cuts, in order."""
    return sorted(document.get("picture", {}).get("cuts", []))


def end_of(document: Document) -> int:
    """The sample after the last of picture and clips."""
    shown = document.get("picture", {}).get("clips", [])
    clips: list[Any] = [c for t in document.get("tracks", []) for c in t.get("clips", [])]
    return max((c["start"] + c["length"] for c in (*shown, *clips)), default=0)


def shot_at(document: Document, clock: Clock, sample: int) -> Stretch:
    """From the cut before a moment to the one after it, or to the end of the reel.

    Raises
    ------
    Refused
        Beyond the reel's end.
    """
    frame = clock.frame_of_sample(sample)
    cuts = cuts_of(document)
    start = clock.sample_of_frame(max((c for c in cuts if c <= frame), default=0))
    later = [c for c in cuts if c > frame]
    end = clock.sample_of_frame(later[0]) if later else end_of(document)
    if not start <= sample < end:
        raise Refused("there is nothing at the playhead")
    return Stretch(start, end, "this shot")


def stretch_at(document: Document, clock: Clock, place: Place) -> Stretch:
    """The range or the treatment that is selected, else the shot in which the playhead is."""
    if place.start is not None and place.end is not None and place.end > place.start:
        return Stretch(place.start, place.end, "the range")
    if place.treatment is not None:
        span = at(document, treatment_path(document, place.treatment))
        return Stretch(span["start"], span["start"] + span["length"], "the treatment")
    return shot_at(document, clock, place.at)


def bed_at(document: Document, clock: Clock, place: Place) -> Stretch:
    """Where a bed is laid: the same, and beyond the reel's end half a minute."""
    try:
        return stretch_at(document, clock, place)
    except Refused:
        end = place.at + OPEN_SECONDS * clock.sample_rate
        return Stretch(place.at, end, f"the next {OPEN_SECONDS} seconds")
