"""Commands on how a reel is judged: thresholds, and findings that were dismissed."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.command import EditCommand
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Id
from bathyphon.core.timing.clock import Clock


class SetThreshold(EditCommand):
    """Set a number that findings go by; ``reset`` takes it back to what it was at first."""

    kind: Literal["set_threshold"]
    id: Id
    value: float | None = Field(None, ge=-1000, le=100000)
    reset: bool = False

    def patch(self, document: Document, clock: Clock) -> Patch:
        make = _make(document, "thresholds", {})
        there = self.id in document.get("listening", {}).get("thresholds", {})
        place = pointer("listening", "thresholds", self.id)
        if self.reset:
            return [{"op": "remove", "path": place}] if there else []
        step = "replace" if there else "add"
        return [*make, {"op": step, "path": place, "value": self.value}]

    def title(self, document: Document) -> str:
        return f"{'reset' if self.reset else 'set'} a threshold of the findings"


class DismissFinding(EditCommand):
    """Say with a word why a finding is as it should be; it stays dismissed."""

    kind: Literal["dismiss_finding"]
    finding: Id
    word: str = Field("", max_length=400)

    def patch(self, document: Document, clock: Clock) -> Patch:
        place = _place(document, self.finding)
        entry = {"finding": self.finding, "word": self.word}
        if place is not None:
            return [{"op": "replace", "path": pointer(*_WHERE, place), "value": entry}]
        here = len(document.get("listening", {}).get("dismissed", []))
        return [
            *_make(document, "dismissed", []),
            {"op": "add", "path": pointer(*_WHERE, here), "value": entry},
        ]

    def title(self, document: Document) -> str:
        return f"dismiss a finding: {self.word}" if self.word else "dismiss a finding"


class RecallFinding(EditCommand):
    """Take back that a finding was dismissed."""

    kind: Literal["recall_finding"]
    finding: Id

    def patch(self, document: Document, clock: Clock) -> Patch:
        place = _place(document, self.finding)
        if place is None:
            raise Refused("this finding was not dismissed", "finding")
        return [{"op": "remove", "path": pointer(*_WHERE, place)}]

    def title(self, document: Document) -> str:
        return "take a finding up again"


_WHERE = ("listening", "dismissed")


def _place(document: Document, finding: str) -> int | None:
    entries = document.get("listening", {}).get("dismissed", [])
    return next((i for i, e in enumerate(entries) if e["finding"] == finding), None)


def _make(document: Document, key: str, empty: object) -> Patch:
    """Patch that makes what may be missing."""
    listening = document.get("listening")
    if listening is None:
        return [{"op": "add", "path": pointer("listening"), "value": {key: empty}}]
    if key not in listening:
        return [{"op": "add", "path": pointer("listening", key), "value": empty}]
    return []
