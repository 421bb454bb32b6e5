"""Commands on a clip's speed and pitch."""

from __future__ import annotations

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from bathyphon.core.edits.clip_speed import (
    clip_at_own_speed,
    clip_at_speed,
    covered,
    place_at_start,
)
from bathyphon.core.edits.command import EditCommand, Part, name_of, names_of, put_many
from bathyphon.core.edits.commands.clips import moved_up
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.find import Path, at, clip_path
from bathyphon.core.edits.patch import Patch
from bathyphon.core.edits.shifts import ClosedGaps
from bathyphon.core.edits.spans import Moment
from bathyphon.core.errors import Refused
from bathyphon.core.reel.limits import FASTEST, SLOWEST
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock
from bathyphon.core.timing.pace import stretched_length

Percent = Annotated[float, Field(ge=SLOWEST, le=FASTEST)]
SomeIds = Annotated[list[str], Field(min_length=1, max_length=1000)]


class SetSpeed(EditCommand):
    """Change the speed and pitch of clips.

    A clip at another speed keeps its sound: its length changes, from its start on. With ``ripple``
    what lies after it on its track moves with its end.
    """

    kind: Literal["set_speed"]
    ids: SomeIds
    percent: Percent | None = None
    pitch: Literal["hold", "follow"] | None = None
    semitones: float | None = None
    cents: float | None = None
    formant_shift: float | None = None
    formants: Literal["hold", "follow"] | None = None
    material: Literal["voice", "music"] | None = None
    ripple: bool = False

    def patch(self, document: Document, clock: Clock) -> Patch:
        given = self.model_dump(exclude_none=True)
        values = {k: v for k, v in given.items() if k not in ("kind", "ids", "ripple", "percent")}
        new: dict[Path, Part] = {}
        for id in self.ids:
            path = clip_path(document, id)
            clip = at(document, path)
            speed = {**clip.get("speed", {}), **_told(document, path, clip), **values}
            changed = {**clip, "speed": speed}
            if self.percent is not None:
                source = covered(clip, clock.sample_rate)
                length = max(1, stretched_length(source, self.percent))
                changed = clip_at_speed(changed, self.percent, length, source, clock.sample_rate)
            new[path] = changed
        steps = _replaced(document, new, clock, self.ripple)
        return with_crossfades(document, steps, {path[:2] for path in new})

    def title(self, document: Document) -> str:
        what = names_of(document, [clip_path(document, id) for id in self.ids], "clips")
        if self.percent is not None:
            return f"play {what} at {self.percent:.4g} %"
        if self.semitones is not None or self.cents is not None:
            return f"move the pitch of {what}"
        return f"set the speed of {what}"


class FitClip(EditCommand):
    """Solve the speed that makes a clip's sound fit: a length, an edge moved to, a gap or a cut."""

    kind: Literal["fit_clip"]
    id: str
    edge: Literal["start", "end"] = "end"
    length: Annotated[int, Field(ge=1, le=2**40)] | None = None
    to: Moment | None = None
    until: Literal["gap", "cut"] | None = None
    ripple: bool = False

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = clip_path(document, self.id)
        clip = at(document, path)
        length = self._length(document, path, clock)
        source = covered(clip, clock.sample_rate)
        if length <= 0:
            raise Refused("a clip must end after it begins", "to")
        exact = Fraction(100 * source, length)
        if not SLOWEST <= exact <= FASTEST:
            raise Refused(
                f"that would take {float(exact):.4g} % of the speed; "
                f"{SLOWEST:g} to {FASTEST:g} % are possible",
                "to",
            )
        told = {**clip.get("speed", {}), **_told(document, path, clip)}
        if told:
            clip = {**clip, "speed": told}
        changed = clip_at_speed(clip, float(exact), length, source, clock.sample_rate)
        if self.edge == "start":
            changed["start"] = clip["start"] + clip["length"] - length
        if changed["start"] < 0:
            raise Refused("a clip cannot begin before the reel does", "to")
        steps = _replaced(document, {path: changed}, clock, self.ripple and self.edge == "end")
        return with_crossfades(document, steps, {path[:2]})

    def _length(self, document: Document, path: Path, clock: Clock) -> int:
        if sum(v is not None for v in (self.length, self.to, self.until)) != 1:
            raise Refused("give either a length, a moment, or what to fit to", "to")
        clip = at(document, path)
        start, end = int(clip["start"]), int(clip["start"] + clip["length"])
        if self.length is not None:
            return self.length
        if self.to is not None:
            to = self.to.of(clock)
            return int(to - start if self.edge == "end" else end - to)
        if self.until == "cut":
            cuts = [clock.sample_of_frame(f) for f in document.get("picture", {}).get("cuts", [])]
            after = [c for c in cuts if c > start]
            if not after:
                raise Refused("there is no cut after the clip begins", "until")
            # The one that its end is nearest to; what ends on a cut goes on to the next.
            later = [c for c in after if c > end]
            near = min((c for c in after if c != end), key=lambda c: abs(c - end), default=None)
            chosen = later[0] if near is None or near == start else near
            return int(chosen - start)
        others = [c for c in at(document, path[:2]).get("clips", []) if c["id"] != self.id]
        after = [c["start"] for c in others if c["start"] > start]
        if not after:
            raise Refused("there is no clip after this one on its track", "until")
        return int(min(after) - start)

    def title(self, document: Document) -> str:
        return f"fit {name_of(document, clip_path(document, self.id))}"


def _told(document: Document, path: Path, clip: Part) -> Part:
    """What a clip is made of, by what its track carries, unless the clip says so itself."""
    carries = at(document, path[:2]).get("material")
    if not carries or "material" in clip.get("speed", {}):
        return {}
    return {"material": "voice" if carries == "speech" else "music"}


class ResetSpeed(EditCommand):
    """Give clips their own speed back; they play the same sound.

    Pitch, formants and material stay, unless ``all`` of them are to be reset.
    """

    # Older journals say “unhurry_clips”.
    kind: Literal["reset_speed", "unhurry_clips"]
    ids: SomeIds
    all: bool = False
    ripple: bool = False

    def patch(self, document: Document, clock: Clock) -> Patch:
        new: dict[Path, Part] = {}
        for id in self.ids:
            path = clip_path(document, id)
            clip = at(document, path)
            if "speed" not in clip:
                continue
            if self.all:
                source = covered(clip, clock.sample_rate)
                changed = clip_at_speed(clip, 100.0, max(1, source), source, clock.sample_rate)
                changed["source_start"] = place_at_start(clip, clock.sample_rate)
                new[path] = {k: v for k, v in changed.items() if k != "speed"}
            elif "percent" in clip["speed"]:
                new[path] = clip_at_own_speed(clip, clock.sample_rate)
        steps = _replaced(document, new, clock, self.ripple)
        return with_crossfades(document, steps, {path[:2] for path in new})

    def title(self, document: Document) -> str:
        paths = [clip_path(document, id) for id in self.ids]
        what = "speed, pitch and material" if self.all else "the speed"
        return f"reset {what} of {names_of(document, paths, 'clips')}"


def _replaced(document: Document, new: dict[Path, Part], clock: Clock, ripple: bool) -> Patch:
    """Put changed clips in place of those at some paths; with ``ripple`` what lies after them on
    their tracks moves with their ends."""
    steps: Patch = []
    for track in sorted({path[:2] for path in new} if ripple else ()):
        mine = {path: clip for path, clip in new.items() if path[:2] == track}
        gaps = [(_end(clip), _end(at(document, path))) for path, clip in mine.items()]
        gaps = [(start, end) for start, end in gaps if start != end]
        closed = ClosedGaps(gaps, clock)
        # Those that are changed themselves lie after others that are.
        new |= {path: {**c, "start": closed.place(c["start"])} for path, c in mine.items()}
        steps += moved_up(document, track, gaps, clock, besides=set(mine))
    return steps + put_many(document, new)


def _end(clip: Part) -> int:
    return int(clip["start"] + clip["length"])
