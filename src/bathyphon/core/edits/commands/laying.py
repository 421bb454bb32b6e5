"""Commands that lay media into a reel: a file that has come in, or a sound from the shelf."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from bathyphon.core.edits.command import EditCommand, Part, append_to
from bathyphon.core.edits.commands.whole import SetPicture
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.find import track_path
from bathyphon.core.edits.patch import Patch
from bathyphon.core.edits.spans import Moment
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Reel

Id = Field(min_length=1, max_length=64)


class SoundOf(BaseModel):
    """How long a medium's sound is: samples at the rate it is prepared at, and where it starts
    after its picture."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
    samples: int = Field(ge=1, le=2**47)
    rate: int = Field(ge=1, le=10**6)
    starts: int = Field(0, ge=-(2**47), le=2**47)

    def at(self, sample_rate: int) -> tuple[int, int]:
        """Samples and start at a reel's rate; what is converted has as many samples."""
        length = -(-self.samples * sample_rate // self.rate)
        return length, round(self.starts * sample_rate / self.rate)

    def in_reel(self, place: int, sample_rate: int) -> int:
        """A place of the medium at a reel's rate; never before its beginning."""
        return max(0, round(place * sample_rate / self.rate))


class LayFile(EditCommand):
    """Put a file that has come in into the reel: its picture if the reel has none, and its sound on
    a track of its own, in sync with its picture."""

    kind: Literal["lay_file"]
    media: str = Id
    path: str = Field(max_length=2000)
    picture_frames: int | None = Field(None, ge=1, le=2**40)
    sound: SoundOf | None = None
    track: str = Id
    clip: str = Id

    def plan(self, document: Document, reel: Reel) -> Patch:
        steps: Patch = []
        if all(medium.id != self.media for medium in reel.media):
            steps += append_to(document, (), "media", {"id": self.media, "path": self.path})
        is_picture = self.picture_frames is not None and not reel.picture.clips
        if self.picture_frames is not None and is_picture:
            length = reel.clock.sample_of_frame(self.picture_frames)
            seen = {"media": self.media, "start": 0, "length": length, "source_start": 0}
            command = SetPicture(kind="set_picture", clips=[seen])
            steps += command.plan(document, reel)
        if self.sound is not None:
            length, starts = self.sound.at(reel.sample_rate)
            # A sound that begins before the picture loses what nobody could see.
            late, lost = (max(0, starts), max(0, -starts)) if is_picture else (0, 0)
            if length - lost > 0:
                clip = {"id": self.clip, "media": self.media, "name": called(self.path),
                        "start": late,
                        "length": length - lost, "source_start": lost}  # fmt: skip
                name = "Picture sound" if is_picture else _stem(self.path)
                track = {"id": self.track, "name": name, "clips": [clip], "treatments": []}
                steps += append_to(document, (), "tracks", track)
        return steps

    def title(self, document: Document) -> str:
        return f"bring in {self.path}"


class LaySound(EditCommand):
    """Lay a medium of the reel, or a part of it, on a track at a moment, or on a track of its own.

    ``part`` names the samples of the medium, as it is prepared, that are laid.
    """

    kind: Literal["lay_sound"]
    media: str = Id
    sound: SoundOf
    clip: str = Id
    at: Moment
    track: str | None = None
    new_track: str | None = None
    part: tuple[int, int] | None = Field(None, strict=False)
    gain_db: float = Field(0.0, ge=-96, le=24)

    def plan(self, document: Document, reel: Reel) -> Patch:
        medium = next((m for m in reel.media if m.id == self.media), None)
        if medium is None:
            raise Refused("there is no such medium on the shelf", "media")
        if (self.track is None) == (self.new_track is None):
            raise Refused("give either a track or the id of a new one", "track")
        length, _ = self.sound.at(reel.sample_rate)
        first, last = 0, length
        if self.part is not None:
            first, last = (min(self.sound.in_reel(place, reel.sample_rate), length)
                           for place in self.part)  # fmt: skip
        if first >= last:
            raise Refused("the part must end after it begins, within the medium", "part")
        clip: Part = {
            "id": self.clip, "media": self.media, "name": called(medium.path),
            "start": self.at.of(reel.clock), "length": last - first, "source_start": first,
        }  # fmt: skip
        if self.gain_db:
            clip["gain_db"] = self.gain_db
        if self.track is None:
            track = {"id": self.new_track, "name": _stem(medium.path), "clips": [clip],
                     "treatments": []}  # fmt: skip
            return append_to(document, (), "tracks", track)
        place = track_path(document, self.track)
        return with_crossfades(document, append_to(document, place, "clips", clip), {place})

    def title(self, document: Document) -> str:
        return f"lay {_path(document, self.media)}"


class RemoveMedium(EditCommand):
    """Take a medium that nothing uses off the shelf; its file stays with the account."""

    kind: Literal["remove_medium"]
    id: str = Id

    def plan(self, document: Document, reel: Reel) -> Patch:
        index = next((i for i, m in enumerate(reel.media) if m.id == self.id), None)
        if index is None:
            raise Refused("there is no such medium on the shelf", "id")
        # What its document refers to is found by its name, wherever that may stand.
        if any(_mentions(document.get(part), self.id) for part in ("tracks", "picture", "mix")):
            raise Refused("it is in use; remove its clips first", "id")
        return [{"op": "remove", "path": f"/media/{index}"}]

    def title(self, document: Document) -> str:
        return f"remove {_path(document, self.id)}"


def _mentions(part: object, id: str) -> bool:
    if isinstance(part, dict):
        return any(_mentions(value, id) for value in part.values())
    if isinstance(part, list):
        return any(_mentions(value, id) for value in part)
    return part == id


def _path(document: Document, id: str) -> str:
    listed = document.get("media", [])
    return next((str(m.get("path")) for m in listed if m.get("id") == id), "a file")


def called(path: str) -> str:
    """What a medium's clips are called: a computed sound's ending says nothing to anybody."""
    return path.removesuffix(".sound")


def _stem(path: str) -> str:
    """A file's name without its ending."""
    stem, dot, ending = path.rpartition(".")
    return stem if dot and stem and len(ending) <= 5 else path
