"""Treating a range, on one track or on several at once."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from bathyphon.core.edits.command import EditCommand, Part, names_of
from bathyphon.core.edits.commands.chains import MOST_EFFECTS
from bathyphon.core.edits.commands.treatments import AddTreatment
from bathyphon.core.edits.find import track_path
from bathyphon.core.edits.patch import Patch
from bathyphon.core.edits.spans import RAMP_IN, RAMP_OUT, Moment, RampLength
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock


class OnTrack(BaseModel):
    """A track to treat, and the id of the treatment that it gets."""

    model_config = ConfigDict(extra="forbid", strict=True)
    track: str
    id: str


class TreatRange(EditCommand):
    """Treat the same range of one or several tracks, from a frame's beginning to another's.

    Of a range within which nothing fits the whole frame around it is treated. Ramps are as many
    frames as are given, as far as there is room; without, 3 in and 6 out, and less on a short
    range, so that most of it is treated in full.
    """

    kind: Literal["treat_range"]
    on: list[OnTrack] = Field(min_length=1, max_length=300)
    start: Moment
    end: Moment
    name: str = Field("", max_length=400)
    ramps: list[int] = Field(default_factory=list, max_length=2)
    effects: list[Part] = Field(default_factory=list, max_length=MOST_EFFECTS)

    def patch(self, document: Document, clock: Clock) -> Patch:
        first = clock.frame_of_sample(self.start.of(clock))
        last = clock.frame_of_sample(self.end.of(clock))
        if self.end.of(clock) <= self.start.of(clock):
            raise Refused("a range must end after it starts", "end")
        last = max(last, first + 1)
        head, foot = fitted_ramps(last - first, self.ramps)
        patch: Patch = []
        for place in {on.track: on for on in self.on}.values():
            command = AddTreatment(
                kind="add_treatment",
                track=place.track,
                id=place.id,
                name=self.name,
                start=Moment(frame=first),
                end=Moment(frame=last),
                ramp_in=RampLength(frames=head),
                ramp_out=RampLength(frames=foot),
                effects=self.effects,
            )
            patch += command.patch(document, clock)
        return patch

    def title(self, document: Document) -> str:
        paths = list(dict.fromkeys(track_path(document, on.track) for on in self.on))
        return f"treat {names_of(document, paths, 'tracks')}"


def fitted_ramps(frames: int, wanted: list[int]) -> tuple[int, int]:
    """Frames of the ramps of a treatment so long; see :class:`TreatRange`.

    Parameters
    ----------
    frames : int
        How long the treatment is.
    wanted : list of int
        The ramps in and out, or one number for both, or none.
    """
    if any(ramp < 0 for ramp in wanted):
        raise Refused("a ramp lasts no less than 0 frames", "ramps")
    head = wanted[0] if wanted else min(RAMP_IN, frames // 3)
    foot = wanted[-1] if wanted else min(RAMP_OUT, frames // 2)
    head = min(head, frames)
    return head, min(foot, frames - head)
