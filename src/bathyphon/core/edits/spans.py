"""Where a treatment begins and ends, in frames where it lies on frames."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from bathyphon.core.errors import Refused
from bathyphon.core.timing.clock import Clock

BEAT_LEAD_SECONDS = 0.010
"""So long before a beat a sound ends that is to end before it."""
RAMP_IN, RAMP_OUT = 3, 6
"""Frames of ramp where none is asked for: heard as a move, not as a switch."""


class Moment(BaseModel):
    """A moment of the reel: a frame's first sample, or a sample."""

    model_config = ConfigDict(extra="forbid", strict=True)
    frame: int | None = Field(None, ge=0, le=2**40)
    sample: int | None = Field(None, ge=0, le=2**47)

    def of(self, clock: Clock) -> int:
        """The moment in samples."""
        if (self.frame is None) == (self.sample is None):
            raise Refused("give a moment as {“frame”: n} or as {“sample”: n}")
        if self.frame is not None:
            return clock.sample_of_frame(self.frame)
        return self.sample or 0


class RampLength(BaseModel):
    """A ramp's new length, in frames or samples, and its shape, with a bend if it is one."""

    model_config = ConfigDict(extra="forbid", strict=True)
    frames: int | None = Field(None, ge=0, le=2**30)
    length: int | None = Field(None, ge=0, le=2**40)
    shape: str | None = None
    bend: float | None = Field(None, ge=-1, le=1)


def fitting(head: int, foot: int, room: int) -> tuple[int, int]:
    """Two ramps or fades, shortened in proportion where there is not enough room for both."""
    both = head + foot
    return (head, foot) if both <= room else (head * room // both, foot * room // both)


def resized(
    old: dict[str, Any],
    start: int | None,
    end: int | None,
    ramp_in: RampLength | None,
    ramp_out: RampLength | None,
    clock: Clock,
) -> dict[str, Any]:
    """New ``start``, ``length``, ``ramp_in`` and ``ramp_out`` of a treatment.

    What lay on frame boundaries keeps its count of frames when the treatment moves, since at
    rates such as 30000/1001 the same frames take a different number of samples elsewhere. Ramps
    that no longer fit are shortened in proportion.
    """
    first, last = old["start"], old["start"] + old["length"]
    new_first = first if start is None else start
    if end is not None:
        new_last = end
    elif start is None:
        new_last = last
    else:
        new_last = new_first + _moved(first, last, new_first, clock)
    if new_last <= new_first:
        raise Refused("a treatment must end after it starts", "end")
    head, foot = old.get("ramp_in", {}), old.get("ramp_out", {})
    head_samples = head_length(first, head.get("length", 0), new_first, ramp_in, clock)
    foot_samples = foot_length(last, foot.get("length", 0), new_last, ramp_out, clock)
    length = new_last - new_first
    if head_samples + foot_samples > length:
        if ramp_in is not None:
            head_samples = min(head_samples, length)
            foot_samples = min(foot_samples, length - head_samples)
        elif ramp_out is not None:
            foot_samples = min(foot_samples, length)
            head_samples = min(head_samples, length - foot_samples)
        else:
            head_samples, foot_samples = fitting(head_samples, foot_samples, length)
    return {
        "start": new_first,
        "length": length,
        "ramp_in": {**head, "length": head_samples, **shape_of(ramp_in)},
        "ramp_out": {**foot, "length": foot_samples, **shape_of(ramp_out)},
    }


def _moved(first: int, last: int, new_first: int, clock: Clock) -> int:
    """Length from ``new_first``, keeping the count of frames if all lies on frames."""
    if clock.on_frame(first) and clock.on_frame(last) and clock.on_frame(new_first):
        frames = clock.frame_of_sample(last) - clock.frame_of_sample(first)
        return clock.sample_of_frame(clock.frame_of_sample(new_first) + frames) - new_first
    return last - first


def head_length(
    first: int, length: int, new_first: int, wanted: RampLength | None, clock: Clock
) -> int:
    """Samples of a ramp in: as wanted, else as before, in frames if it lay on frames."""
    if wanted is not None and wanted.frames is not None:
        return clock.move_by_frames(new_first, wanted.frames) - new_first
    if wanted is not None and wanted.length is not None:
        return wanted.length
    return _moved(first, first + length, new_first, clock)


def foot_length(
    last: int, length: int, new_last: int, wanted: RampLength | None, clock: Clock
) -> int:
    """Samples of a ramp out: as wanted, else as before, in frames if it lay on frames."""
    if wanted is not None and wanted.frames is not None:
        return new_last - clock.move_by_frames(new_last, -wanted.frames)
    if wanted is not None and wanted.length is not None:
        return wanted.length
    if all(clock.on_frame(s) for s in (last, last - length, new_last)):
        frames = clock.frame_of_sample(last) - clock.frame_of_sample(last - length)
        return new_last - clock.sample_of_frame(clock.frame_of_sample(new_last) - frames)
    return length


def shape_of(wanted: RampLength | None) -> dict[str, Any]:
    """What a ramp's shape is to become; nothing where it stays."""
    if wanted is None:
        return {}
    given = {"shape": wanted.shape, "bend": wanted.bend}
    return {key: value for key, value in given.items() if value is not None}
