"""Crossfades that write themselves: clips that come to overlap fade into each other.

They are ordinary fades, marked ``auto``; they follow the overlap and go with it. A fade that was
set by hand is left alone; one that ``gives_way`` comes back when the overlap goes.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from bathyphon.core.edits.command import set_values
from bathyphon.core.edits.find import Path, at
from bathyphon.core.edits.patch import Patch, apply_patch, pointer
from bathyphon.core.reel.model import Document

Clip = dict[str, Any]


@dataclass(frozen=True)
class Overlap:
    """Two clips, by their places in the list, and the samples in which both sound."""

    earlier: int
    later: int
    samples: int


def overlaps(clips: list[Clip]) -> list[Overlap]:
    """Where clips run into those that go on after them."""
    found: list[Overlap] = []
    latest: int | None = None
    for index, clip in sorted(enumerate(clips), key=lambda item: item[1]["start"]):
        if latest is not None:
            samples = _overlap(clips[latest], clip)
            if samples:
                found.append(Overlap(latest, index, samples))
        if latest is None or _end(clip) > _end(clips[latest]):
            latest = index
    return found


def crossfades(document: Document, track: Path) -> Patch:
    """The patch that makes the crossfades of a track true.

    Between parts of one file the gains add to 1, between different files the powers do, unless a
    ``law`` has been chosen.
    """
    clips = at(document, track).get("clips", [])
    wanted: dict[tuple[int, str], dict[str, Any]] = {}
    for pair in overlaps(clips):
        first, second = clips[pair.earlier], clips[pair.later]
        law = first.get("fade_out", {}).get("law") or second.get("fade_in", {}).get("law")
        same = first["media"] == second["media"] if law is None else law == "equal_gain"
        fade = {"length": pair.samples, "shape": "linear" if same else "equal_power", "auto": True}
        if law is not None:
            fade["law"] = law
        wanted[pair.earlier, "fade_out"] = fade
        wanted[pair.later, "fade_in"] = fade
    steps: Patch = []
    for index, clip in sorted(enumerate(clips), key=lambda item: item[1]["start"]):
        for key in ("fade_in", "fade_out"):
            steps += _step(document, (*track, "clips", index), clip, key, wanted.get((index, key)))
    return steps


def with_crossfades(document: Document, steps: Patch, tracks: set[Path]) -> Patch:
    """Steps from a document to another, and those that make that one's crossfades true."""
    document, _ = apply_patch(document, steps)
    return steps + [step for track in sorted(tracks) for step in crossfades(document, track)]


def _step(
    document: Document, path: Path, clip: Clip, key: str, wanted: dict[str, Any] | None
) -> Patch:
    old = clip.get(key, {})
    own = old.get("auto", False)
    instead = old if old.get("gives_way") else old.get("instead_of")
    if wanted and instead:
        wanted = {**wanted, "instead_of": instead}
    if wanted and (own or instead or not old.get("length", 0)):
        other = clip.get("fade_out" if key == "fade_in" else "fade_in", {})
        room = clip["length"] - (0 if other.get("auto") else other.get("length", 0))
        return set_values(document, path, {key: wanted}) if wanted["length"] <= room else []
    if own and instead and not wanted:
        length = min(instead.get("length", 0), clip["length"])
        return set_values(document, path, {key: {**instead, "length": length}})
    if own and not wanted:
        return [{"op": "remove", "path": pointer(*path, key)}]
    return []


def _end(clip: Clip) -> int:
    return int(clip["start"] + clip["length"])


def _overlap(first: Clip, second: Clip) -> int:
    """Samples in which two clips overlap, if the later one goes on when the earlier has ended."""
    if _end(second) <= _end(first) or second["start"] == first["start"]:
        return 0
    return max(0, _end(first) - int(second["start"]))
