"""Commands on markers."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.command import (
    EditCommand,
    Part,
    append_to,
    given_values,
    set_values,
    words_of,
)
from bathyphon.core.edits.find import Path, at
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

MOST_MARKERS = 5000
Kind = Literal["note", "action", "sound", "music", "problem"]


class NewMarker(EditCommand):
    """A marker to be added."""

    id: str
    at: int = Field(ge=0, le=2**47)
    label: str = Field("", max_length=400)
    kind: Kind = "note"


class AddMarkers(EditCommand):
    """Drop one marker or read in many."""

    kind: Literal["add_markers"]
    markers: list[NewMarker] = Field(min_length=1, max_length=MOST_MARKERS)

    def patch(self, document: Document, clock: Clock) -> Patch:
        patch: Patch = []
        here = len(document.get("markers", []))
        for i, marker in enumerate(self.markers):
            if i == 0:
                patch += append_to(document, (), "markers", marker.model_dump())
            else:
                path = pointer("markers", here + i)
                patch.append({"op": "add", "path": path, "value": marker.model_dump()})
        return patch

    def title(self, document: Document) -> str:
        if len(self.markers) > 1:
            return f"add {len(self.markers)} markers"
        label = self.markers[0].label
        return f"add marker “{label}”" if label else "add a marker"


class SetMarker(EditCommand):
    """Move a marker, or change its label or kind."""

    kind: Literal["set_marker"]
    id: str
    at: int | None = Field(None, ge=0, le=2**47)
    label: str | None = Field(None, max_length=400)
    marker_kind: Kind | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        values: Part = given_values(self)
        if "marker_kind" in values:
            values["kind"] = values.pop("marker_kind")
        return set_values(document, marker_path(document, self.id), values)

    def title(self, document: Document) -> str:
        if self.at is not None:
            return "move a marker"
        return f"set {words_of(given_values(self))} of a marker"


class RemoveMarker(EditCommand):
    """Take a marker away."""

    kind: Literal["remove_marker"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*marker_path(document, self.id))}]

    def title(self, document: Document) -> str:
        label = at(document, marker_path(document, self.id)).get("label")
        return f"remove marker “{label}”" if label else "remove a marker"


def marker_path(document: Document, id: str) -> Path:
    """Path of a marker."""
    for i, marker in enumerate(document.get("markers", [])):
        if marker.get("id") == id:
            return ("markers", i)
    raise Refused("this marker is no longer there; it may have been removed", "marker")
