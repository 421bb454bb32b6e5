"""Curves: shapes of ramps and fades, and keyframed values evaluated per sample.

Everything that loops over samples is compiled, with one scalar formula per sample: a value then
depends on its absolute position alone, never on how the time line was cut into blocks.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numba import njit
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Scale = Literal["linear", "log", "db"]

SHAPES = {"linear": 0, "smooth": 1, "equal_power": 2, "log": 3, "bend": 4, "hold": 5}
GLIDE_SECONDS = 0.005
SILENCE_DB = -96.0


@njit(cache=True, nogil=True)
def shape_at(shape: int, bend: float, u: float) -> float:  # pragma: no cover - compiled
    """Value in [0, 1] of a shape at progress ``u`` in [0, 1] (ENGINE rules, section 3)."""
    if u <= 0.0:
        return 0.0
    if u >= 1.0:
        return 1.0
    if shape == 1:
        return u * u * (3.0 - 2.0 * u)
    if shape == 2:
        return math.sin(math.pi * u * 0.5)
    if shape == 3:
        return float((10.0 ** (2.0 * u) - 1.0) / 99.0)
    if shape == 4:
        return float(u ** (4.0**bend))
    if shape == 5:
        return 0.0
    return u


@njit(cache=True, nogil=True)
def _keyframes(
    start: int,
    at: NDArray[np.int64],
    value: Floats,
    shape: NDArray[np.int64],
    bend: Floats,
    glide: int,
    logarithmic: bool,
    out: Floats,
) -> None:  # pragma: no cover - compiled
    last = at.size - 1
    segment = 0
    for k in range(out.size):
        t = start + k
        while segment < last and at[segment + 1] <= t:
            segment += 1
        here = value[segment]
        if t < at[0]:
            out[k] = value[0]
            continue
        if segment < last and shape[segment] != 5:
            u = (t - at[segment]) / (at[segment + 1] - at[segment])
            s = shape_at(shape[segment], bend[segment], u)
            there = value[segment + 1]
            if s <= 0.0:
                y = here
            elif logarithmic:
                y = math.exp(math.log(here) + s * (math.log(there) - math.log(here)))
            else:
                y = here + s * (there - here)
        else:
            y = here
        # A value that was held until this keyframe steps here: a step is a short glide.
        if segment > 0 and shape[segment - 1] == 5 and t - at[segment] < glide:
            s = shape_at(1, 0.0, (t - at[segment]) / glide)
            y = value[segment - 1] + s * (y - value[segment - 1])
        out[k] = y


@dataclass(frozen=True)
class Keyframe:
    """One keyframe: its position in samples from the owner's start, its value and its ease."""

    at: int
    value: float
    ease: str = "linear"
    bend: float = 0.0


@dataclass(frozen=True)
class Curve:
    """A value that may move: one or more keyframes, interpolated in the parameter's scale.

    Parameters
    ----------
    keyframes : sequence of Keyframe
        In rising order of ``at``. One keyframe is a constant.
    scale : {"linear", "log", "db"}
        ``log`` interpolates logarithms (frequency, time); ``db`` values are decibels already.
    """

    keyframes: tuple[Keyframe, ...]
    scale: Scale = "linear"

    @staticmethod
    def constant(value: float, scale: Scale = "linear") -> Curve:
        """A curve that never moves."""
        return Curve((Keyframe(0, float(value)),), scale)

    @property
    def moves(self) -> bool:
        """Whether the value differs anywhere."""
        first = self.keyframes[0].value
        return any(k.value != first for k in self.keyframes)

    @property
    def largest(self) -> float:
        """Largest value the curve reaches; every shape stays between its two keyframes."""
        return max(k.value for k in self.keyframes)

    @property
    def smallest(self) -> float:
        """Smallest value the curve reaches."""
        return min(k.value for k in self.keyframes)

    def values(self, start: int, count: int, sample_rate: int) -> Floats:
        """Values at samples ``start … start + count − 1`` of the owner, float64 of shape (count,).

        Parameters
        ----------
        start, count : int
            Range in samples from the owner's start.
        sample_rate : int
            Samples a second; sets the length of the glide that replaces a bare step.
        """
        out = np.empty(count)
        if not self.moves:
            out[:] = self.keyframes[0].value
            return out
        frames = self.keyframes
        _keyframes(
            start,
            np.array([k.at for k in frames], dtype=np.int64),
            np.array([k.value for k in frames]),
            np.array([SHAPES[k.ease] for k in frames], dtype=np.int64),
            np.array([k.bend for k in frames]),
            glide_samples(sample_rate),
            self.scale == "log",
            out,
        )
        return out

    def touching(self, start: int, stop: int, sample_rate: int) -> tuple[object, ...]:
        """What decides the values in ``[start, stop)``: equal results mean equal samples."""
        if not self.moves:
            return (self.scale, self.keyframes[0].value)
        frames = self.keyframes
        # A held value steps at its successor and glides from there, hence the earlier start.
        reach = start - glide_samples(sample_rate)
        first = max((i for i, k in enumerate(frames) if k.at <= reach), default=0)
        first = max(0, first - 1)
        last = min((i for i, k in enumerate(frames) if k.at >= stop), default=len(frames) - 1)
        return (self.scale, *frames[first : last + 1])


def glide_samples(sample_rate: int) -> int:
    """Length in samples of the 5 ms smooth glide that stands for every step."""
    return max(1, round(GLIDE_SECONDS * sample_rate))


@njit(cache=True, nogil=True)
def _envelope(
    start: int,
    length: int,
    head: int,
    head_shape: int,
    foot: int,
    foot_shape: int,
    out: Floats,
) -> None:  # pragma: no cover - compiled
    for k in range(out.size):
        t = start + k
        if t < 0 or t >= length:
            out[k] = 0.0
            continue
        y = 1.0
        if t < head:
            y *= shape_at(head_shape, 0.0, t / head)
        if length - t < foot:
            y *= shape_at(foot_shape, 0.0, (length - t) / foot)
        out[k] = y


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

    def values(self, start: int, count: int) -> Floats:
        """Values at samples ``start … start + count − 1`` from the owner's start."""
        out = np.empty(count)
        _envelope(
            start,
            self.length,
            self.head,
            SHAPES[self.head_shape],
            self.foot,
            SHAPES[self.foot_shape],
            out,
        )
        return out

    def touching(self, start: int, stop: int) -> tuple[object, ...]:
        """What decides the values in ``[start, stop)``: equal results mean equal samples."""
        parts: list[object] = []
        if start < self.head:
            parts.append(("head", self.head, self.head_shape, min(0, start)))
        if stop > self.length - self.foot:
            parts.append(("foot", self.length, self.foot, self.foot_shape))
        return tuple(parts)


@njit(cache=True, nogil=True)
def _gain_of_db(db: Floats, out: Floats) -> None:  # pragma: no cover - compiled
    last = 0.0
    gain = 1.0
    for k in range(db.size):
        if db[k] != last:
            last = db[k]
            gain = 0.0 if last <= SILENCE_DB else 10.0 ** (last / 20.0)
        out[k] = gain


def gain_of_db(db: Floats) -> Floats:
    """Amplitude factors of levels in dB; −96 dB and below is silence."""
    out = np.empty_like(db)
    _gain_of_db(db, out)
    return out


@njit(cache=True, nogil=True)
def _glide(
    neutral: float, target: Floats, depth: Floats, logarithmic: bool, out: Floats
) -> None:  # pragma: no cover - compiled
    for k in range(out.size):
        d = depth[k]
        if d >= 1.0:
            out[k] = target[k]
        elif d <= 0.0:
            out[k] = neutral
        elif logarithmic:
            a = math.log(neutral)
            out[k] = math.exp(a + d * (math.log(target[k]) - a))
        else:
            out[k] = neutral + d * (target[k] - neutral)


def glide_from(neutral: float, target: Floats, depth: Floats, scale: Scale) -> Floats:
    """Values on the way from ``neutral`` (depth 0) to ``target`` (depth 1), in their scale."""
    out = np.empty_like(target)
    _glide(neutral, target, depth, scale == "log", out)
    return out


def as_curve(value: float | Sequence[Keyframe], scale: Scale = "linear") -> Curve:
    """A curve from a number or from keyframes."""
    if isinstance(value, (int, float)):
        return Curve.constant(value, scale)
    return Curve(tuple(value), scale)
