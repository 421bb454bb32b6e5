"""Reading a document: parse, then check."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from pydantic import ValidationError

from bathyphon.core.errors import Refused
from bathyphon.core.reel.checks import check_reel
from bathyphon.core.reel.model import FORMAT, VERSION, Document, Part, Reel
from bathyphon.core.unread import first_fault

DEEPEST = 64
TOO_LARGE = 2**63


def read_reel(document: Any, before: tuple[Document, Reel] | None = None) -> Reel:
    """Read a document, checking everything that a reel promises.

    Parameters
    ----------
    document : dict
        The parsed JSON of a ``reel.json``.
    before : (dict, Reel), optional
        A document that has been read, and what it read as: parts that both documents share are
        neither read nor checked again. Sharing means being the same object.

    Raises
    ------
    Refused
        With the path of the first fault and what was expected there.
    """
    if not isinstance(document, dict):
        raise Refused("a reel is a JSON object with the keys format, version, tracks …")
    known = _known_parts(*before) if before else {}
    _check_text(document, known)
    if document.get("format") != FORMAT:
        raise Refused(f"expected “{FORMAT}”", "format")
    if document.get("version") != VERSION:
        raise Refused(f"this version reads reels of version {VERSION}", "version")
    try:
        reel = Reel.model_validate(_with_known(document, known) if known else document)
    except ValidationError as error:
        raise Refused(*_sentence(error)) from None
    check_reel(reel, before[1] if before else None)
    return reel


LISTED = ("clips", "treatments")


def _known_parts(document: Document, reel: Reel) -> dict[int, Part]:
    """Tracks, clips and treatments of a document by their identity, as they have been read."""
    known: dict[int, Part] = {}
    for raw, track in zip(document.get("tracks", ()), reel.tracks, strict=True):
        known[id(raw)] = track
        for key in LISTED:
            known |= {
                id(r): part for r, part in zip(raw.get(key, ()), getattr(track, key), strict=True)
            }
    return known


def _with_known(document: Document, known: dict[int, Part]) -> Document:
    """A document with what has been read before in place of what would read the same."""

    def track(raw: Any) -> Any:
        if id(raw) in known or not isinstance(raw, dict):
            return known.get(id(raw), raw)
        lists = {
            key: [known.get(id(part), part) for part in raw[key]]
            for key in LISTED
            if isinstance(raw.get(key), list)
        }
        return {**raw, **lists}

    tracks = document.get("tracks")
    if not isinstance(tracks, list):
        return document
    return {**document, "tracks": [track(raw) for raw in tracks]}


def _check_text(document: Document, known: dict[int, Part]) -> None:
    """Refuse text and numbers that no type forbids; parts that have been read are left out."""
    level: list[Any] = [document]
    for _ in range(DEEPEST + 1):
        deeper: list[Any] = []
        for value in level:
            inside = value.values() if isinstance(value, dict) else value
            if isinstance(value, dict) and any("\0" in key for key in value):
                raise _fault(document)
            for item in inside:
                kind = type(item)
                if kind is dict or kind is list:
                    if id(item) not in known:
                        deeper.append(item)
                elif kind is str:
                    if "\0" in item:
                        raise _fault(document)
                elif kind is float:
                    # Neither infinite nor no number at all.
                    if item - item != 0.0:
                        raise _fault(document)
                elif kind is int and not -TOO_LARGE <= item <= TOO_LARGE:
                    raise _fault(document)
        if not deeper:
            return
        level = deeper
    raise _fault(document)


def _fault(document: Document) -> Refused:
    return _located(document) or Refused("the document holds what no reel may hold")


def _located(value: Any, where: str = "", depth: int = 0) -> Refused | None:
    """The first fault of a value with its path."""
    if depth > DEEPEST:
        return Refused(f"nested deeper than {DEEPEST} levels", where)
    if isinstance(value, str) and "\0" in value:
        return Refused("text must not hold the character U+0000", where)
    if isinstance(value, float) and not (abs(value) < float("inf")):
        return Refused("numbers must be finite", where)
    if isinstance(value, int) and abs(value) > TOO_LARGE:
        return Refused("the number is too large", where)
    items: Iterable[tuple[Any, Any]] = value.items() if isinstance(value, dict) else ()
    if isinstance(value, list):
        items = enumerate(value)
    for key, item in items:
        if isinstance(key, str) and "\0" in key:
            return Refused("names must not hold the character U+0000", where)
        found = _located(item, f"{where}.{key}" if where else str(key), depth + 1)
        if found:
            return found
    return None


def _sentence(error: ValidationError) -> tuple[str, str]:
    said, place = first_fault(error)
    return said, ".".join(map(str, place))
