"""Finding things in a document by their ids."""

from __future__ import annotations

from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.reel import Document

Path = tuple[str | int, ...]


def at(document: Document, path: Path) -> Any:
    """The part of a document at a path."""
    node: Any = document
    for key in path:
        node = node[key]
    return node


def track_path(document: Document, id: str) -> Path:
    """Path of a track."""
    return _find(document.get("tracks", []), id, ("tracks",), "track")


def clip_path(document: Document, id: str) -> Path:
    """Path of a clip."""
    return _in_tracks(document, "clips", id, "clip")


def treatment_path(document: Document, id: str) -> Path:
    """Path of a span's treatment."""
    return _in_tracks(document, "treatments", id, "treatment")


def chain_path(document: Document, owner: str) -> Path:
    """Path of a chain, named ``treatment:ID``, ``clip:ID``, ``track:ID`` or ``mix``."""
    if owner == "mix":
        return ("mix", "treatment")
    kind, _, id = owner.partition(":")
    if kind == "treatment":
        return treatment_path(document, id)
    if kind == "clip":
        return (*clip_path(document, id), "treatment")
    if kind == "track":
        return (*track_path(document, id), "treatment")
    raise Refused(f"“{owner}” is not treatment:ID, clip:ID, track:ID or mix", "owner")


def effect_path(document: Document, owner: str, id: str) -> Path:
    """Path of an effect in a chain."""
    chain = chain_path(document, owner)
    try:
        effects = at(document, chain).get("effects", [])
    except KeyError:
        effects = []
    return _find(effects, id, (*chain, "effects"), "effect")


def _in_tracks(document: Document, key: str, id: str, word: str) -> Path:
    for t, track in enumerate(document.get("tracks", [])):
        for i, item in enumerate(track.get(key, [])):
            if item.get("id") == id:
                return ("tracks", t, key, i)
    raise Refused(f"there is no {word} “{id}”; it may have been removed", word)


def _find(items: list[Any], id: str, path: Path, word: str) -> Path:
    for i, item in enumerate(items):
        if item.get("id") == id:
            return (*path, i)
    raise Refused(f"there is no {word} “{id}”; it may have been removed", word)
