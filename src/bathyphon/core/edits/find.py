"""Finding things in a document by their ids."""

from __future__ import annotations

from functools import cached_property
from threading import Lock
from typing import Any

from cachetools import LRUCache

from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document

Path = tuple[str | int, ...]


def at(document: Document, path: Path) -> Any:
    """The part of a document at a path."""
    node: Any = document
    for key in path:
        node = node[key]
    return node


class Places:
    """Where the parts of a document lie, by their ids; each kind is gone through once.

    Parameters
    ----------
    document : dict
    """

    def __init__(self, document: Document) -> None:
        self._document = document

    @cached_property
    def _tracks(self) -> dict[str, Path]:
        tracks = self._document.get("tracks", [])
        return {track.get("id"): ("tracks", t) for t, track in reversed(list(enumerate(tracks)))}

    @cached_property
    def _clips(self) -> dict[str, Path]:
        return self._parts("clips")

    @cached_property
    def _treatments(self) -> dict[str, Path]:
        return self._parts("treatments")

    def _parts(self, key: str) -> dict[str, Path]:
        return {
            part.get("id"): ("tracks", t, key, i)
            for t, track in enumerate(self._document.get("tracks", []))
            for i, part in enumerate(track.get(key, []))
        }

    def track(self, id: str) -> Path:
        """Path of a track."""
        return _there(self._tracks, id, "track")

    def clip(self, id: str) -> Path:
        """Path of a clip."""
        return _there(self._clips, id, "clip")

    def has_clip(self, id: str) -> bool:
        """Whether there is such a clip."""
        return id in self._clips

    def treatment(self, id: str) -> Path:
        """Path of a span's treatment."""
        return _there(self._treatments, id, "treatment")

    def chain(self, owner: str) -> Path:
        """Path of a chain, named ``treatment:ID``, ``clip:ID``, ``track:ID`` or ``mix``."""
        if owner == "mix":
            return ("mix", "treatment")
        kind, _, id = owner.partition(":")
        if kind == "treatment":
            return self.treatment(id)
        if kind == "clip":
            return (*self.clip(id), "treatment")
        if kind == "track":
            return (*self.track(id), "treatment")
        raise Refused(f"“{owner}” is not treatment:ID, clip:ID, track:ID or mix", "owner")

    def effect(self, owner: str, id: str) -> Path:
        """Path of an effect in a chain."""
        for i, effect in enumerate(self.effects(owner)):
            if effect.get("id") == id:
                return (*self.chain(owner), "effects", i)
        raise _missing(id, "effect")

    def effects(self, owner: str) -> list[dict[str, Any]]:
        """Effects of a chain; none where nothing has been treated yet."""
        chain = self.chain(owner)
        try:
            return list(at(self._document, chain).get("effects", []))
        except KeyError:
            return []


_known: LRUCache[int, tuple[Document, Places]] = LRUCache(4)
_lock = Lock()


def places_of(document: Document) -> Places:
    """Where the parts of a document lie; of the last few documents it is known."""
    with _lock:
        found = _known.get(id(document))
    # The document itself is kept with it, so that no other can have its identity.
    if found is None or found[0] is not document:
        found = (document, Places(document))
        with _lock:
            _known[id(document)] = found
    return found[1]


def track_path(document: Document, id: str) -> Path:
    """Path of a track."""
    return places_of(document).track(id)


def clip_path(document: Document, id: str) -> Path:
    """Path of a clip."""
    return places_of(document).clip(id)


def treatment_path(document: Document, id: str) -> Path:
    """Path of a span's treatment."""
    return places_of(document).treatment(id)


def chain_path(document: Document, owner: str) -> Path:
    """Path of a chain; see :meth:`Places.chain`."""
    return places_of(document).chain(owner)


def effect_path(document: Document, owner: str, id: str) -> Path:
    """Path of an effect in a chain."""
    return places_of(document).effect(owner, id)


def _there(known: dict[str, Path], id: str, word: str) -> Path:
    found = known.get(id)
    if found is None:
        raise _missing(id, word)
    return found


def _missing(id: str, word: str) -> Refused:
    return Refused(f"this {word} is no longer there; it may have been removed", word)
