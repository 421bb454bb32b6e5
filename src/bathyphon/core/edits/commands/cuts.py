"""Commands on cuts and the shots that begin at them."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.beds import follow_cut
from bathyphon.core.edits.command import EditCommand, Part, set_values
from bathyphon.core.edits.crossfades import with_crossfades
from bathyphon.core.edits.patch import Patch
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

MOST_CUTS = 20_000
Frame = int


class AddCut(EditCommand):
    """Mark a cut at a frame."""

    kind: Literal["add_cut"]
    frame: int = Field(ge=1, le=2**40)

    def patch(self, document: Document, clock: Clock) -> Patch:
        picture = _picture(document)
        if self.frame in picture["cuts"]:
            raise Refused(f"there is a cut at frame {self.frame} already", "frame")
        return _changed(
            document,
            cuts=[*picture["cuts"], self.frame],
            shots=[*picture["shots"], {"frame": self.frame, "by": "hand"}],
            not_cuts=[f for f in picture["not_cuts"] if f != self.frame],
        )

    def title(self, document: Document) -> str:
        return "add a cut"


class RemoveCut(EditCommand):
    """Remove the cut at a frame; finding cuts again does not bring it back."""

    kind: Literal["remove_cut"]
    frame: int

    def patch(self, document: Document, clock: Clock) -> Patch:
        picture = _picture(document)
        _there(picture, self.frame)
        found = _shot(picture, self.frame).get("by", "hand") == "finder"
        return _changed(
            document,
            cuts=[f for f in picture["cuts"] if f != self.frame],
            shots=[s for s in picture["shots"] if s["frame"] != self.frame],
            not_cuts=[*picture["not_cuts"], *([self.frame] if found else [])],
        )

    def title(self, document: Document) -> str:
        return "remove a cut"


class MoveCut(EditCommand):
    """Move a cut to another frame; its shot keeps its name, and beds that meet there follow."""

    kind: Literal["move_cut"]
    frame: int
    to: int = Field(ge=1, le=2**40)

    def patch(self, document: Document, clock: Clock) -> Patch:
        picture = _picture(document)
        _there(picture, self.frame)
        if self.to != self.frame and self.to in picture["cuts"]:
            raise Refused(f"there is a cut at frame {self.to} already", "to")
        shot = _shot(picture, self.frame)
        found = shot.get("by", "hand") == "finder"
        moved, tracks = follow_cut(
            document, clock.sample_of_frame(self.frame), clock.sample_of_frame(self.to), clock
        )
        return with_crossfades(document, moved, tracks) + _changed(
            document,
            cuts=[*(f for f in picture["cuts"] if f != self.frame), self.to],
            shots=[
                *(s for s in picture["shots"] if s["frame"] != self.frame),
                {**shot, "frame": self.to, "by": "hand"},
            ],
            not_cuts=[*picture["not_cuts"], *([self.frame] if found else [])],
        )

    def title(self, document: Document) -> str:
        return "move a cut"


class NameShot(EditCommand):
    """Name the shot that begins at a cut; frame 0 is the first shot."""

    kind: Literal["name_shot"]
    frame: int = Field(ge=0)
    name: str = Field(max_length=400)

    def patch(self, document: Document, clock: Clock) -> Patch:
        picture = _picture(document)
        if self.frame:
            _there(picture, self.frame)
        shot = _shot(picture, self.frame)
        rest = [s for s in picture["shots"] if s["frame"] != self.frame]
        return _changed(document, shots=[*rest, {**shot, "name": self.name}])

    def title(self, document: Document) -> str:
        return f"name a shot “{self.name}”"


class FoundCut(EditCommand):
    """A cut as the finder or a file gives it."""

    frame: int = Field(ge=1, le=2**40)
    kind: Literal["hard", "dissolve", "fade"] = "hard"
    length: int = Field(0, ge=0, le=2**30)
    name: str = Field("", max_length=400)


class SetCuts(EditCommand):
    """Put in the cuts that the finder or a file gives; those set by hand stay."""

    kind: Literal["set_cuts"]
    cuts: list[FoundCut] = Field(max_length=MOST_CUTS)
    by: Literal["finder", "file"]

    def patch(self, document: Document, clock: Clock) -> Patch:
        picture = _picture(document)
        own = {s["frame"]: s for s in picture["shots"]}
        kept = {
            f: own.get(f, {"frame": f, "by": "hand"})
            for f in picture["cuts"]
            if own.get(f, {}).get("by", "hand") == "hand"
        }
        names = {f: s["name"] for f, s in own.items() if s.get("name")}
        gone = set(picture["not_cuts"]) if self.by == "finder" else set()
        for cut in self.cuts:
            if cut.frame in kept or cut.frame in gone:
                continue
            shot: Part = {"frame": cut.frame, "by": self.by}
            if cut.kind != "hard":
                shot |= {"kind": cut.kind, "length": cut.length}
            name = cut.name or names.get(cut.frame, "")
            kept[cut.frame] = {**shot, "name": name} if name else shot
        first = [s for s in picture["shots"] if s["frame"] == 0]
        return _changed(document, cuts=list(kept), shots=[*first, *kept.values()])

    def title(self, document: Document) -> str:
        return f"{'find' if self.by == 'finder' else 'read'} {len(self.cuts)} cuts"


def _picture(document: Document) -> Part:
    return {"cuts": [], "shots": [], "not_cuts": [], **document.get("picture", {})}


def _there(picture: Part, frame: Frame) -> None:
    if frame not in picture["cuts"]:
        raise Refused(f"there is no cut at frame {frame}", "frame")


def _shot(picture: Part, frame: Frame) -> Part:
    return next((s for s in picture["shots"] if s["frame"] == frame), {"frame": frame})


def _changed(
    document: Document,
    shots: list[Part],
    cuts: list[Frame] | None = None,
    not_cuts: list[Frame] | None = None,
) -> Patch:
    values: Part = {"shots": sorted(shots, key=lambda s: s["frame"])}
    if cuts is not None:
        values["cuts"] = sorted(cuts)
    if not_cuts is not None and (not_cuts or "not_cuts" in document.get("picture", {})):
        values["not_cuts"] = sorted(set(not_cuts))
    if "picture" not in document:
        return [{"op": "add", "path": "/picture", "value": {"clips": [], "cuts": [], **values}}]
    return set_values(document, ("picture",), values)
