"""Commands that move, trim, divide, copy and remove clips, one or several at once."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from bathyphon.core.clock import Clock
from bathyphon.core.edits.commands.base import (
    EditCommand,
    Part,
    append_to,
    name_of,
    names_of,
    set_values,
)
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.find import Path, at, clip_path, track_path
from bathyphon.core.edits.patch import Patch, apply_patch, pointer
from bathyphon.core.edits.rated import shortened, window_of
from bathyphon.core.edits.shifts import fitted_fades, moved_with_gap
from bathyphon.core.edits.spans import Moment, resized
from bathyphon.core.errors import Refused
from bathyphon.core.reel import Document

Ids = Annotated[list[str], Field(min_length=1, max_length=2000)]
Shift = Annotated[int, Field(ge=-(2**40), le=2**40)]


class MoveClips(EditCommand):
    """Move clips by frames, or so that the first named begins at a moment; or to another track.

    They keep their distances, in frames where they lie on frames; treatments travel with them.
    """

    kind: Literal["move_clips"]
    ids: Ids
    frames: Shift | None = None
    to: Moment | None = None
    track: str | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        if self.frames is not None and self.to is not None:
            raise Refused("give either frames or a moment", "to")
        steps: Patch = []
        tracks = {clip_path(document, id)[:2] for id in self.ids}
        if self.track is not None:
            tracks.add(track_path(document, self.track))
        first = at(document, clip_path(document, self.ids[0]))["start"]
        for id in self.ids:
            path = clip_path(document, id)
            clip = at(document, path)
            if self.to is None:
                start = clock.move_by_frames(clip["start"], self.frames or 0)
            else:
                start = _kept_on_frames(clip["start"], first, self.to.of(clock), clock)
            if start < 0:
                raise Refused("a clip cannot begin before the reel does", "frames")
            if self.track is None or track_path(document, self.track) == path[:2]:
                own = set_values(document, path, {"start": start})
            else:
                there = track_path(document, self.track)
                own = [
                    {"op": "remove", "path": pointer(*path)},
                    *append_to(document, there, "clips", {**clip, "start": start}),
                ]
            document, _ = apply_patch(document, own)
            steps += own
        return with_crossfades(document, steps, tracks)

    def title(self, document: Document) -> str:
        return f"move {_clips(document, self.ids)}"


class TrimClip(EditCommand):
    """Let a clip begin or end elsewhere; the sound inside and its keyframes stay where they are."""

    kind: Literal["trim_clip"]
    id: str
    edge: Literal["start", "end"]
    to: Moment

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = clip_path(document, self.id)
        clip = at(document, path)
        to = self.to.of(clock)
        if self.edge == "end":
            changed = shortened(clip, to - clip["start"])
        else:
            changed = window_of(clip, to - clip["start"], clock.sample_rate)
        if changed["length"] <= 0:
            raise Refused("a clip must end after it begins", "to")
        steps = set_values(document, path, fitted_fades(changed))
        document, _ = apply_patch(document, steps)
        return with_crossfades(document, steps, {path[:2]})

    def title(self, document: Document) -> str:
        return f"trim {name_of(document, clip_path(document, self.id))}"


class SlipClip(EditCommand):
    """Move the sound inside a clip; the clip stays, and so do its keyframes."""

    kind: Literal["slip_clip"]
    id: str
    samples: Shift

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = clip_path(document, self.id)
        inside = at(document, path).get("source_start", 0) + self.samples
        return set_values(document, path, {"source_start": inside})

    def title(self, document: Document) -> str:
        return f"slip the sound inside {name_of(document, clip_path(document, self.id))}"


class SplitClips(EditCommand):
    """Divide clips at a moment; ``new`` names the later parts."""

    kind: Literal["split_clips"]
    ids: Ids
    new: Ids
    at: Moment

    def patch(self, document: Document, clock: Clock) -> Patch:
        if len(self.new) != len(self.ids):
            raise Refused("give one new id for each clip", "new")
        moment = self.at.of(clock)
        steps: Patch = []
        for id, new in zip(self.ids, self.new, strict=True):
            path = clip_path(document, id)
            clip = at(document, path)
            by = moment - clip["start"]
            if not 0 < by < clip["length"]:
                raise Refused(f"the moment lies outside {clip.get('name') or id}", "at")
            later = {**_without(window_of(clip, by, clock.sample_rate), "fade_in"), "id": new}
            earlier = fitted_fades(_without(shortened(clip, by), "fade_out"))
            own: Patch = [
                {"op": "replace", "path": pointer(*path), "value": earlier},
                {
                    "op": "add",
                    "path": pointer(*path[:-1], int(path[-1]) + 1),
                    "value": fitted_fades(later),
                },
            ]
            document, _ = apply_patch(document, own)
            steps += own
        return steps

    def title(self, document: Document) -> str:
        return f"split {_clips(document, self.ids)}"


class JoinClips(EditCommand):
    """Make one clip again of two that go on in each other."""

    kind: Literal["join_clips"]
    ids: Annotated[list[str], Field(min_length=2, max_length=2)]

    def patch(self, document: Document, clock: Clock) -> Patch:
        paths = sorted(
            (clip_path(document, id) for id in self.ids), key=lambda p: at(document, p)["start"]
        )
        first, second = (at(document, path) for path in paths)
        # What goes on from the first is what a split of both together would have left there.
        both = {**first, "length": first["length"] + second["length"]}
        wanted = window_of(both, first["length"], clock.sample_rate)
        if paths[0][:2] != paths[1][:2] or first["start"] + first["length"] != second["start"]:
            raise Refused("clips can be joined if one begins where the other ends", "ids")
        inside = [
            (part["media"], part.get("source_start", 0), part.get("speed", {}).get("origin", 0))
            for part in (wanted, second)
        ]
        if inside[0] != inside[1]:
            raise Refused("clips can be joined if the sound goes on from one to the other", "ids")
        apart = ("id", "name", "start", "length", "source_start", "fade_in", "fade_out")
        if {k: v for k, v in shortened(wanted, 0).items() if k not in apart} != {
            k: v for k, v in shortened(second, second["length"]).items() if k not in apart
        }:
            raise Refused("clips can be joined if level, speed and treatment are the same", "ids")
        whole = _without(shortened(first, both["length"]), "fade_out")
        if "fade_out" in second:
            whole["fade_out"] = second["fade_out"]
        patch: Patch = [{"op": "replace", "path": pointer(*paths[0]), "value": whole}]
        return [*patch, {"op": "remove", "path": pointer(*paths[1])}]

    def title(self, document: Document) -> str:
        return f"join {_clips(document, self.ids)}"


class CopyClips(EditCommand):
    """Copy clips, so that the first begins at a moment; ``new`` names the copies."""

    kind: Literal["copy_clips"]
    ids: Ids
    new: Ids
    at: Moment
    track: str | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        if len(self.new) != len(self.ids):
            raise Refused("give one new id for each clip", "new")
        paths = [clip_path(document, id) for id in self.ids]
        first = min(at(document, path)["start"] for path in paths)
        moment = self.at.of(clock)
        steps: Patch = []
        tracks: set[Path] = set()
        for path, new in zip(paths, self.new, strict=True):
            clip = at(document, path)
            there = track_path(document, self.track) if self.track else path[:2]
            start = _kept_on_frames(clip["start"], first, moment, clock)
            own = append_to(
                document, there, "clips", {**_without(clip, "tie"), "id": new, "start": start}
            )
            document, _ = apply_patch(document, own)
            steps += own
            tracks.add(there)
        return with_crossfades(document, steps, tracks)

    def title(self, document: Document) -> str:
        return f"copy {_clips(document, self.ids)}"


class RemoveClips(EditCommand):
    """Take clips off their tracks; with ``close_gap`` what follows on the track moves up."""

    kind: Literal["remove_clips"]
    ids: Ids
    close_gap: bool = False

    def patch(self, document: Document, clock: Clock) -> Patch:
        steps: Patch = []
        paths = [clip_path(document, id) for id in dict.fromkeys(self.ids)]
        # From the last to the first: an earlier gap then moves what a later one has moved.
        paths.sort(key=lambda path: (path[1], at(document, path)["start"]), reverse=True)
        # Removing one moves the places of others in the list, but not their ids.
        for id in [at(document, path)["id"] for path in paths]:
            path = clip_path(document, id)
            clip = at(document, path)
            own: Patch = [{"op": "remove", "path": pointer(*path)}]
            document, _ = apply_patch(document, own)
            steps += own
            if self.close_gap:
                end = clip["start"] + clip["length"]
                own = moved_after(document, path[:2], end, clip["start"], clock)
                document, _ = apply_patch(document, own)
                steps += own
        return with_crossfades(document, steps, {path[:2] for path in paths})

    def title(self, document: Document) -> str:
        gap = " and close the gap" if self.close_gap else ""
        return f"remove {_clips(document, self.ids)}{gap}"


def moved_after(document: Document, track: Path, end: int, to: int, clock: Clock) -> Patch:
    """Patch that moves what begins at ``end`` or later on a track: ``end`` comes to ``to``."""
    steps: Patch = []
    for key in ("clips", "treatments"):
        for i, part in enumerate(at(document, track).get(key, [])):
            if part["start"] < end:
                continue
            start = moved_with_gap(part["start"], to, end, clock)
            values = {"start": start}
            if key == "treatments":
                values = resized(part, start, None, None, None, clock)
            steps += set_values(document, (*track, key, i), values)
    return steps


def _kept_on_frames(start: int, first: int, moment: int, clock: Clock) -> int:
    if all(clock.on_frame(place) for place in (start, first, moment)):
        frames = clock.frame_of_sample(start) - clock.frame_of_sample(first)
        return clock.move_by_frames(moment, frames)
    return moment + start - first


def _without(clip: Part, key: str) -> Part:
    return {k: v for k, v in clip.items() if k != key}


def _clips(document: Document, ids: list[str]) -> str:
    return names_of(document, [clip_path(document, id) for id in ids], "clips")
