"""Ramps of treatments and fades of clips."""

from __future__ import annotations

from dataclasses import dataclass

from bathyphon.core.arrays import Floats
from bathyphon.core.timing.constants import constant
from bathyphon.core.timing.shapes import SHAPES


@dataclass(frozen=True)
class Envelope:
    """A ramp in, a hold at 1 and a ramp out: ramps of a treatment, fades of a clip.

    Sample *k* of the ramp in is s(k/N); the last sample of the ramp out is s(1/N). Outside
    ``[0, length)`` the envelope is zero.
    """

    length: int
    head: int = 0
    head_shape: str = "linear"
    foot: int = 0
    foot_shape: str = "linear"
    head_bend: float = 0.0
    foot_bend: float = 0.0

    def values(self, start: int, count: int) -> Floats:
        """Values at samples ``start … start + count − 1`` from the owner's start.

        They may be shared and must not be written to.
        """
        if self.head <= start and start + count <= self.length - self.foot:
            return constant(1.0, count)
        # See Curve.values.
        from bathyphon.core.timing.sampling import ramped

        head = self.head, SHAPES[self.head_shape], self.head_bend
        foot = self.foot, SHAPES[self.foot_shape], self.foot_bend
        return ramped(start, count, self.length, head, foot)

    def touching(self, start: int, stop: int) -> tuple[object, ...]:
        """What decides the values in ``[start, stop)``: equal results mean equal samples."""
        parts: list[object] = []
        if start < self.head:
            parts.append(("head", self.head, self.head_shape, self.head_bend, min(0, start)))
        if stop > self.length - self.foot:
            parts.append(("foot", self.length, self.foot, self.foot_shape, self.foot_bend))
        return tuple(parts)
