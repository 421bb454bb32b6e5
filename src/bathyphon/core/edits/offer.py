"""What an edit may go on to, if one likes: treatments that stayed when their clips moved."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from bathyphon.core.edits.find import at, places_of
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock


@dataclass(frozen=True)
class Offer:
    """What is said, the word on its button, and the commands that taking it up means."""

    text: str
    label: str
    commands: list[dict[str, Any]]


def bring_along(
    before: Document, after: Document, ids: Iterable[str], clock: Clock
) -> Offer | None:
    """Offer to move treatments as clips have moved, if they lay wholly over one of them.

    Parameters
    ----------
    before, after : dict
        The document before the clips moved and now.
    ids : iterable of str
        The clips; the first says how far and to which track.
    clock : Clock

    Returns
    -------
    Offer or None
        Nothing where no treatment stayed behind.
    """
    ids = list(ids)
    there = places_of(before)
    try:
        old_path, new_path = there.clip(ids[0]), places_of(after).clip(ids[0])
    except Refused:
        return None
    old, new = at(before, old_path), at(after, new_path)
    old_track, new_track = at(before, old_path[:2])["id"], at(after, new_path[:2])["id"]
    if old["start"] == new["start"] and old_track == new_track:
        return None
    stayed = _stayed(before, after, ids)
    if not stayed:
        return None
    if clock.on_frame(old["start"]) and clock.on_frame(new["start"]):
        frames = clock.frame_of_sample(new["start"]) - clock.frame_of_sample(old["start"])
        by = {"frames": frames}
    else:
        by = {"samples": new["start"] - old["start"]}
    command = {"kind": "bring_along", "ids": [part["id"] for part in stayed], **by}
    if old_track != new_track:
        command["track"] = new_track
    if len(stayed) == 1:
        name = stayed[0].get("name")
        text = f"{f'“{name}”' if name else 'A treatment'} stayed where it was"
        return Offer(text, "Bring it along", [command])
    return Offer(f"{len(stayed)} treatments stayed where they were", "Bring them along", [command])


def _stayed(before: Document, after: Document, ids: list[str]) -> list[dict[str, Any]]:
    """Treatments that lay wholly over one of the clips, and lie there still."""
    moved: dict[int, list[tuple[int, int]]] = {}
    for id in ids:
        path = places_of(before).clip(id)
        clip = at(before, path)
        moved.setdefault(int(path[1]), []).append((clip["start"], clip["start"] + clip["length"]))
    now = {part["id"]: part for track in after.get("tracks", []) for part in _treatments(track)}
    return [
        part
        for track, spans in moved.items()
        for part in _treatments(before["tracks"][track])
        if now.get(part["id"], {}).get("start") == part["start"]
        and any(a <= part["start"] and part["start"] + part["length"] <= b for a, b in spans)
    ]


def _treatments(track: dict[str, Any]) -> list[dict[str, Any]]:
    return list(track.get("treatments", []))
