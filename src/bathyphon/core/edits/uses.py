"""Where a document names its media: in clips, in the picture, and in effects that work with one."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from bathyphon.core.edits.command import Part
from bathyphon.core.edits.find import Path, at
from bathyphon.core.edits.patch import Patch, apply_patch, pointer
from bathyphon.core.edits.prints import printed_anew
from bathyphon.core.effects import EFFECTS
from bathyphon.core.reel.model import Document


def with_other_media(document: Document, others: Mapping[str, Part]) -> Document:
    """A reel in which some media are others, wherever it names them.

    Parameters
    ----------
    document : dict
        It is left as it is.
    others : dict
        What takes the place of a medium, by its id in the document.
    """
    named: Patch = [
        {"op": "replace", "path": pointer(*path), "value": others[at(document, path)]["id"]}
        for path in uses_of_media(document)
        if at(document, path) in others
    ]
    changed, _ = apply_patch(document, named)
    listed = [others.get(medium["id"], medium) for medium in document.get("media", [])]
    other = {**changed, "media": listed}
    if "made" in document:
        other["made"] = printed_anew(document, other)
    return other


def as_template(document: Document, ids: Iterable[str]) -> Document:
    """A reel with empty places instead of some of its media; they ask for files.

    All that was done with them stays, so that another film or song gets the same.
    """
    media = {medium["id"]: medium for medium in document.get("media", [])}
    places = {
        id: {"id": f"place-{number}", "path": media[id]["path"], "place": True}
        for number, id in enumerate((id for id in ids if id in media), start=1)
    }
    return with_other_media(document, places)


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
