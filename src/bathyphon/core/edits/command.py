"""What all commands share."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, ClassVar

from pydantic import BaseModel, ConfigDict

from bathyphon.core.edits.find import Path, at
from bathyphon.core.edits.offer import Offer
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.effects import EFFECTS
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.timing.clock import Clock

Part = dict[str, Any]
MOST_STEPS = 64
"""Parts of a list that are changed one by one."""


class EditCommand(BaseModel):
    """A command: immutable, refusing unknown fields."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
    names_the_edit: ClassVar[bool] = False
    """Whether the history calls an edit of several commands after this one."""

    def plan(self, document: Document, reel: Reel) -> Patch:
        """The forward patch for a document that has been read."""
        return self.patch(document, reel.clock)

    def patch(self, document: Document, clock: Clock) -> Patch:
        """The same where the document alone is needed."""
        raise NotImplementedError

    def title(self, document: Document) -> str:
        """What the history calls it, said of the document before the edit."""
        raise NotImplementedError

    def offer(self, before: Document, after: Document, clock: Clock) -> Offer | None:
        """What one may go on to, seen from the documents before and after the whole edit."""
        return None


def set_values(document: Document, path: Path, values: Part) -> Patch:
    """Patch that sets keys of a part, leaving out those that have the value already."""
    target = at(document, path)
    return [
        {"op": "replace" if k in target else "add", "path": pointer(*path, k), "value": v}
        for k, v in values.items()
        if k not in target or target[k] != v
    ]


def set_many(document: Document, values: Mapping[Path, Part]) -> Patch:
    """Patch that sets keys of several parts.

    Where many of one list are changed the list is put in as a whole: step by step it would take as
    long as a hundred edits.
    """
    patch: Patch = []
    for place, paths in _by_list(values):
        if len(paths) <= MOST_STEPS:
            for path in paths:
                patch += set_values(document, path, values[path])
        else:
            new = {path: {**at(document, path), **values[path]} for path in paths}
            patch += _put_list(document, place, new)
    return patch


def put_many(document: Document, parts: Mapping[Path, Part]) -> Patch:
    """Patch that puts several parts in the place of those that are there."""
    patch: Patch = []
    for place, paths in _by_list(parts):
        changed = {path: parts[path] for path in paths if parts[path] != at(document, path)}
        if len(changed) > MOST_STEPS:
            patch += _put_list(document, place, changed)
        else:
            patch += [
                {"op": "replace", "path": pointer(*path), "value": part}
                for path, part in changed.items()
            ]
    return patch


def _by_list(paths: Iterable[Path]) -> Iterable[tuple[Path, list[Path]]]:
    found: dict[Path, list[Path]] = {}
    for path in paths:
        found.setdefault(path[:-1], []).append(path)
    return found.items()


def _put_list(document: Document, place: Path, parts: Mapping[Path, Part]) -> Patch:
    new = list(at(document, place))
    for path, part in parts.items():
        if new[int(path[-1])] != part:
            new[int(path[-1])] = part
    return [{"op": "replace", "path": pointer(*place), "value": new}]


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
