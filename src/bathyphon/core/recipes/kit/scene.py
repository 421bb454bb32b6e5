"""Where a recipe is to work: the reel, the playhead, and what is selected."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol

from bathyphon.core.arrays import Floats
from bathyphon.core.edits.find import clip_path
from bathyphon.core.edits.here import (
    Place,
    Stretch,
    cuts_of,
    end_of,
    shot_at,
    stretch_at,
)
from bathyphon.core.edits.spans import BEAT_LEAD_SECONDS
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.timing.clock import Clock

Part = dict[str, Any]


class Sounds(Protocol):
    """Makes media of computed sounds."""

    def __call__(
        self, model: str, settings: dict[str, float], seconds: float, name: str, seed: int
    ) -> tuple[str, str, int]:
        """Id and path of the medium, and its samples at the reel's rate."""


@dataclass(frozen=True)
class Scene:
    """A reel, and where in it one is.

    Parameters
    ----------
    document, reel
    place : Place
    sounds : Sounds
    new_id : callable
        Gives an id that nothing has, from a letter.
    hears : callable, optional
        Gives the sound of a clip by its id, with its own effects, shape (2, n); no more than half
        a minute of it.
    beats_of : callable, optional
        Gives the beats of a clip by its id, in samples of the reel.
    """

    document: Document
    reel: Reel
    place: Place
    sounds: Sounds
    new_id: Callable[[str], str]
    hears: Callable[[str], Floats] | None = None
    beats_of: Callable[[str], list[int]] | None = None

    @property
    def clock(self) -> Clock:
        """Samples, frames and timecode."""
        return self.reel.clock

    def tracks(self) -> list[Part]:
        """All tracks, as the document has them."""
        tracks: list[Part] = self.document.get("tracks", [])
        return tracks

    def clip(self) -> tuple[Part, Part]:
        """The clip that is selected, or that lies under the playhead, and its track."""
        if self.place.clip is not None:
            path = clip_path(self.document, self.place.clip)
            track = self.document["tracks"][path[1]]
            return track["clips"][path[3]], track
        wanted = [t for t in self.tracks() if t["id"] == self.place.track] or self.tracks()
        for track in wanted:
            for clip in track.get("clips", []):
                if clip["start"] <= self.place.at < clip["start"] + clip["length"]:
                    return clip, track
        raise Refused("select the clip that it is for, or put the playhead on it")

    def other_clip(self, clip: Part) -> Part:
        """The clip that is selected besides one."""
        if self.place.other is None or self.place.other == clip["id"]:
            raise Refused(
                "select two clips: first the one that it is for, then with Shift the one that it "
                "is to be like"
            )
        path = clip_path(self.document, self.place.other)
        other: Part = self.document["tracks"][path[1]]["clips"][path[3]]
        return other

    def heard(self, clip: str) -> Floats:
        """The sound of a clip."""
        if self.hears is None:
            raise Refused("nothing can be listened to here")
        return self.hears(clip)

    def beats(self, clip: str) -> list[int]:
        """Where a clip that ends there ends just before a beat, whose attack is not heard."""
        lead = round(BEAT_LEAD_SECONDS * self.clock.sample_rate)
        return [beat - lead for beat in (self.beats_of(clip) if self.beats_of else [])]

    def stretch(self) -> Stretch:
        """The range or the treatment that is selected, else the shot in which the playhead is."""
        return stretch_at(self.document, self.clock, self.place)

    def shot(self, at: int) -> Stretch:
        """From the cut before a moment to the one after it, or to the end of the reel."""
        return shot_at(self.document, self.clock, at)

    def cuts(self) -> list[int]:
        """Frames of all cuts, in order."""
        return cuts_of(self.document)

    def end(self) -> int:
        """The sample after the last of picture and clips."""
        return end_of(self.document)

    def markers(self, within: Stretch) -> list[Part]:
        """Markers within a stretch, in order."""
        found = [
            m for m in self.document.get("markers", []) if within.start <= m["at"] < within.end
        ]
        return sorted(found, key=lambda m: m["at"])

    def timecode(self, sample: int) -> str:
        """A moment as people read it."""
        return self.clock.timecode_of_sample(max(0, sample), self.reel.start_timecode)

    def frames(self, samples: int) -> float:
        """How many frames so many samples are."""
        return samples * float(self.clock.frame_rate) / self.clock.sample_rate

    def samples(self, frames: float) -> int:
        """How many samples so many frames are, where it need not be exact."""
        return round(frames * self.clock.sample_rate / float(self.clock.frame_rate))

    def sounding(self, within: Stretch, beds: bool = False) -> list[Part]:
        """Tracks on which anything lies within a stretch, beds aside unless they count."""
        return [
            t
            for t in self.tracks()
            if any(
                c["start"] < within.end and c["start"] + c["length"] > within.start
                for c in t.get("clips", [])
                if beds or not c.get("bed")
            )
        ]
