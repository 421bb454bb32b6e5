"""Commands on the reel itself: its name, media, picture, cuts and mix."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.clock import Clock
from bathyphon.core.edits.commands.base import (
    EditCommand,
    Part,
    append_to,
    set_values,
)
from bathyphon.core.edits.patch import Patch
from bathyphon.core.errors import Refused
from bathyphon.core.reel import Document


class RenameReel(EditCommand):
    """Give the reel another name."""

    kind: Literal["rename_reel"]
    name: str = Field(min_length=1, max_length=400)

    def patch(self, document: Document, clock: Clock) -> Patch:
        return set_values(document, (), {"name": self.name})

    def title(self, document: Document) -> str:
        return f"rename the reel to “{self.name}”"


class AddMedium(EditCommand):
    """List a medium, so that clips can refer to it."""

    kind: Literal["add_medium"]
    medium: Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        return append_to(document, (), "media", self.medium)

    def title(self, document: Document) -> str:
        return f"bring in {self.medium.get('path', 'a file')}"


class SetPicture(EditCommand):
    """Replace the picture's clips."""

    kind: Literal["set_picture"]
    clips: list[Part]

    def patch(self, document: Document, clock: Clock) -> Patch:
        picture = {**document.get("picture", {}), "clips": self.clips}
        return set_values(document, (), {"picture": picture})

    def title(self, document: Document) -> str:
        return "set the picture"


class AddCut(EditCommand):
    """Mark a cut at a frame."""

    kind: Literal["add_cut"]
    frame: int = Field(ge=1, le=2**40)

    def patch(self, document: Document, clock: Clock) -> Patch:
        cuts = document.get("picture", {}).get("cuts", [])
        if self.frame in cuts:
            raise Refused(f"there is a cut at frame {self.frame} already", "frame")
        return _cuts(document, sorted([*cuts, self.frame]))

    def title(self, document: Document) -> str:
        return "add a cut"


class RemoveCut(EditCommand):
    """Remove the cut at a frame."""

    kind: Literal["remove_cut"]
    frame: int

    def patch(self, document: Document, clock: Clock) -> Patch:
        cuts = document.get("picture", {}).get("cuts", [])
        if self.frame not in cuts:
            raise Refused(f"there is no cut at frame {self.frame}", "frame")
        return _cuts(document, [c for c in cuts if c != self.frame])

    def title(self, document: Document) -> str:
        return "remove a cut"


class SetMix(EditCommand):
    """Change the level of the mix."""

    kind: Literal["set_mix"]
    gain_db: float | Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        if "mix" not in document:
            return [{"op": "add", "path": "/mix", "value": {"gain_db": self.gain_db}}]
        return set_values(document, ("mix",), {"gain_db": self.gain_db})

    def title(self, document: Document) -> str:
        return "set the level of the mix"


def _cuts(document: Document, cuts: list[int]) -> Patch:
    if "picture" not in document:
        return [{"op": "add", "path": "/picture", "value": {"clips": [], "cuts": cuts}}]
    return set_values(document, ("picture",), {"cuts": cuts})
