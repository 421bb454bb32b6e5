"""Commands that move, trim, divide, copy and remove clips, one or several at once."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from bathyphon.core.edits.clip_speed import shortened, window_of
from bathyphon.core.edits.command import EditCommand, Part, name_of, names_of, set_many, set_values
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.find import Path, at, clip_path, track_path
from bathyphon.core.edits.offer import Offer, bring_along
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.edits.shifts import ClosedGaps, fitted_fades
from bathyphon.core.edits.spans import Moment, resized
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Clip, Document, Reel
from bathyphon.core.reel.places import ClipPlaces
from bathyphon.core.timing.clock import Clock

Ids = Annotated[list[str], Field(min_length=1, max_length=1500)]
MOST_MOVED = 4000
"""Parts of a track that move with what lies before them."""
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
        paths = [clip_path(document, id) for id in dict.fromkeys(self.ids)]
        there = None if self.track is None else track_path(document, self.track)
        first = at(document, paths[0])["start"]
        staying: dict[Path, Part] = {}
        leaving: list[tuple[Path, Part]] = []
        for path in paths:
            clip = at(document, path)
            if self.to is None:
                start = clock.move_by_frames(clip["start"], self.frames or 0)
            else:
                start = kept_on_frames(clip["start"], first, self.to.of(clock), clock)
            if start < 0:
                raise Refused("a clip cannot begin before the reel does", "frames")
            if there is None or there == path[:2]:
                staying[path] = {"start": start}
            else:
                leaving.append((path, {**clip, "start": start}))
        steps = set_many(document, staying)
        if there is not None:
            steps += removed(path for path, _ in leaving)
            steps += appended(document, there, "clips", [clip for _, clip in leaving])
        tracks = {path[:2] for path in paths} | ({there} if there is not None else set())
        return with_crossfades(document, steps, tracks)

    def title(self, document: Document) -> str:
        return f"move {_clips(document, self.ids)}"

    def offer(self, before: Document, after: Document, clock: Clock) -> Offer | None:
        return bring_along(before, after, self.ids, clock)


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
        return with_crossfades(document, steps, {path[:2]})

    def title(self, document: Document) -> str:
        return f"trim {name_of(document, clip_path(document, self.id))}"


class SlipClip(EditCommand):
    """Move the sound inside a clip; the clip stays, and so do its keyframes.

    ``later`` and ``frames`` say by how many samples or frames of the reel the sound is heard later,
    at the clip's speed: it never goes beyond its own beginning. ``samples`` says by how many of its
    own the sound begins later, wherever that is.
    """

    kind: Literal["slip_clip"]
    id: str
    samples: Shift | None = None
    later: Shift | None = None
    frames: Shift | None = None

    def plan(self, document: Document, reel: Reel) -> Patch:
        path = clip_path(document, self.id)
        clip = reel.tracks[int(path[1])].clips[int(path[3])]
        if sum(way is not None for way in (self.samples, self.later, self.frames)) != 1:
            raise Refused("say by how much it slips: in samples, frames or by later", "samples")
        if self.samples is not None:
            by = self.samples
        else:
            later = self.later or 0
            if self.frames is not None:
                later = reel.clock.move_by_frames(clip.start, self.frames) - clip.start
            by = _slipped(clip, later, reel.sample_rate)
        return set_values(document, path, {"source_start": clip.source_start + by})

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
        parts = [(clip_path(document, id), new) for id, new in zip(self.ids, self.new, strict=True)]
        # From the last to the first: what is put in does not move those that are still to come.
        for path, new in sorted(parts, key=lambda part: part[0][1:4:2], reverse=True):
            clip = at(document, path)
            by = moment - clip["start"]
            if not 0 < by < clip["length"]:
                raise Refused(f"the moment lies outside {clip.get('name') or clip['id']}", "at")
            later = {**_without(window_of(clip, by, clock.sample_rate), "fade_in"), "id": new}
            earlier = fitted_fades(_without(shortened(clip, by), "fade_out"))
            place = pointer(*path[:-1], int(path[-1]) + 1)
            steps += [
                {"op": "replace", "path": pointer(*path), "value": earlier},
                {"op": "add", "path": place, "value": fitted_fades(later)},
            ]
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
        copies: dict[Path, list[Part]] = {}
        for path, new in zip(paths, self.new, strict=True):
            clip = at(document, path)
            there = track_path(document, self.track) if self.track else path[:2]
            start = kept_on_frames(clip["start"], first, moment, clock)
            copy = {**_without(clip, "tie"), "id": new, "start": start}
            copies.setdefault(there, []).append(copy)
        steps: Patch = []
        for there, made in copies.items():
            steps += appended(document, there, "clips", made)
        return with_crossfades(document, steps, set(copies))

    def title(self, document: Document) -> str:
        return f"copy {_clips(document, self.ids)}"


class RemoveClips(EditCommand):
    """Take clips off their tracks; with ``close_gap`` what follows on the track moves up."""

    kind: Literal["remove_clips"]
    ids: Ids
    close_gap: bool = False

    def patch(self, document: Document, clock: Clock) -> Patch:
        paths = [clip_path(document, id) for id in dict.fromkeys(self.ids)]
        tracks = {path[:2] for path in paths}
        steps: Patch = []
        if self.close_gap:
            for track in sorted(tracks):
                gone = [path for path in paths if path[:2] == track]
                gaps = [(c["start"], c["start"] + c["length"]) for c in _all(document, gone)]
                steps += moved_up(document, track, gaps, clock, besides=set(gone))
        steps += removed(paths)
        return with_crossfades(document, steps, tracks)

    def title(self, document: Document) -> str:
        gap = " and close the gap" if self.close_gap else ""
        return f"remove {_clips(document, self.ids)}{gap}"


def moved_up(
    document: Document,
    track: Path,
    gaps: list[tuple[int, int]],
    clock: Clock,
    besides: Collection[Path] = (),
) -> Patch:
    """Patch that moves what lies after gaps on a track up to where they begin.

    Parameters
    ----------
    document : dict
    track : tuple
        Path of the track.
    gaps : list of (int, int)
        Where each begins and ends; one that ends before it begins opens a gap instead.
    clock : Clock
    besides : collection of tuple
        Paths of parts that stay where they are.
    """
    closed = ClosedGaps(gaps, clock)
    moved: dict[Path, Part] = {}
    for key in ("clips", "treatments"):
        for i, part in enumerate(at(document, track).get(key, [])):
            path = (*track, key, i)
            start = closed.place(part["start"])
            if start == part["start"] or path in besides:
                continue
            values = {"start": start}
            if key == "treatments":
                values = resized(part, start, None, None, None, clock)
            moved[path] = values
    if len(moved) > MOST_MOVED:
        raise Refused(
            f"{len(moved)} clips and treatments lie after it on its track; "
            f"at most {MOST_MOVED} can move along"
        )
    return set_many(document, moved)


def removed(paths: Iterable[Path]) -> Patch:
    """Patch that takes parts out of their lists, the last first, so that no other place moves."""
    order = sorted(paths, key=lambda path: (path[1], int(path[-1])), reverse=True)
    return [{"op": "remove", "path": pointer(*path)} for path in order]


def appended(document: Document, path: Path, key: str, values: list[Part]) -> Patch:
    """Patch that appends several values to a list, making the list if need be."""
    target = at(document, path)
    make: Patch = []
    if values and key not in target:
        make = [{"op": "add", "path": pointer(*path, key), "value": []}]
    here = len(target.get(key, []))
    return make + [
        {"op": "add", "path": pointer(*path, key, here + i), "value": value}
        for i, value in enumerate(values)
    ]


def _slipped(clip: Clip, later: int, sample_rate: int) -> int:
    """Samples of the medium by which the sound inside moves on, if it is heard so much later."""
    places = ClipPlaces(clip, sample_rate)
    first, there = (float(place) for place in places.at(np.array([0.0, abs(later)])))
    by = round(there - first) * (-1 if later > 0 else 1)
    begins = places.begins()
    return max(by, min(0, begins) - begins)


def _all(document: Document, paths: Iterable[Path]) -> list[Part]:
    return [at(document, path) for path in paths]


def kept_on_frames(start: int, first: int, moment: int, clock: Clock) -> int:
    """Where a part goes when the first of its kind goes to a moment, in frames if all are."""
    if all(clock.on_frame(place) for place in (start, first, moment)):
        frames = clock.frame_of_sample(start) - clock.frame_of_sample(first)
        return clock.move_by_frames(moment, frames)
    return moment + start - first


def _without(clip: Part, key: str) -> Part:
    return {k: v for k, v in clip.items() if k != key}


def _clips(document: Document, ids: list[str]) -> str:
    return names_of(document, [clip_path(document, id) for id in ids], "clips")
