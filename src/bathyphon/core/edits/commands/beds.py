"""Laying a bed from cut to cut."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.beds import CROSSING, ends_again, fades_at, free, margin, neighbours
from bathyphon.core.edits.clip_speed import shortened
from bathyphon.core.edits.command import (
    EditCommand,
    Part,
    append_to,
    name_of,
    names_of,
    set_values,
)
from bathyphon.core.edits.commands.laying import SoundOf, called
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.find import Path, at, clip_path, track_path
from bathyphon.core.edits.patch import Patch, apply_patch, pointer
from bathyphon.core.edits.spans import Moment
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.timing.clock import Clock

Id = Field(min_length=1, max_length=64)
TRACK_NAME = "Beds"


class LayBed(EditCommand):
    """Lay a sound from one moment to another, with fades as long as the treatments' ramps there.

    Where another bed ends or begins at the cut, both cross with constant power. It is laid on
    ``track``, else on the first track of beds that is free there, else on a new one.

    Parameters
    ----------
    media, path : str
        The medium, and what it is called if the reel does not have it yet.
    sound : SoundOf
        How long it is.
    clip, new_track : str
        Ids for what may have to be made.
    start, end : Moment
    duck_under : str, optional
        Track under which the track of the bed is to duck.
    duck : str
        Id for that effect.
    """

    kind: Literal["lay_bed"]
    media: str = Id
    path: str = Field(max_length=2000)
    sound: SoundOf
    clip: str = Id
    start: Moment
    end: Moment
    gain_db: float = Field(0.0, ge=-96, le=24)
    track: str | None = None
    new_track: str = Id
    duck_under: str | None = None
    duck: str = Field("duck", min_length=1, max_length=64)

    def plan(self, document: Document, reel: Reel) -> Patch:
        clock = reel.clock
        first, last = self.start.of(clock), self.end.of(clock)
        if last <= first:
            raise Refused("a bed must end after it starts", "end")
        samples, _ = self.sound.at(reel.sample_rate)
        if samples < last - first:
            raise Refused("the sound is shorter than the stretch; ask for a longer one", "sound")
        patch: Patch = []
        if all(medium.id != self.media for medium in reel.media):
            patch += append_to(document, (), "media", {"id": self.media, "path": self.path})
        place = self._place(document, first, last)
        if place is None:
            track = {"id": self.new_track, "name": TRACK_NAME, "material": "bed", "clips": [],
                     "treatments": []}  # fmt: skip
            patch += append_to(document, (), "tracks", track)
            place = ("tracks", len(document.get("tracks", [])))
        document, _ = apply_patch(document, patch)
        steps = self._laid(document, reel, place, first, last, samples)
        steps = with_crossfades(document, steps, {place})
        if self.duck_under is not None:
            steps += ducked(document, place, self.duck_under, self.duck)
        return patch + steps

    def _place(self, document: Document, first: int, last: int) -> Path | None:
        if self.track is not None:
            return track_path(document, self.track)
        for index, track in enumerate(document.get("tracks", [])):
            if track.get("clips") and free(track["clips"], first, last):
                return ("tracks", index)
        return None

    def _laid(
        self, document: Document, reel: Reel, place: Path, first: int, last: int, samples: int
    ) -> Patch:
        clips = document["tracks"][place[1]].get("clips", [])
        head, foot = fades_at(document, first, last, reel.clock)
        before, after = neighbours(clips, first, last)
        steps: Patch = []
        length = last - first
        if after is not None:
            length += min(clips[after].get("fade_in", {}).get("length", 0), samples - length)
        if before is not None:
            # The one before goes on under the beginning of this one.
            old = clips[before]
            steps += set_values(
                document, (*place, "clips", before), {"length": first + head - old["start"]}
            )
        clip: Part = {
            "id": self.clip, "media": self.media, "name": called(self.path), "bed": True,
            "start": first, "length": length,
            "source_start": margin(samples, length, reel.sample_rate),
            "fade_in": {"length": head, "shape": "equal_power", **CROSSING},
            "fade_out": {"length": foot, "shape": "equal_power", **CROSSING},
        }  # fmt: skip
        if self.gain_db:
            clip["gain_db"] = self.gain_db
        return steps + append_to(document, place, "clips", clip)

    def title(self, document: Document) -> str:
        return f"lay {called(self.path)} as a bed"


class RemoveBeds(EditCommand):
    """Remove beds, and the track that was made for them if nothing is left on it.

    A bed that went on under the beginning of one of them ends at its cut again.
    """

    kind: Literal["remove_beds"]
    ids: list[str] = Field(min_length=1, max_length=300)

    def patch(self, document: Document, clock: Clock) -> Patch:
        steps: Patch = []
        tracks = {clip_path(document, id)[:2] for id in self.ids}
        for path in sorted(tracks, reverse=True):
            track = at(document, path)
            left = self._left(track["clips"])
            treated = track.get("treatments") or track.get("treatment", {}).get("effects")
            if not left and not treated:
                steps.append({"op": "remove", "path": pointer(*path)})
                continue
            removed = [{"op": "replace", "path": pointer(*path, "clips"), "value": left}]
            steps += with_crossfades(document, removed, {path})
        return steps

    def _left(self, clips: list[Part]) -> list[Part]:
        kept = list(clips)
        for bed in clips:
            again = ends_again(clips, bed) if bed["id"] in self.ids else None
            if again is not None:
                place, length = again
                kept[place] = shortened(clips[place], length)
        return [clip for clip in kept if clip["id"] not in self.ids]

    def title(self, document: Document) -> str:
        return f"remove {names_of(document, [clip_path(document, id) for id in self.ids], 'beds')}"


class DuckTrack(EditCommand):
    """Let a whole track give way to another, most often to voices."""

    kind: Literal["duck_track"]
    track: str
    under: str
    id: str = Id

    def patch(self, document: Document, clock: Clock) -> Patch:
        return ducked(document, track_path(document, self.track), self.under, self.id)

    def title(self, document: Document) -> str:
        track, under = (track_path(document, id) for id in (self.track, self.under))
        return f"duck {name_of(document, track)} under {name_of(document, under)}"


def ducked(document: Document, place: Path, under: str, id: str) -> Patch:
    """Steps that put a duck on a whole track, unless it has one for that other track."""
    track_path(document, under)
    track = at(document, place)
    if track["id"] == under:
        raise Refused("a track cannot duck under itself", "under")
    chain = track.get("treatment", {"effects": []})
    effects = chain.get("effects", [])
    if any(e["kind"] == "duck" and e.get("params", {}).get("track") == under for e in effects):
        return []
    effect = {"id": id, "kind": "duck", "params": {"track": under}}
    return set_values(document, place, {"treatment": {**chain, "effects": [*effects, effect]}})
