"""Values of curves and envelopes at each sample, compiled.

One scalar formula per sample: a value depends on its absolute position alone, never on how the
time line was cut into blocks.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.timing import shapes
from bathyphon.core.timing.shapes import NOTHING, QUIETEST_DB, SILENCE_DB

if TYPE_CHECKING:
    from bathyphon.core.timing.curves import Columns

Ramp = tuple[int, int, float]


shape_at = njit(cache=True, nogil=True)(shapes.shape_at)


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


def sampled(
    columns: Columns, start: int, count: int, logarithmic: bool, through_silence: bool, glide: int
) -> Floats:
    """Values of keyframes at samples ``start … start + count − 1``.

    Parameters
    ----------
    columns : Columns
        Keyframes near enough to matter, in rising order.
    start, count : int
    logarithmic : bool
        Whether logarithms are interpolated.
    through_silence : bool
        Whether levels in dB that begin or end in silence move in amplitude.
    glide : int
        Samples of the glide that stands for a step.

    Returns
    -------
    ndarray of float64, shape (count,)
    """
    at, value, shape, bend, soft = columns
    out = np.empty(count)
    if logarithmic:
        logarithm = np.log(value)
        _held(start, at, logarithm, shape, out)
        _interpolated(start, at, logarithm, shape, bend, soft, out)
        np.exp(out, out=out)
    else:
        _interpolated(start, at, value, shape, bend, soft, out)
        if through_silence:
            _through_silence(start, at, value, shape, bend, soft, out)
    _held(start, at, value, shape, out)
    _glided(start, at, value, shape, glide, out)
    return out


def ramped(start: int, count: int, length: int, head: Ramp, foot: Ramp) -> Floats:
    """An envelope at samples ``start … start + count − 1``.

    Parameters
    ----------
    start, count : int
    length : int
        Samples of its owner; outside, it is zero.
    head, foot : (int, int, float)
        Length, number and bend of each ramp's shape.

    Returns
    -------
    ndarray of float64, shape (count,)
    """
    out = np.empty(count)
    _envelope(start, length, *head, *foot, out)
    return out
