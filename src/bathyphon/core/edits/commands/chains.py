"""What commands on chains share: making them, naming them, and how long their owners are."""

from __future__ import annotations

from bathyphon.core.edits.command import Part, name_of, set_values
from bathyphon.core.edits.find import at, chain_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.reel.model import Document

MOST_EFFECTS = 256
"""Effects that may be added at once."""


def make_chain(document: Document, owner: str) -> Patch:
    """Patch that makes a chain where there is none yet."""
    path = chain_path(document, owner)
    if owner == "mix" and "mix" not in document:
        return [{"op": "add", "path": "/mix", "value": {"treatment": {"effects": []}}}]
    if path[-1] == "treatment" and "treatment" not in at(document, path[:-1]):
        return [{"op": "add", "path": pointer(*path), "value": {"effects": []}}]
    return []


def set_in_chain(document: Document, owner: str, values: Part) -> Patch:
    """Patch that sets keys of a chain, which may have to be made."""
    path = chain_path(document, owner)
    if make_chain(document, owner):
        return [{"op": "add", "path": pointer(*path, k), "value": v} for k, v in values.items()]
    return set_values(document, path, values)


def chain_name(document: Document, owner: str) -> str:
    """What the history calls a chain's owner."""
    if owner == "mix":
        return "the mix"
    path = chain_path(document, owner)
    return name_of(document, path[:-1] if path[-1] == "treatment" else path)


def span_of(document: Document, owner: str) -> tuple[int, int]:
    """First sample of a chain's owner, and the one after its last, without tails."""
    kind, _, _ = owner.partition(":")
    path = chain_path(document, owner)
    if kind in ("treatment", "clip"):
        part = at(document, path if kind == "treatment" else path[:-1])
        return part["start"], part["start"] + part["length"]
    tracks = document.get("tracks", []) if owner == "mix" else [at(document, path[:-1])]
    ends = [c["start"] + c["length"] for track in tracks for c in track.get("clips", [])]
    return 0, max(ends, default=0)
