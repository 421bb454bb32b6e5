"""What an edit may go on to, if one likes: treatments that stayed when their clips moved."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import accumulate
from typing import Any

from bathyphon.core.edits.find import Path, at, places_of
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
    was, now = places_of(before), places_of(after)
    # What has come or gone in the same edit has taken nothing from where it was.
    moved = [id for id in ids if was.has_clip(id) and now.has_clip(id)]
    if not moved:
        return None
    old_path, new_path = was.clip(moved[0]), now.clip(moved[0])
    old, new = at(before, old_path), at(after, new_path)
    old_track, new_track = at(before, old_path[:2])["id"], at(after, new_path[:2])["id"]
    if old["start"] == new["start"] and old_track == new_track:
        return None
    stayed = _stayed(before, after, [was.clip(id) for id in moved])
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


def _stayed(before: Document, after: Document, clips: list[Path]) -> list[dict[str, Any]]:
    """Treatments that lay wholly over one of the clips, and lie there still."""
    now = {part["id"]: part for track in after.get("tracks", []) for part in _treatments(track)}
    spans: dict[int, list[tuple[int, int]]] = {}
    for path in clips:
        clip = at(before, path)
        spans.setdefault(int(path[1]), []).append((clip["start"], clip["start"] + clip["length"]))
    stayed = []
    for track, places in spans.items():
        places.sort()
        begins = [begin for begin, _ in places]
        # How far the clips reach that begin no later than each.
        reach = list(accumulate((end for _, end in places), max))
        for part in _treatments(before["tracks"][track]):
            over = bisect_right(begins, part["start"]) - 1
            within = over >= 0 and part["start"] + part["length"] <= reach[over]
            if within and now.get(part["id"], {}).get("start") == part["start"]:
                stayed.append(part)
    return stayed


def _treatments(track: dict[str, Any]) -> list[dict[str, Any]]:
    return list(track.get("treatments", []))
