"""Curves: shapes of ramps and fades, and keyframed values evaluated per sample.

Everything that loops over samples is compiled, with one scalar formula per sample: a value then
depends on its absolute position alone, never on how the time line was cut into blocks.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numba import njit
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Scale = Literal["linear", "log", "db"]

SHAPES = {"linear": 0, "smooth": 1, "equal_power": 2, "log": 3, "bend": 4, "hold": 5}
GLIDE_SECONDS = 0.005
SILENCE_DB = -96.0
NOTHING, QUIETEST_DB = 1e-10, -200.0


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
def eased_at(shape: int, bend: float, soft: float, u: float) -> float:  # pragma: no cover
    """A shape at progress ``u``, with softened ends: 0 as it is, 1 as soft as ``smooth``."""
    s = shape_at(shape, bend, u)
    if soft == 0.0:
        return s
    return s + soft * (s * s * (3.0 - 2.0 * s) - s)


@njit(cache=True, nogil=True, inline="always")
def _clipped(start: int, a: int, b: int, count: int) -> tuple[int, int]:  # pragma: no cover
    return min(max(a - start, 0), count), min(max(b - start, 0), count)


@njit(cache=True, nogil=True)
def _held(
    start: int, at: NDArray[np.int64], value: Floats, shape: NDArray[np.int64], out: Floats
) -> None:  # pragma: no cover - compiled
    """Before the first keyframe, on hold and from the last one on the value stays.

    Every other segment begins with its keyframe's very value.
    """
    last = at.size - 1
    first, _ = _clipped(start, at[0], at[0], out.size)
    out[:first] = value[0]
    for segment in range(last + 1):
        stays = segment == last or shape[segment] == 5
        end = at[segment] + 1
        if stays:
            end = at[segment + 1] if segment < last else start + out.size
        lo, hi = _clipped(start, at[segment], end, out.size)
        out[lo:hi] = value[segment]


@njit(cache=True, nogil=True)
def _interpolated(
    start: int,
    at: NDArray[np.int64],
    value: Floats,
    shape: NDArray[np.int64],
    bend: Floats,
    soft: Floats,
    out: Floats,
) -> None:  # pragma: no cover - compiled
    """What lies between keyframes, by their shapes."""
    for segment in range(at.size - 1):
        if shape[segment] == 5:
            continue
        lo, hi = _clipped(start, at[segment], at[segment + 1], out.size)
        here = value[segment]
        span = value[segment + 1] - here
        length = at[segment + 1] - at[segment]
        offset = start - at[segment]
        if shape[segment] == 0 and soft[segment] == 0.0:
            for k in range(lo, hi):
                out[k] = here + (offset + k) / length * span
        else:
            for k in range(lo, hi):
                u = (offset + k) / length
                s = eased_at(shape[segment], bend[segment], soft[segment], u)
                out[k] = here + s * span


@njit(cache=True, nogil=True)
def _through_silence(
    start: int,
    at: NDArray[np.int64],
    value: Floats,
    shape: NDArray[np.int64],
    bend: Floats,
    soft: Floats,
    out: Floats,
) -> None:  # pragma: no cover - compiled
    """Levels in dB between keyframes of which one is silence: they move in amplitude."""
    for segment in range(at.size - 1):
        silent = value[segment] <= SILENCE_DB or value[segment + 1] <= SILENCE_DB
        if shape[segment] == 5 or not silent:
            continue
        lo, hi = _clipped(start, at[segment], at[segment + 1], out.size)
        a = 0.0 if value[segment] <= SILENCE_DB else 10.0 ** (value[segment] / 20.0)
        b = 0.0 if value[segment + 1] <= SILENCE_DB else 10.0 ** (value[segment + 1] / 20.0)
        length = at[segment + 1] - at[segment]
        for k in range(lo, hi):
            u = (start + k - at[segment]) / length
            s = eased_at(shape[segment], bend[segment], soft[segment], u)
            gain = a + s * (b - a)
            out[k] = 20.0 * math.log10(gain) if gain > NOTHING else QUIETEST_DB


@njit(cache=True, nogil=True)
def _glided(
    start: int,
    at: NDArray[np.int64],
    value: Floats,
    shape: NDArray[np.int64],
    glide: int,
    out: Floats,
) -> None:  # pragma: no cover - compiled
    """A value that was held until a keyframe steps there: a step is a short glide."""
    for segment in range(1, at.size):
        if shape[segment - 1] != 5:
            continue
        end = at[segment] + glide
        if segment + 1 < at.size:
            end = min(end, at[segment + 1])
        before = value[segment - 1]
        lo, hi = _clipped(start, at[segment], end, out.size)
        for k in range(lo, hi):
            s = shape_at(1, 0.0, (start + k - at[segment]) / glide)
            out[k] = before + s * (out[k] - before)


_constants: dict[float, Floats] = {}
_NONE = np.empty(0)
MOST_CONSTANTS = 64
LONGEST_CONSTANT = 1 << 16
"""Samples of a whole render's block; more than that is made anew, so that little memory is held."""


def constant(value: float, count: int) -> Floats:
    """The same value ``count`` times; shared, and not to be written to.

    Most parameters never move: filling new memory with them cost as much as some effects.
    """
    if count > LONGEST_CONSTANT:
        return np.full(count, value)
    held = _constants.get(value)
    if held is None or held.size < count:
        if len(_constants) >= MOST_CONSTANTS:
            _constants.clear()
        held = _constants[value] = np.full(count, value)
    return held[:count]


def shared_constants() -> dict[float, Floats]:
    """What :func:`constant` holds, by value: every one of them must still be constant."""
    return _constants


def still(values: Floats) -> Floats:
    """The same values, as a single one if they do not move."""
    if not values.size:
        return values
    held = _constants.get(float(values[0]))
    if (held is not None and values.base is held) or (values == values[0]).all():
        return values[:1]
    return values


def least(values: Floats) -> float:
    """Smallest of values between 0 and 1, or 1 if there are none; of shared ones at once."""
    if not values.size:
        return 1.0
    first = float(values[0])
    return first if values.base is _constants.get(first, _NONE) else float(values.min())


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
        places, values, shapes, bends, softs = self._columns
        at, value, shape, bend, soft = (
            places[near], values[near], shapes[near], bends[near], softs[near],
        )  # fmt: skip
        out = np.empty(count)
        if self.scale == "log":
            logarithm = np.log(value)
            _held(start, at, logarithm, shape, out)
            _interpolated(start, at, logarithm, shape, bend, soft, out)
            np.exp(out, out=out)
        else:
            _interpolated(start, at, value, shape, bend, soft, out)
            if self.scale == "db" and not self.straight and self.smallest <= SILENCE_DB:
                _through_silence(start, at, value, shape, bend, soft, out)
        _held(start, at, value, shape, out)
        _glided(start, at, value, shape, glide_samples(sample_rate), out)
        return out

    @cached_property
    def _columns(self) -> tuple[NDArray[np.int64], Floats, NDArray[np.int64], Floats, Floats]:
        frames = self.keyframes
        return (
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


def glide_samples(sample_rate: int) -> int:
    """Length in samples of the 5 ms smooth glide that stands for every step."""
    return max(1, round(GLIDE_SECONDS * sample_rate))


@njit(cache=True, nogil=True)
def _envelope(
    start: int,
    length: int,
    head: int,
    head_shape: int,
    head_bend: float,
    foot: int,
    foot_shape: int,
    foot_bend: float,
    out: Floats,
) -> None:  # pragma: no cover - compiled
    for k in range(out.size):
        t = start + k
        if t < 0 or t >= length:
            out[k] = 0.0
            continue
        y = 1.0
        if t < head:
            y *= shape_at(head_shape, head_bend, t / head)
        if length - t < foot:
            y *= shape_at(foot_shape, foot_bend, (length - t) / foot)
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
    head_bend: float = 0.0
    foot_bend: float = 0.0

    def values(self, start: int, count: int) -> Floats:
        """Values at samples ``start … start + count − 1`` from the owner's start.

        They may be shared and must not be written to.
        """
        if self.head <= start and start + count <= self.length - self.foot:
            return constant(1.0, count)
        out = np.empty(count)
        _envelope(
            start,
            self.length,
            self.head,
            SHAPES[self.head_shape],
            self.head_bend,
            self.foot,
            SHAPES[self.foot_shape],
            self.foot_bend,
            out,
        )
        return out

    def touching(self, start: int, stop: int) -> tuple[object, ...]:
        """What decides the values in ``[start, stop)``: equal results mean equal samples."""
        parts: list[object] = []
        if start < self.head:
            parts.append(("head", self.head, self.head_shape, self.head_bend, min(0, start)))
        if stop > self.length - self.foot:
            parts.append(("foot", self.length, self.foot, self.foot_shape, self.foot_bend))
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
def _ended(neutral: float, target: Floats, depth: Floats, out: Floats) -> None:  # pragma: no cover
    """Put the very values where a glide has not begun or has ended."""
    for k in range(out.size):
        if depth[k] >= 1.0:
            out[k] = target[k]
        elif depth[k] <= 0.0:
            out[k] = neutral


def glide_from(neutral: float, target: Floats, depth: Floats, scale: Scale) -> Floats:
    """Values on the way from ``neutral`` (depth 0) to ``target`` (depth 1), in their scale.

    They may be shared and must not be written to.
    """
    if least(depth) >= 1.0:
        return target
    if scale == "log":
        from_neutral = np.log(target)
        from_neutral -= math.log(neutral)
        from_neutral *= depth
        out = np.exp(from_neutral, out=from_neutral)
        out *= neutral
    else:
        out = neutral + depth * (target - neutral)
    _ended(neutral, target, depth, out)
    return out


def as_curve(value: float | Sequence[Keyframe], scale: Scale = "linear") -> Curve:
    """A curve from a number or from keyframes."""
    if isinstance(value, (int, float)):
        return Curve.constant(value, scale)
    return Curve(tuple(value), scale)
