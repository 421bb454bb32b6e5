"""Keyframes and curves: values that may move."""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.timing.constants import constant
from bathyphon.core.timing.shapes import (
    NOTHING,
    QUIETEST_DB,
    SHAPES,
    SILENCE_DB,
    Scale,
    eased_at,
    glide_samples,
    shape_at,
)


class Columns(NamedTuple):
    """Keyframes by columns, as compiled code reads them, each of shape (n,)."""

    at: NDArray[np.int64]
    value: Floats
    shape: NDArray[np.int64]
    bend: Floats
    soft: Floats

    def part(self, rows: slice) -> Columns:
        """Some of the rows."""
        return Columns(
            self.at[rows], self.value[rows], self.shape[rows], self.bend[rows], self.soft[rows]
        )


@dataclass(frozen=True)
class Keyframe:
    """One keyframe: its position in samples from the owner's start, its value and its ease.

    ``bend`` in [−1, 1] arrives early or late; ``soft`` in [0, 1] softens both ends.
    """

    at: int
    value: float
    ease: str = "linear"
    bend: float = 0.0
    soft: float = 0.0


@dataclass(frozen=True)
class Curve:
    """A value that may move: one or more keyframes, interpolated in the parameter's scale.

    Parameters
    ----------
    keyframes : sequence of Keyframe
        In rising order of ``at``. One keyframe is a constant.
    scale : {"linear", "log", "db"}
        ``log`` interpolates logarithms (frequency, time); ``db`` values are decibels already, and
        what begins or ends in silence moves in amplitude.
    straight : bool
        Whether decibels move straight into silence, as they did in older documents.
    """

    keyframes: tuple[Keyframe, ...]
    scale: Scale = "linear"
    straight: bool = False

    @staticmethod
    def constant(value: float, scale: Scale = "linear") -> Curve:
        """A curve that never moves."""
        return Curve((Keyframe(0, float(value)),), scale)

    @cached_property
    def moves(self) -> bool:
        """Whether the value differs anywhere."""
        first = self.keyframes[0].value
        return any(k.value != first for k in self.keyframes)

    @cached_property
    def largest(self) -> float:
        """Largest value the curve reaches; every shape stays between its two keyframes."""
        return max(k.value for k in self.keyframes)

    @cached_property
    def smallest(self) -> float:
        """Smallest value the curve reaches."""
        return min(k.value for k in self.keyframes)

    def values(self, start: int, count: int, sample_rate: int) -> Floats:
        """Values at samples ``start … start + count − 1`` of the owner, float64 of shape (count,).

        They may be shared and must not be written to.

        Parameters
        ----------
        start, count : int
            Range in samples from the owner's start.
        sample_rate : int
            Samples a second; sets the length of the glide that replaces a bare step.
        """
        if not self.moves:
            return constant(self.keyframes[0].value, count)
        first, last = self._around(start, start + count, sample_rate)
        near = slice(first, last)
        columns = self._columns.part(near)
        # What is compiled takes a while to import: not before a value that moves is asked for.
        from bathyphon.core.timing.sampling import sampled

        through_silence = self.scale == "db" and not self.straight and self.smallest <= SILENCE_DB
        return sampled(
            columns, start, count, self.scale == "log", through_silence, glide_samples(sample_rate)
        )

    def at(self, place: int, sample_rate: int) -> float:
        """Value at one sample of the owner, the same as :meth:`values` gives, by plain Python.

        Examples
        --------
        >>> fall = Curve((Keyframe(0, 1.0), Keyframe(100, 0.0)))
        >>> fall.at(25, 48000)
        0.75
        """
        if not self.moves:
            return self.keyframes[0].value
        i = bisect_right(self._places, place) - 1
        if i < 0:
            return self.keyframes[0].value
        value = self._within(i, place)
        before = self.keyframes[i - 1] if i else None
        if before is None or before.ease != "hold":
            return value
        # A value that was held until this keyframe glides to it.
        since, glide = place - self.keyframes[i].at, glide_samples(sample_rate)
        if since >= glide:
            return value
        return before.value + shape_at(SHAPES["smooth"], 0.0, since / glide) * (
            value - before.value
        )

    def _within(self, i: int, place: int) -> float:
        """Value on the way from one keyframe to the next, as if it had not been held before."""
        here = self.keyframes[i]
        if i + 1 == len(self.keyframes) or here.ease == "hold" or place == here.at:
            return here.value
        there = self.keyframes[i + 1]
        u = (place - here.at) / (there.at - here.at)
        straight = here.ease == "linear" and here.soft == 0.0
        s = u if straight else eased_at(SHAPES[here.ease], here.bend, here.soft, u)
        a, b = here.value, there.value
        if self.scale == "log":
            # NumPy's logarithm, which compiled values are made with.
            a, b = np.log(np.array([a, b])).tolist()
            return float(np.exp(np.array([a + s * (b - a)]))[0])
        if self.scale == "db" and not self.straight and min(a, b) <= SILENCE_DB:
            a, b = (0.0 if v <= SILENCE_DB else 10.0 ** (v / 20.0) for v in (a, b))
            gain = a + s * (b - a)
            return 20.0 * math.log10(gain) if gain > NOTHING else QUIETEST_DB
        return a + s * (b - a)

    @cached_property
    def _columns(self) -> Columns:
        frames = self.keyframes
        return Columns(
            np.array([k.at for k in frames], dtype=np.int64),
            np.array([k.value for k in frames]),
            np.array([SHAPES[k.ease] for k in frames], dtype=np.int64),
            np.array([k.bend for k in frames]),
            np.array([k.soft for k in frames]),
        )

    def touching(self, start: int, stop: int, sample_rate: int) -> tuple[object, ...]:
        """What decides the values in ``[start, stop)``: equal results mean equal samples."""
        if not self.moves:
            return (self.scale, self.keyframes[0].value)
        first, last = self._around(start, stop, sample_rate)
        return (self.scale, self.straight, *self.keyframes[first:last])

    def _around(self, start: int, stop: int, sample_rate: int) -> tuple[int, int]:
        """Which keyframes decide the values in ``[start, stop)``: from one to before another."""
        # A held value steps at its successor and glides from there, hence the earlier start.
        first = bisect_right(self._places, start - glide_samples(sample_rate)) - 2
        return max(0, first), bisect_left(self._places, stop) + 1

    @cached_property
    def _places(self) -> list[int]:
        return [k.at for k in self.keyframes]
