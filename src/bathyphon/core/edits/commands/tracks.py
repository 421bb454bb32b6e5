"""Commands on tracks and clips."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.command import (
    EditCommand,
    Part,
    append_to,
    given_values,
    name_of,
    set_values,
    words_of,
)
from bathyphon.core.edits.find import at, track_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock


class AddTrack(EditCommand):
    """Add a track at the bottom."""

    kind: Literal["add_track"]
    track: Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        return append_to(document, (), "tracks", {"clips": [], "treatments": [], **self.track})

    def title(self, document: Document) -> str:
        return f"add track {self.track.get('name', '')}".strip()


class SetTrack(EditCommand):
    """Change a track's name, gain, pan, mute or solo, what it carries, or how it is drawn."""

    kind: Literal["set_track"]
    id: str
    name: str | None = None
    gain_db: float | Part | None = None
    pan: float | Part | None = None
    mute: bool | None = None
    solo: bool | None = None
    height: Literal["low", "middle", "high"] | None = None
    folded: bool | None = None
    material: Literal["", "speech", "music", "bed"] | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        return set_values(document, track_path(document, self.id), given_values(self))

    def title(self, document: Document) -> str:
        name = name_of(document, track_path(document, self.id))
        return f"set {words_of(given_values(self))} of {name}"


class MoveTrack(EditCommand):
    """Move a track above or below others."""

    kind: Literal["move_track"]
    id: str
    index: int = Field(ge=0)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = track_path(document, self.id)
        tracks = document["tracks"]
        return [
            {"op": "remove", "path": pointer(*path)},
            {
                "op": "add",
                "path": pointer("tracks", min(self.index, len(tracks) - 1)),
                "value": at(document, path),
            },
        ]

    def title(self, document: Document) -> str:
        return f"move track {name_of(document, track_path(document, self.id))}"


class RemoveTrack(EditCommand):
    """Remove a track and all it holds."""

    kind: Literal["remove_track"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*track_path(document, self.id))}]

    def title(self, document: Document) -> str:
        return f"remove track {name_of(document, track_path(document, self.id))}"
