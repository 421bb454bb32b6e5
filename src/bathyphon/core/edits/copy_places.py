"""The places that a copy goes to: clips, shots of a kind, markers of a kind."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from bathyphon.core.edits.command import Part
from bathyphon.core.edits.find import at, clip_path, track_path
from bathyphon.core.edits.here import Stretch, cuts_of, end_of
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

Mark = Literal["note", "action", "sound", "music", "problem"]


class Marked(BaseModel):
    """Markers with a label, of a kind (which is their colour), or both."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
    label: str | None = None
    mark: Mark | None = None


class Places(BaseModel):
    """Exactly one of these.

    Parameters
    ----------
    clips : list of str, optional
        These clips.
    track : str, optional
        All clips of a track.
    shots : str, optional
        Shots with this name.
    marked : Marked, optional
        Shots in which such a marker lies.
    markers : Marked, optional
        The markers themselves.
    """

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
    clips: list[str] | None = Field(None, min_length=1, max_length=1500)
    track: str | None = None
    shots: str | None = None
    marked: Marked | None = None
    markers: Marked | None = None


def spans_of(document: Document, clock: Clock, to: Places, track: Part) -> list[Stretch]:
    """Where a treatment goes whose own track is ``track``, if not over clips: shots as they are
    cut, markers as moments (a stretch of no length)."""
    if to.markers is not None:
        return [Stretch(m, m) for m in _marked(document, to.markers)]
    return _shots(document, clock, to)


def clips_of(document: Document, clock: Clock, to: Places, track: Part) -> list[str]:
    """Ids of the clips that are meant; under shots and markers those of ``track``.

    A clip is under shots if no less than half of it is, and under a marker if that lies in it.
    """
    if to.clips is not None:
        for id in to.clips:
            clip_path(document, id)
        return list(dict.fromkeys(to.clips))
    if to.track is not None:
        return [clip["id"] for clip in at(document, track_path(document, to.track))["clips"]]
    clips = track.get("clips", [])
    if to.markers is not None:
        moments = _marked(document, to.markers)
        return [c["id"] for c in clips if any(0 <= m - c["start"] < c["length"] for m in moments)]
    shots = _shots(document, clock, to)
    return [c["id"] for c in clips if 2 * _under(c, shots) >= c["length"]]


def over_clips(to: Places) -> bool:
    """Whether clips are named, rather than places under the picture."""
    if sum(part is not None for part in to.__dict__.values()) != 1:
        raise Refused("say one kind of place to copy to", "to")
    return to.clips is not None or to.track is not None


def _under(clip: Part, shots: list[Stretch]) -> int:
    """Samples of a clip that lie under some shots."""
    start, end = clip["start"], clip["start"] + clip["length"]
    return sum(max(0, min(end, shot.end) - max(start, shot.start)) for shot in shots)


def _shots(document: Document, clock: Clock, to: Places) -> list[Stretch]:
    bounds = [clock.sample_of_frame(frame) for frame in sorted({0, *cuts_of(document)})]
    ends = [*bounds[1:], max(end_of(document), bounds[-1])]
    every = [Stretch(a, b) for a, b in zip(bounds, ends, strict=True) if b > a]
    if to.marked is not None:
        moments = _marked(document, to.marked)
        return [shot for shot in every if any(shot.start <= m < shot.end for m in moments)]
    named = {
        clock.sample_of_frame(shot["frame"])
        for shot in document.get("picture", {}).get("shots", [])
        if shot.get("name", "") == to.shots
    }
    return [shot for shot in every if shot.start in named]


def _marked(document: Document, which: Marked) -> list[int]:
    """Moments of such markers, each once, in order."""
    return sorted({
        marker["at"]
        for marker in document.get("markers", [])
        if which.label in (None, marker.get("label", ""))
        and which.mark in (None, marker.get("kind", "note"))
    })  # fmt: skip
