"""Where a document names its media: in clips, in the picture, and in effects that work with one."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from bathyphon.core.edits.find import Path
from bathyphon.core.effects import EFFECTS
from bathyphon.core.reel.model import Document


def uses_of_media(document: Document) -> Iterator[Path]:
    """Paths of all places that hold the id of a medium."""
    for t, track in enumerate(document.get("tracks", [])):
        for c, clip in enumerate(track.get("clips", [])):
            yield ("tracks", t, "clips", c, "media")
            yield from _in_chain(clip.get("treatment"), ("tracks", t, "clips", c, "treatment"))
        for f, treatment in enumerate(track.get("treatments", [])):
            yield from _in_chain(treatment, ("tracks", t, "treatments", f))
        yield from _in_chain(track.get("treatment"), ("tracks", t, "treatment"))
    for c, _ in enumerate(document.get("picture", {}).get("clips", [])):
        yield ("picture", "clips", c, "media")
    yield from _in_chain(document.get("mix", {}).get("treatment"), ("mix", "treatment"))


def _in_chain(chain: dict[str, Any] | None, path: Path) -> Iterator[Path]:
    for e, effect in enumerate((chain or {}).get("effects", [])):
        known = EFFECTS.get(str(effect.get("kind")))
        reference = known.reference if known else None
        if reference and reference.to == "media" and effect.get("params", {}).get(reference.id):
            yield (*path, "effects", e, "params", reference.id)
