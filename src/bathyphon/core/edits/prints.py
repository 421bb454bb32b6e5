"""Whether parts of a reel are still as a recipe made them."""

from __future__ import annotations

import json
from hashlib import blake2b
from typing import Any

from bathyphon.core.edits.command import Part
from bathyphon.core.edits.find import at, clip_path, effect_path, treatment_path
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document

GONE = "gone"


def touched(document: Document, made: Part) -> list[str]:
    """Parts of a recipe that are no longer as it made them.

    Of a reel that somebody has written there may be no prints: nobody knows then.
    """
    parts, prints = made.get("parts", []), made.get("prints", [])
    known = dict(zip(parts, prints, strict=False))
    return [part for part in parts if print_of(document, part) != known.get(part)]


def print_of(document: Document, part: str) -> str:
    """What tells whether a part is still the same."""
    try:
        found = _found(document, part)
    except Refused:
        return GONE
    text = json.dumps(found, sort_keys=True, ensure_ascii=False)
    return blake2b(text.encode(), digest_size=12).hexdigest()


def _found(document: Document, part: str) -> Any:
    kind, _, rest = part.partition(":")
    if kind == "treatment":
        return at(document, treatment_path(document, rest))
    if kind == "clip":
        return at(document, clip_path(document, rest))
    if kind == "values":
        owner, _, keys = rest.partition("|")
        clip = at(document, clip_path(document, owner.removeprefix("clip:")))
        return {key: clip.get(key) for key in keys.split(",")}
    if kind == "effect":
        owner, _, id = rest.partition("|")
        return at(document, effect_path(document, owner, id))
    raise Refused(f"there is no such part as “{part}”", "parts")


def printed_anew(before: Document, after: Document) -> list[Part]:
    """What recipes have made, where a reel became another by itself: its media have other names.

    What was touched before stays so.
    """
    made: list[Part] = []
    for one in before.get("made", []):
        changed = set(touched(before, one))
        known = dict(zip(one.get("parts", []), one.get("prints", []), strict=False))
        prints = [
            known.get(part, GONE) if part in changed else print_of(after, part)
            for part in one.get("parts", [])
        ]
        made.append({**one, "prints": prints})
    return made
