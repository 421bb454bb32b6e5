"""What older documents need so that they go on sounding as they did."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from bathyphon.core.edits.find import Path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.effects import EFFECTS
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.shapes import SILENCE_DB


def keep_straight_fades(document: Document) -> Patch:
    """Patch that marks levels which move straight in decibels into silence.

    They did so until they were given a way in amplitude, by which nothing is gone before its time.
    """
    return [
        {"op": "add", "path": pointer(*path, "straight"), "value": True}
        for path, value in _levels(document)
        if _fades(value) and "straight" not in value
    ]


def _fades(value: Any) -> bool:
    if not isinstance(value, dict):
        return False
    frames = value.get("keyframes", [])
    return any(
        (a["value"] <= SILENCE_DB) != (b["value"] <= SILENCE_DB) and a.get("ease") != "hold"
        for a, b in zip(frames, frames[1:], strict=False)
    )


def _levels(document: Document) -> Iterator[tuple[Path, Any]]:
    """Every value in decibels that may have keyframes, with its path."""
    for t, track in enumerate(document.get("tracks", [])):
        here: Path = ("tracks", t)
        yield (*here, "gain_db"), track.get("gain_db")
        for c, clip in enumerate(track.get("clips", [])):
            yield (*here, "clips", c, "gain_db"), clip.get("gain_db")
            yield from _in_chain(clip.get("treatment"), (*here, "clips", c, "treatment"))
        for f, treatment in enumerate(track.get("treatments", [])):
            yield from _in_chain(treatment, (*here, "treatments", f))
        yield from _in_chain(track.get("treatment"), (*here, "treatment"))
    mix = document.get("mix", {})
    yield ("mix", "gain_db"), mix.get("gain_db")
    yield from _in_chain(mix.get("treatment"), ("mix", "treatment"))


def _in_chain(chain: dict[str, Any] | None, path: Path) -> Iterator[tuple[Path, Any]]:
    for e, effect in enumerate((chain or {}).get("effects", [])):
        known = EFFECTS.get(str(effect.get("kind")))
        for row in known.parameters if known else ():
            if row.scale == "db":
                where = (*path, "effects", e, "params", row.id)
                yield where, effect.get("params", {}).get(row.id)
