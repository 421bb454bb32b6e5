"""Commands that tie clips to the picture, and bring them back to it."""

from __future__ import annotations

from typing import Literal

from bathyphon.core.edits.clip_speed import place_at_start
from bathyphon.core.edits.command import EditCommand, Part, name_of, names_of, set_many
from bathyphon.core.edits.commands.clips import Ids
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.find import Path, at, clip_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.reel.sync import offset_of, ties_of
from bathyphon.core.timing.clock import Clock


class TieClips(EditCommand):
    """Say that clips are in sync with the picture as they lie, or that they do not belong to it."""

    kind: Literal["tie_clips"]
    ids: Ids
    tied: bool = True

    def patch(self, document: Document, clock: Clock) -> Patch:
        tied: dict[Path, Part] = {}
        free: Patch = []
        for id in self.ids:
            path = clip_path(document, id)
            clip = at(document, path)
            if self.tied:
                tied[path] = {"tie": clip["start"] - place_at_start(clip, clock.sample_rate)}
            elif "tie" in clip:
                free.append({"op": "remove", "path": pointer(*path, "tie")})
        return set_many(document, tied) + free

    def title(self, document: Document) -> str:
        paths = [clip_path(document, id) for id in self.ids]
        return f"{'tie' if self.tied else 'untie'} {names_of(document, paths, 'clips')}"


class SyncClips(EditCommand):
    """Bring clips back to where their sound fits their picture."""

    kind: Literal["sync_clips"]
    ids: Ids

    def plan(self, document: Document, reel: Reel) -> Patch:
        """The forward patch for a document that has been read."""
        clock = reel.clock
        clips = {clip.id: clip for track in reel.tracks for clip in track.clips}
        ties = ties_of(reel)
        moved: dict[Path, Part] = {}
        for id in self.ids:
            path = clip_path(document, id)
            late = offset_of(clips[id], ties, clock.sample_rate)
            if late is None:
                raise Refused(f"{name_of(document, path)} is not tied to the picture", "ids")
            if clips[id].start < late:
                raise Refused("a clip cannot begin before the reel does", "ids")
            moved[path] = {"start": clips[id].start - late}
        return with_crossfades(document, set_many(document, moved), {path[:2] for path in moved})

    def title(self, document: Document) -> str:
        paths = [clip_path(document, id) for id in self.ids]
        return f"bring {names_of(document, paths, 'clips')} back into sync"
