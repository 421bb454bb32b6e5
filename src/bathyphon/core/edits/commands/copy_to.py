"""Copying what one part has to many others in one step."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.command import EditCommand, Part, name_of, set_many
from bathyphon.core.edits.commands.fades import fades_like
from bathyphon.core.edits.commands.treatments import Copy, CopyTreatment
from bathyphon.core.edits.copy_places import Places, clips_of, over_clips, spans_of
from bathyphon.core.edits.find import Path, at, clip_path, treatment_path
from bathyphon.core.edits.patch import Patch
from bathyphon.core.edits.spans import Moment
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

What = Literal["treatment", "fades", "level"]
ALL: tuple[What, ...] = ("treatment", "fades", "level")


class CopyTo(EditCommand):
    """Copy a treatment, fades, a level, or all of them, to clips, shots or markers.

    Of a clip they go to clips; what is not copied stays as it is there. The treatment of a stretch
    goes over clips or shots from their beginning to their end, and begins at markers with its own
    length. Ramps and fades keep their frames; keyframes keep their distance from the beginning.

    Parameters
    ----------
    source : str
        ``clip:ID`` or ``treatment:ID``.
    what : list
        What is copied of a clip.
    to : Places
    id : str
        What ids of the copies of a stretch's treatment begin with.
    """

    kind: Literal["copy_to"]
    source: str
    what: list[What] = Field(default=["treatment"], min_length=1)
    to: Places
    id: str = Field(min_length=1, max_length=40)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path, kind = _source(document, self.source)
        if kind == "treatment":
            return self._laid(document, clock, path).patch(document, clock)
        own = at(document, path)
        over_clips(self.to)
        others = [
            other
            for id in clips_of(document, clock, self.to, at(document, path[:2]))
            if (other := clip_path(document, id)) != path
        ]
        if not others:
            raise Refused("there is no other clip of this kind", "to")
        if self.what == ["treatment"] and not own.get("treatment", {}).get("effects"):
            raise Refused("this clip has no effects", "source")
        return set_many(
            document, {path: self._given(own, at(document, path), clock) for path in others}
        )

    def title(self, document: Document) -> str:
        path, kind = _source(document, self.source)
        name = name_of(document, path)
        if kind == "treatment":
            return f"copy {name} to {self._where()}"
        what = [key for key in ALL if key in self.what]
        said = " and ".join([", ".join(what[:-1]), what[-1]] if what[1:] else what)
        return f"copy {said} of {name} to {self._where()}"

    def _where(self) -> str:
        to = self.to
        if to.clips is not None:
            return f"{len(to.clips)} clips" if len(to.clips) > 1 else "a clip"
        if to.track is not None:
            return "all clips of a track"
        if to.shots is not None:
            return f"shots “{to.shots}”"
        which = to.marked or to.markers
        name = (which.label or which.mark if which else None) or ""
        return f"shots with a marker “{name}”" if to.marked else f"markers “{name}”"

    def _laid(self, document: Document, clock: Clock, path: Path) -> CopyTreatment:
        """A treatment over each place, besides the one that it has already."""
        own, track = at(document, path), at(document, path[:2])
        there = (own["start"], own["start"] + own["length"])
        copies: list[Copy] = []
        if over_clips(self.to):
            for id in clips_of(document, clock, self.to, track):
                over = clip_path(document, id)
                clip = at(document, over)
                span = (clip["start"], clip["start"] + clip["length"])
                if over[:2] != path[:2] or span != there:
                    copies.append(Copy(id=f"{self.id}-{len(copies) + 1}", clip=id))
        else:
            for place in spans_of(document, clock, self.to, track):
                if place.start == own["start"]:
                    continue
                end = Moment(sample=place.end) if place.end > place.start else None
                id = f"{self.id}-{len(copies) + 1}"
                copies.append(Copy(id=id, start=Moment(sample=place.start), end=end))
        if not copies:
            raise Refused("there is no other place of this kind", "to")
        return CopyTreatment(kind="copy_treatment", id=own["id"], copies=copies)

    def _given(self, own: Part, other: Part, clock: Clock) -> Part:
        """What another clip gets of a clip."""
        given: Part = {}
        if "treatment" in self.what:
            given["treatment"] = own.get("treatment", {"effects": []})
        if "fades" in self.what:
            given |= fades_like(own, other, clock)
        if "level" in self.what:
            given["gain_db"] = own.get("gain_db", 0.0)
        return given


def _source(document: Document, source: str) -> tuple[Path, str]:
    kind, _, id = source.partition(":")
    if kind == "clip":
        return clip_path(document, id), kind
    if kind == "treatment":
        return treatment_path(document, id), kind
    raise Refused(f"“{source}” is not clip:ID or treatment:ID", "source")
