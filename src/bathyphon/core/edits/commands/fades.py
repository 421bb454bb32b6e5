"""Commands that set fades and crossfades."""

from __future__ import annotations

from typing import Any, Literal

from bathyphon.core.edits.command import EditCommand, Part, name_of, names_of, set_many, set_values
from bathyphon.core.edits.commands.clips import Ids
from bathyphon.core.edits.crossfades import crossfades, overlaps
from bathyphon.core.edits.find import Path, at, clip_path
from bathyphon.core.edits.patch import Patch, apply_patch
from bathyphon.core.edits.spans import RampLength, foot_length, head_length, shape_of
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock


class SetFade(EditCommand):
    """Set a clip's fade, in frames or samples; from then on it follows no overlap."""

    kind: Literal["set_fade"]
    id: str
    edge: Literal["in", "out"]
    fade: RampLength

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = clip_path(document, self.id)
        clip = at(document, path)
        key, other = ("fade_in", "fade_out") if self.edge == "in" else ("fade_out", "fade_in")
        old = clip.get(key, {})
        start, end = clip["start"], clip["start"] + clip["length"]
        if self.edge == "in":
            length = head_length(start, old.get("length", 0), start, self.fade, clock)
        else:
            length = foot_length(end, old.get("length", 0), end, self.fade, clock)
        room = clip["length"] - clip.get(other, {}).get("length", 0)
        changed = {**_by_hand(old), "length": min(length, room)}
        changed |= shape_of(self.fade)
        return set_values(document, path, {key: changed})

    def title(self, document: Document) -> str:
        return f"fade {self.edge} {name_of(document, clip_path(document, self.id))}"


class CopyFades(EditCommand):
    """Give clips the fades of another, in frames; where there is less room they are shorter."""

    kind: Literal["copy_fades"]
    id: str
    to: Ids

    def patch(self, document: Document, clock: Clock) -> Patch:
        source = at(document, clip_path(document, self.id))
        paths = [clip_path(document, id) for id in self.to]
        given: dict[Path, Part] = {p: fades_like(source, at(document, p), clock) for p in paths}
        return set_many(document, given)

    def title(self, document: Document) -> str:
        name = name_of(document, clip_path(document, self.id))
        given = names_of(document, [clip_path(document, id) for id in self.to], "clips")
        return f"give {given} the fades of {name}"


class SetCrossfade(EditCommand):
    """Choose how a clip and the one that it overlaps fade into each other.

    ``equal_gain`` suits parts of one sound, ``equal_power`` different sounds; ``auto`` chooses by
    whether both play the same file. The crossfade goes on following the overlap, and fades that
    were set by hand there are replaced.
    """

    kind: Literal["set_crossfade"]
    id: str
    edge: Literal["in", "out"]
    law: Literal["auto", "equal_gain", "equal_power"]

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = clip_path(document, self.id)
        track, own = path[:2], path[-1]
        pair = next(
            (
                p
                for p in overlaps(at(document, track).get("clips", []))
                if own == (p.later if self.edge == "in" else p.earlier)
            ),
            None,
        )
        if pair is None:
            side = "beginning" if self.edge == "in" else "end"
            raise Refused(f"no other clip of the track overlaps its {side}", "edge")
        mark: dict[str, Any] = {"length": 0, "shape": "linear", "auto": True}
        if self.law != "auto":
            mark["law"] = self.law
        steps = [
            *set_values(document, (*track, "clips", pair.earlier), {"fade_out": mark}),
            *set_values(document, (*track, "clips", pair.later), {"fade_in": mark}),
        ]
        document, _ = apply_patch(document, steps)
        return [*steps, *crossfades(document, track)]

    def title(self, document: Document) -> str:
        return f"set the crossfade of {name_of(document, clip_path(document, self.id))}"


def fades_like(source: Part, clip: Part, clock: Clock) -> Part:
    """A clip's fades as another has them, in frames; shorter where there is less room."""
    end = source["start"] + source["length"]
    head, foot = source.get("fade_in", {}), source.get("fade_out", {})
    start, stop = clip["start"], clip["start"] + clip["length"]
    into = head_length(source["start"], head.get("length", 0), start, None, clock)
    out = foot_length(end, foot.get("length", 0), stop, None, clock)
    into = min(into, clip["length"])
    return {
        "fade_in": {**_by_hand(head), "length": into},
        "fade_out": {**_by_hand(foot), "length": min(out, clip["length"] - into)},
    }


def _by_hand(fade: dict[str, Any]) -> dict[str, Any]:
    """A fade that follows no overlap."""
    marks = ("auto", "law", "gives_way", "instead_of")
    return {key: value for key, value in fade.items() if key not in marks}
