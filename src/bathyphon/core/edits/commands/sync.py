"""Commands that tie clips to the picture, and bring them back to it."""

from __future__ import annotations

from typing import Literal

from bathyphon.core.clock import Clock
from bathyphon.core.edits.commands.base import EditCommand, name_of, names_of, set_values
from bathyphon.core.edits.commands.clips import Ids
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.find import at, clip_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.edits.rated import unhurried_start
from bathyphon.core.errors import Refused
from bathyphon.core.reel import Document, Reel
from bathyphon.core.sync import offset_of, ties_of


class TieClips(EditCommand):
    """Say that clips are in sync with the picture as they lie, or that they do not belong to it."""

    kind: Literal["tie_clips"]
    ids: Ids
    tied: bool = True

    def patch(self, document: Document, clock: Clock) -> Patch:
        steps: Patch = []
        for id in self.ids:
            path = clip_path(document, id)
            clip = at(document, path)
            if self.tied:
                tie = clip["start"] - unhurried_start(clip, clock.sample_rate)
                steps += set_values(document, path, {"tie": tie})
            elif "tie" in clip:
                steps.append({"op": "remove", "path": pointer(*path, "tie")})
        return steps

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
        steps: Patch = []
        tracks = set()
        for id in self.ids:
            path = clip_path(document, id)
            late = offset_of(clips[id], ties, clock.sample_rate)
            if late is None:
                raise Refused(f"{name_of(document, path)} is not tied to the picture", "ids")
            if clips[id].start < late:
                raise Refused("a clip cannot begin before the reel does", "ids")
            steps += set_values(document, path, {"start": clips[id].start - late})
            tracks.add(path[:2])
        return with_crossfades(document, steps, tracks)

    def title(self, document: Document) -> str:
        paths = [clip_path(document, id) for id in self.ids]
        return f"bring {names_of(document, paths, 'clips')} back into sync"
