"""A phase vocoder with phase-gradient heap integration.

The synthesis hop is fixed and the analysis position free, so any curve of speed works. Each frame
of the output is a frame of the input whose bins are turned by a unit complex number: the one that
lets the input one hop earlier agree with the output so far. Bins that are strong in the last frame
pass their turn on in time, all others take it over from a stronger neighbour in frequency. No phase
is unwrapped, and while the input moves on as fast as the output nothing is turned at all.

Source: Z. Průša, N. Holighaus, "Phase vocoder done right", EUSIPCO 2017 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy import fft
from scipy.ndimage import uniform_filter1d

from bathyphon.core.curves import Floats

Ints = NDArray[np.int64]

FRAME = 2048
"""Samples of a frame; longer ones serve the bass."""
OVERLAP = 4
"""Frames that lie over each sample."""
BATCH = 64
"""Frames that are transformed at once; the grid is fixed, so that results never depend on it."""
_QUIET = 1e-12
"""Bins this much below a frame's strongest, in power, only carry on in time."""
SMOOTHED = 5
"""Frames over which a loss of level is smoothed."""
MOST_GAIN = 1.25
"""2 dB; more would not be noise."""

_kernel: Any = njit(cache=True, nogil=True)


def window(frame: int) -> Floats:
    """Periodic Hann window, used for analysis and for synthesis, shape (frame,)."""
    return np.asarray(0.5 - 0.5 * np.cos(2.0 * np.pi * np.arange(frame) / frame))


@_kernel
def _sift_down(value: Any, which: Any, size: int) -> None:  # pragma: no cover - compiled
    i = 0
    v, w = value[0], which[0]
    while True:
        child = 2 * i + 1
        if child >= size:
            break
        if child + 1 < size and value[child + 1] > value[child]:
            child += 1
        if value[child] <= v:
            break
        value[i], which[i] = value[child], which[child]
        i = child
    value[i], which[i] = v, w


@_kernel
def _push(value: Any, which: Any, size: int, v: float, w: int) -> None:  # pragma: no cover
    i = size
    while i > 0:
        parent = (i - 1) >> 1
        if value[parent] >= v:
            break
        value[i], which[i] = value[parent], which[parent]
        i = parent
    value[i], which[i] = v, w


@_kernel
def turn(
    now: Any, before: Any, last: Any, fresh: Any, out: Any, value: Any, which: Any, turns: Any
) -> None:  # pragma: no cover - compiled
    """Turn one frame so that it goes on from the last one.

    Parameters
    ----------
    now, before : ndarray of complex128, shape (channels, bins)
        The input at the frame's place and one hop earlier.
    last : ndarray of complex128, shape (channels, bins)
        The last frame of the output.
    fresh : ndarray of bool, shape (bins,)
        Bins that begin anew, untouched: those of an attack.
    out : ndarray of complex128, shape (channels, bins)
        Written.
    value, which, turns : ndarray
        Work space: 3 × bins of float64 and int64, bins of complex128.
    """
    channels, bins = now.shape
    loudest = 0.0
    done = np.zeros(bins, np.bool_)
    power = np.zeros(bins)
    size = 0
    for k in range(bins):
        p = 0.0
        q = 0.0
        re = 0.0
        im = 0.0
        for c in range(channels):
            a = now[c, k]
            p += a.real * a.real + a.imag * a.imag
            b = last[c, k]
            q += b.real * b.real + b.imag * b.imag
            d = before[c, k]
            # Summed over channels: one turn for all of them keeps the stereo image.
            re += b.real * d.real + b.imag * d.imag
            im += b.imag * d.real - b.real * d.imag
        power[k] = p
        if p > loudest:
            loudest = p
        size_of = np.sqrt(re * re + im * im)
        turns[k] = complex(re / size_of, im / size_of) if size_of > 1e-300 else complex(1.0, 0.0)
        if fresh[k]:
            turns[k] = complex(1.0, 0.0)
            done[k] = True
        elif q > 0.0:
            _push(value, which, size, q, k)
            size += 1
    for k in range(bins):
        if done[k]:
            _push(value, which, size, power[k], bins + k)
            size += 1
    floor = loudest * _QUIET
    left = 0
    for k in range(bins):
        if not done[k] and power[k] > floor:
            left += 1
    while left > 0 and size > 0:
        k = which[0]
        size -= 1
        value[0], which[0] = value[size], which[size]
        if size > 0:
            _sift_down(value, which, size)
        if k < bins:
            if not done[k]:
                done[k] = True
                if power[k] > floor:
                    left -= 1
                _push(value, which, size, power[k], bins + k)
                size += 1
            continue
        k -= bins
        for side in (-1, 1):
            j = k + side
            if 0 <= j < bins and not done[j] and power[j] > floor:
                turns[j] = turns[k]
                done[j] = True
                left -= 1
                _push(value, which, size, power[j], bins + j)
                size += 1
    for c in range(channels):
        for k in range(bins):
            out[c, k] = now[c, k] * turns[k]


@_kernel
def _cut(x: Any, centres: Any, shape: Any, out: Any) -> None:  # pragma: no cover - compiled
    """Windowed frames around places of a sound; beyond its ends there is silence."""
    channels, samples = x.shape
    frame = shape.size
    for m in range(centres.size):
        first = centres[m] - frame // 2
        for c in range(channels):
            for k in range(frame):
                at = first + k
                out[m, c, k] = x[c, at] * shape[k] if 0 <= at < samples else 0.0


@_kernel
def _lay(frames: Any, first: int, hop: int, shape: Any, out: Any) -> None:  # pragma: no cover
    """Add windowed frames, the m-th from ``first + m · hop`` on, to a sound."""
    count, channels, frame = frames.shape
    for m in range(count):
        start = first + m * hop
        for c in range(channels):
            for k in range(frame):
                at = start + k
                if 0 <= at < out.shape[1]:
                    out[c, at] += frames[m, c, k] * shape[k]


@dataclass(frozen=True)
class Frames:
    """Where each frame of the output is taken from.

    Parameters
    ----------
    places : ndarray of int64, shape (n,)
        Sample of the input at the middle of each frame; the m-th lies at ``m · hop`` of the output.
    fresh : ndarray of int64, shape (n,)
        Index of the attack whose bins begin anew in that frame, −1 if none do.
    rising : ndarray of bool, shape (attacks, bins)
        Bins that belong to each attack.
    size : int
        Samples of a frame.
    """

    places: Ints
    fresh: Ints
    rising: NDArray[np.bool_]
    size: int = FRAME

    @property
    def hop(self) -> int:
        """Samples of the output from frame to frame."""
        return self.size // OVERLAP


def resynthesize(x: Floats, frames: Frames, length: int) -> Floats:
    """Put a sound together anew from its frames.

    Parameters
    ----------
    x : ndarray of float64, shape (channels, n)
    frames : Frames
    length : int
        Samples of the output.

    Returns
    -------
    ndarray of float64, shape (channels, length)
    """
    channels = x.shape[0]
    frame, hop = frames.size, frames.hop
    bins = frame // 2 + 1
    shape = window(frame)
    # Squared Hann windows add to 3/8 of the frames that lie over one another.
    laid = shape / (0.375 * OVERLAP)
    out = np.zeros((channels, length + 2 * frame))
    last = np.zeros((channels, bins), np.complex128)
    value, which = np.empty(3 * bins), np.empty(3 * bins, np.int64)
    turns = np.empty(bins, np.complex128)
    none = np.zeros(bins, np.bool_)
    wanted = np.empty(frames.places.size)
    x = np.ascontiguousarray(x)
    for begin in range(0, frames.places.size, BATCH):
        places = frames.places[begin : begin + BATCH]
        cut = np.empty((2, places.size, channels, frame))
        _cut(x, places, shape, cut[0])
        _cut(x, places - hop, shape, cut[1])
        spectra = fft.rfft(cut, axis=-1)
        made = np.empty((places.size, channels, bins), np.complex128)
        for m in range(places.size):
            now, before = spectra[0, m], spectra[1, m]
            if begin + m == 0:
                made[0] = now
            else:
                attack = frames.fresh[begin + m]
                fresh = none if attack < 0 else frames.rising[attack]
                turn(now, before, last, fresh, made[m], value, which, turns)
            last = made[m]
        _lay(fft.irfft(made, frame, axis=-1), begin * hop, hop, laid, out)
        wanted[begin : begin + places.size] = (cut[0] ** 2).sum(axis=(1, 2))
    found = np.empty(wanted.size)
    _energies(out, hop, shape, found)
    out *= _levelled(wanted, found, hop, out.shape[1], frame)
    return out[:, frame // 2 : frame // 2 + length]


@_kernel
def _energies(x: Any, hop: int, shape: Any, out: Any) -> None:  # pragma: no cover - compiled
    """Energy of a sound under a window, the m-th from ``m · hop`` on."""
    for m in range(out.size):
        total = 0.0
        for c in range(x.shape[0]):
            for k in range(shape.size):
                at = m * hop + k
                if at < x.shape[1]:
                    value = x[c, at] * shape[k]
                    total += value * value
        out[m] = total


def _levelled(wanted: Floats, found: Floats, hop: int, samples: int, frame: int) -> Floats:
    """Factor at each sample that gives frames their energy back.

    Frames of noise no longer agree where they lie over one another, and lose up to 1 dB.
    """
    floor = 1e-9 * wanted.max(initial=0.0) + 1e-30
    gain = np.sqrt((wanted + floor) / (found + floor))
    gain = np.clip(uniform_filter1d(gain, SMOOTHED), 1.0, MOST_GAIN)
    middles = np.arange(gain.size) * float(hop) + frame // 2
    return np.asarray(np.interp(np.arange(float(samples)), middles, gain))
