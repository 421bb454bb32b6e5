"""Commands on the reel's media."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.command import EditCommand, Part, append_to, set_values
from bathyphon.core.edits.find import Path, at, clip_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.edits.spans import BEAT_LEAD_SECONDS
from bathyphon.core.edits.uses import uses_of_media
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

BEAT_FADE_SECONDS = 0.005


class AddMedium(EditCommand):
    """List a medium, so that clips can refer to it."""

    kind: Literal["add_medium"]
    medium: Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        return append_to(document, (), "media", self.medium)

    def title(self, document: Document) -> str:
        return f"bring in {self.medium.get('path', 'a file')}"


class RelinkMedium(EditCommand):
    """Put another file in the place of one; clips, treatments and keyframes stay as they are."""

    kind: Literal["relink_medium"]
    id: str
    to: str
    path: str = Field(max_length=2000)

    def patch(self, document: Document, clock: Clock) -> Patch:
        here = medium_path(document, self.id)
        others = [m["id"] for m in document.get("media", []) if m["id"] != self.id]
        patch: Patch = []
        if self.to in others:
            patch.append({"op": "remove", "path": pointer(*here)})
        else:
            patch += set_values(document, here, {"id": self.to, "path": self.path})
            if "place" in at(document, here):
                patch.append({"op": "remove", "path": pointer(*here, "place")})
        return patch + [
            {"op": "replace", "path": pointer(*path), "value": self.to}
            for path in uses_of_media(document)
            if at(document, path) == self.id
        ]

    def title(self, document: Document) -> str:
        medium = at(document, medium_path(document, self.id))
        old = medium.get("path", "a file")
        if medium.get("place"):
            return f"put {self.path} in the place of {old}"
        return f"replace {old} by {self.path}"


class SetBeats(EditCommand):
    """Count a medium's beats twice or half as fast, or shift them."""

    kind: Literal["set_beats"]
    id: str
    factor: float | None = None
    shift: int | None = Field(None, ge=-(2**40), le=2**40)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = medium_path(document, self.id)
        old = at(document, path).get("beats", {})
        given = {k: getattr(self, k) for k in ("factor", "shift") if getattr(self, k) is not None}
        return set_values(document, path, {"beats": {**old, **given}})

    def title(self, document: Document) -> str:
        return "count the beats otherwise" if self.factor is not None else "shift the beats"


class EndBeforeBeat(EditCommand):
    """End a clip just before a beat, so that its attack is not heard."""

    kind: Literal["end_before_beat"]
    clip: str
    beat: int = Field(ge=0, le=2**47)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = clip_path(document, self.clip)
        clip = at(document, path)
        length = self.beat - round(BEAT_LEAD_SECONDS * clock.sample_rate) - clip["start"]
        if not length > 0:
            raise Refused("the beat lies before the clip's start", "beat")
        fade = min(round(BEAT_FADE_SECONDS * clock.sample_rate), length)
        head = clip.get("fade_in", {})
        values: Part = {
            "length": length,
            # Nobody has drawn it: it gives way to a crossfade.
            "fade_out": {"length": fade, "shape": "smooth", "gives_way": True},
        }
        if head.get("length", 0) > length - fade:
            values["fade_in"] = {**head, "length": length - fade}
        return set_values(document, path, values)

    def title(self, document: Document) -> str:
        return "end a clip before the beat"


def medium_path(document: Document, id: str) -> Path:
    """Path of a medium."""
    for i, medium in enumerate(document.get("media", [])):
        if medium.get("id") == id:
            return ("media", i)
    raise Refused(f"there is no medium “{id}” in this reel", "medium")
