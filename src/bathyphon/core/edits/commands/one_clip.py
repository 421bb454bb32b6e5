"""Bringing in a clip, and setting what it has."""

from __future__ import annotations

from typing import Literal

from bathyphon.core.edits.command import (
    EditCommand,
    Part,
    append_to,
    given_values,
    name_of,
    set_values,
    words_of,
)
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.find import clip_path, track_path
from bathyphon.core.edits.patch import Patch
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock


class AddClip(EditCommand):
    """Lay a stretch of a medium on a track."""

    kind: Literal["add_clip"]
    track: str
    clip: Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        track = track_path(document, self.track)
        steps = append_to(document, track, "clips", self.clip)
        # What is no whole clip is refused with the place of its fault, not here.
        if isinstance(self.clip.get("start"), int) and isinstance(self.clip.get("length"), int):
            steps = with_crossfades(document, steps, {track})
        return steps

    def title(self, document: Document) -> str:
        return f"add clip {self.clip.get('name', '')}".strip()


class SetClip(EditCommand):
    """Change a clip's place, gain, fades or whether it plays."""

    kind: Literal["set_clip"]
    id: str
    name: str | None = None
    start: int | None = None
    length: int | None = None
    source_start: int | None = None
    gain_db: float | Part | None = None
    fade_in: Part | None = None
    fade_out: Part | None = None
    enabled: bool | None = None
    bed: bool | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        return set_values(document, clip_path(document, self.id), given_values(self))

    def title(self, document: Document) -> str:
        name = name_of(document, clip_path(document, self.id))
        return f"set {words_of(given_values(self))} of {name}"
