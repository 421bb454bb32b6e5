"""What all commands share."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict

from bathyphon.core.clock import Clock
from bathyphon.core.edits.find import Path, at
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.effects import EFFECTS
from bathyphon.core.reel import Document, Reel

Part = dict[str, Any]


class EditCommand(BaseModel):
    """A command: immutable, refusing unknown fields."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)

    def plan(self, document: Document, reel: Reel) -> Patch:
        """The forward patch for a document that has been read."""
        return self.patch(document, reel.clock)

    def patch(self, document: Document, clock: Clock) -> Patch:
        """The same where the document alone is needed."""
        raise NotImplementedError

    def title(self, document: Document) -> str:
        """What the history calls it, said of the document before the edit."""
        raise NotImplementedError


def set_values(document: Document, path: Path, values: Part) -> Patch:
    """Patch that sets keys of a part, leaving out those that have the value already."""
    target = at(document, path)
    return [
        {"op": "replace" if k in target else "add", "path": pointer(*path, k), "value": v}
        for k, v in values.items()
        if k not in target or target[k] != v
    ]


def append_to(document: Document, path: Path, key: str, value: Any) -> Patch:
    """Patch that appends to a list, making the list if need be."""
    target = at(document, path)
    make: Patch = []
    if key not in target:
        make = [{"op": "add", "path": pointer(*path, key), "value": []}]
    here = len(target.get(key, []))
    return [*make, {"op": "add", "path": pointer(*path, key, here), "value": value}]


def given_values(command: EditCommand) -> Part:
    """The fields that a command was given, apart from those that address."""
    values = command.model_dump(exclude_none=True)
    return {k: v for k, v in values.items() if k not in ("kind", "id", "owner")}


def words_of(values: Part) -> str:
    """Names of values, as the history says them."""
    names = {"gain_db": "the level", "source_start": "the sound inside"}
    return " and ".join(names.get(k, k.replace("_", " ")) for k in values) or "nothing"


def name_of(document: Document, path: Path) -> str:
    """What a part is called."""
    part = at(document, path)
    return str(part.get("name") or part.get("id"))


def names_of(document: Document, paths: list[Path], word: str) -> str:
    """What a part is called, or how many there are."""
    return name_of(document, paths[0]) if len(paths) == 1 else f"{len(paths)} {word}"


def label_of(effect: Part) -> str:
    """What an effect is called."""
    known = EFFECTS.get(str(effect.get("kind")))
    return known.label if known else str(effect.get("kind"))
