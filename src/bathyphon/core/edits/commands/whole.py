"""Commands on the reel itself: its name, picture and mix."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.command import EditCommand, Part, set_values
from bathyphon.core.edits.patch import Patch
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

MOST_SHOTS = 5000


class RenameReel(EditCommand):
    """Give the reel another name."""

    kind: Literal["rename_reel"]
    name: str = Field(min_length=1, max_length=400)

    def patch(self, document: Document, clock: Clock) -> Patch:
        return set_values(document, (), {"name": self.name})

    def title(self, document: Document) -> str:
        return f"rename the reel to “{self.name}”"


class SetPicture(EditCommand):
    """Replace the picture's clips."""

    kind: Literal["set_picture"]
    clips: list[Part] = Field(max_length=MOST_SHOTS)

    def patch(self, document: Document, clock: Clock) -> Patch:
        picture = {**document.get("picture", {}), "clips": self.clips}
        return set_values(document, (), {"picture": picture})

    def title(self, document: Document) -> str:
        return "set the picture"


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
