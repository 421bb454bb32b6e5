"""Commands on the treatments of spans."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from bathyphon.core.edits.command import (
    EditCommand,
    Part,
    append_to,
    name_of,
    names_of,
    set_many,
    set_values,
)
from bathyphon.core.edits.commands.chains import MOST_EFFECTS
from bathyphon.core.edits.commands.clips import Ids, appended, kept_on_frames, removed
from bathyphon.core.edits.find import Path, at, clip_path, track_path, treatment_path
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.edits.spans import Moment, RampLength, resized
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document, Treatment
from bathyphon.core.timing.clock import Clock


class AddTreatment(EditCommand):
    """Treat a span of a track."""

    kind: Literal["add_treatment"]
    track: str
    id: str
    name: str = Field("", max_length=400)
    start: Moment
    end: Moment
    ramp_in: RampLength = RampLength()
    ramp_out: RampLength = RampLength()
    effects: list[Part] = Field(default_factory=list, max_length=MOST_EFFECTS)

    def patch(self, document: Document, clock: Clock) -> Patch:
        start, end = self.start.of(clock), self.end.of(clock)
        bare = {"start": start, "length": end - start, "ramp_in": {}, "ramp_out": {}}
        span = resized(bare, start, end, self.ramp_in, self.ramp_out, clock)
        treatment = {
            "id": self.id,
            "name": self.name,
            **span,
            "strength": 100,
            "ring_out": "auto",
            "effects": self.effects,
        }
        return append_to(document, track_path(document, self.track), "treatments", treatment)

    def title(self, document: Document) -> str:
        return f"treat {name_of(document, track_path(document, self.track))}"


class SetTreatment(EditCommand):
    """Move, stretch or change a span's treatment; on another track it stays the same one."""

    kind: Literal["set_treatment"]
    id: str
    name: str | None = None
    start: Moment | None = None
    end: Moment | None = None
    ramp_in: RampLength | None = None
    ramp_out: RampLength | None = None
    track: str | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = treatment_path(document, self.id)
        there = path[:2] if self.track is None else track_path(document, self.track)
        values: Part = {} if self.name is None else {"name": self.name}
        if self.start or self.end or self.ramp_in or self.ramp_out:
            values |= resized(
                at(document, path),
                self.start.of(clock) if self.start else None,
                self.end.of(clock) if self.end else None,
                self.ramp_in,
                self.ramp_out,
                clock,
            )
        if there != path[:2]:
            part = {**at(document, path), **values}
            return [*removed([path]), *appended(document, there, "treatments", [part])]
        return set_values(document, path, values)

    def title(self, document: Document) -> str:
        name = name_of(document, treatment_path(document, self.id))
        if self.track is not None:
            return f"move {name} to {name_of(document, track_path(document, self.track))}"
        if self.start and not self.end:
            return f"move {name}"
        if self.start or self.end:
            return f"stretch {name}"
        if self.ramp_in or self.ramp_out:
            return f"set the ramp of {name}"
        return f"rename {name}"


class Copy(BaseModel):
    """Where a copy goes: to a moment (up to another) or over a clip's whole length, to its own
    track or another."""

    model_config = ConfigDict(extra="forbid", strict=True)
    id: str
    start: Moment | None = None
    end: Moment | None = None
    clip: str | None = None
    track: str | None = None


class Pasted(BaseModel):
    """A treatment as it was copied, the track that it goes to, and the id that it gets."""

    model_config = ConfigDict(extra="forbid", strict=True)
    track: str
    id: str
    treatment: Part


class CopyTreatment(EditCommand):
    """Copy a span's treatment to other places, keeping its length and ramps in frames."""

    kind: Literal["copy_treatment"]
    id: str
    copies: list[Copy] = Field(min_length=1, max_length=1000)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = treatment_path(document, self.id)
        source = at(document, path)
        made: dict[Path, list[Part]] = {}
        for copy in self.copies:
            track, end = path[:2], None
            if copy.clip is not None:
                over = clip_path(document, copy.clip)
                clip = at(document, over)
                track, start = over[:2], clip["start"]
                end = start + clip["length"]
            elif copy.start is not None:
                start = copy.start.of(clock)
                end = copy.end.of(clock) if copy.end else None
            else:
                raise Refused("say where the copy goes, by a start or a clip", "copies")
            if copy.track is not None:
                track = track_path(document, copy.track)
            placed = resized(source, start, end, None, None, clock)
            made.setdefault(track, []).append({**source, **placed, "id": copy.id})
        patch: Patch = []
        for track, copies in made.items():
            patch += appended(document, track, "treatments", copies)
        return patch

    def title(self, document: Document) -> str:
        name = name_of(document, treatment_path(document, self.id))
        count = len(self.copies)
        return f"copy {name}" if count == 1 else f"copy {name} to {count} places"


class BringAlong(EditCommand):
    """Move treatments by frames or samples, keeping them in frames; or to another track."""

    kind: Literal["bring_along"]
    ids: list[str] = Field(min_length=1, max_length=1000)
    frames: int | None = None
    samples: int | None = None
    track: str | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        staying: dict[Path, Part] = {}
        there = None if self.track is None else track_path(document, self.track)
        leaving: list[tuple[Path, Part]] = []
        for id in dict.fromkeys(self.ids):
            path = treatment_path(document, id)
            old = at(document, path)
            start = clock.move_by_frames(old["start"], self.frames or 0) + (self.samples or 0)
            # What begins before the reel already may stay there.
            if start < min(0, old["start"]):
                raise Refused("a treatment cannot begin before the reel does", "frames")
            moved = resized(old, start, None, None, None, clock)
            if there is None or there == path[:2]:
                staying[path] = moved
            else:
                leaving.append((path, {**old, **moved}))
        patch = set_many(document, staying)
        if there is not None:
            patch += removed(path for path, _ in leaving)
            patch += appended(document, there, "treatments", [part for _, part in leaving])
        return patch

    def title(self, document: Document) -> str:
        paths = [treatment_path(document, id) for id in self.ids]
        return f"bring {names_of(document, paths, 'treatments')} along"


class StretchToCut(EditCommand):
    """Let a span's treatment reach to the next cut after its end, or from the one before it."""

    kind: Literal["stretch_to_cut"]
    id: str
    edge: Literal["start", "end"] = "end"

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = treatment_path(document, self.id)
        old = at(document, path)
        cuts = [clock.sample_of_frame(f) for f in document.get("picture", {}).get("cuts", [])]
        first, last = old["start"], old["start"] + old["length"]
        if self.edge == "end":
            place = min((c for c in cuts if c > last), default=None)
            ends = [p["start"] + p["length"] for p in document.get("picture", {}).get("clips", [])]
            place = max((e for e in ends if e > last), default=None) if place is None else place
        else:
            place = max((c for c in cuts if c < first), default=0 if first > 0 else None)
        if place is None:
            where = "after its end" if self.edge == "end" else "before its start"
            raise Refused(f"there is no cut {where}", "edge")
        start, end = (first, place) if self.edge == "end" else (place, last)
        return set_values(document, path, resized(old, start, end, None, None, clock))

    def title(self, document: Document) -> str:
        name = name_of(document, treatment_path(document, self.id))
        return f"stretch {name} to the {'next' if self.edge == 'end' else 'last'} cut"


class OrderTreatment(EditCommand):
    """Move a treatment before or behind others of its track in the order of processing.

    ``index`` is its place among all, ``by`` how many of those that overlap it it passes.
    """

    kind: Literal["order_treatment"]
    id: str
    index: int | None = Field(None, ge=0)
    by: int | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = treatment_path(document, self.id)
        list_ = at(document, path[:-1])
        if (self.index is None) == (self.by is None):
            raise Refused("give either a place or by how many it moves", "index")
        if self.by is None:
            index = min(self.index or 0, len(list_) - 1)
        else:
            own = list_[path[-1]]
            over = [k for k, other in enumerate(list_) if _overlap(own, other)]
            place = over.index(int(path[-1])) + self.by
            index = over[max(0, min(len(over) - 1, place))]
            if index == path[-1]:
                raise Refused("no treatment that overlaps it comes there", "by")
        return [
            {"op": "remove", "path": pointer(*path)},
            {"op": "add", "path": pointer(*path[:-1], index), "value": list_[path[-1]]},
        ]

    def title(self, document: Document) -> str:
        return f"reorder {name_of(document, treatment_path(document, self.id))}"


class RemoveTreatment(EditCommand):
    """Remove a span's treatment."""

    kind: Literal["remove_treatment"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*treatment_path(document, self.id))}]

    def title(self, document: Document) -> str:
        return f"remove {name_of(document, treatment_path(document, self.id))}"


class RemoveTreatments(EditCommand):
    """Remove several spans' treatments."""

    kind: Literal["remove_treatments"]
    ids: Ids

    def patch(self, document: Document, clock: Clock) -> Patch:
        return removed(treatment_path(document, id) for id in dict.fromkeys(self.ids))

    def title(self, document: Document) -> str:
        paths = [treatment_path(document, id) for id in self.ids]
        return f"remove {names_of(document, paths, 'treatments')}"


class PasteTreatments(EditCommand):
    """Lay treatments that have been copied, so that the earliest begins at a moment.

    They keep their distances, and are what they were when they were copied, also after they have
    been removed, or in another reel at the same rate.
    """

    kind: Literal["paste_treatments"]
    parts: list[Pasted] = Field(min_length=1, max_length=1000)
    at: Moment

    def patch(self, document: Document, clock: Clock) -> Patch:
        for part in self.parts:
            try:
                Treatment.model_validate(part.treatment)
            except ValidationError:
                raise Refused("this is no whole treatment; copy it again", "parts") from None
        first = min(part.treatment["start"] for part in self.parts)
        moment = self.at.of(clock)
        pasted: dict[Path, list[Part]] = {}
        for part in self.parts:
            old = part.treatment
            start = kept_on_frames(old["start"], first, moment, clock)
            placed = resized(old, start, None, None, None, clock)
            path = track_path(document, part.track)
            pasted.setdefault(path, []).append({**old, **placed, "id": part.id})
        patch: Patch = []
        for path, parts in pasted.items():
            patch += appended(document, path, "treatments", parts)
        return patch

    def title(self, document: Document) -> str:
        first = self.parts[0].treatment
        if len(self.parts) == 1:
            return f"paste {first.get('name') or 'a treatment'}"
        return f"paste {len(self.parts)} treatments"


def _overlap(a: Part, b: Part) -> bool:
    """Whether two spans share a sample."""
    return bool(a["start"] < b["start"] + b["length"] and b["start"] < a["start"] + a["length"])
