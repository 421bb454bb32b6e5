"""A phase vocoder with phase-gradient heap integration.

The synthesis hop is fixed and the analysis position free, so any curve of speed works. Each frame
of the output is a frame of the input whose bins are turned by a unit complex number: the one that
lets the input one hop earlier agree with the output so far. Bins that are strong in the last frame
pass their turn on in time, all others take it over from a stronger neighbour in frequency. No phase
is unwrapped, and while the input moves on as fast as the output nothing is turned at all.

Source: Z. Průša, N. Holighaus, "Phase vocoder done right", EUSIPCO 2017 (from memory).
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import fft

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.speed.levels import energies_of
from bathyphon.core.speed.voice import Moves, noise_like, turn_partials

Ints = NDArray[np.int64]
State = tuple[NDArray[Any], ...]

OVERLAP = 4
"""Frames that lie over each sample."""
_QUIET = 1e-12
"""Bins this much below a frame's strongest, in power, only carry on in time."""

_kernel: Any = njit(cache=True, nogil=True)


@cache
def window(frame: int) -> Floats:
    """Periodic Hann window, used for analysis and for synthesis, shape (frame,); shared."""
    shape = np.asarray(0.5 - 0.5 * np.cos(2.0 * np.pi * np.arange(frame) / frame))
    shape.flags.writeable = False
    return shape


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


def _power(spectra: NDArray[np.complex128]) -> Floats:
    """Energy of changes of frames by their spectra, but for a factor."""
    bins = np.arange(spectra.shape[2])
    weight = np.sin(np.pi * bins / (2.0 * (bins.size - 1))) ** 2
    return np.asarray(((spectra.real**2 + spectra.imag**2) * weight).sum(axis=(1, 2)))


class Band:
    """A sound put together anew, frame by frame: turns so far, and what is not complete yet.

    Parameters
    ----------
    frame : int
        Samples of a frame.

    Attributes
    ----------
    place : int
        Sample of the input at which the last frame stands.
    """

    def __init__(self, frame: int) -> None:
        self.frame = frame
        self.hop = frame // OVERLAP
        self._shape = window(frame)
        # Squared Hann windows add to 3/8 of the frames that lie over one another.
        self._laid = self._shape / (0.375 * OVERLAP)
        bins = frame // 2 + 1
        self._work = np.empty(3 * bins), np.empty(3 * bins, np.int64), np.empty(bins, complex)
        self._power = np.empty(bins)
        self._none = np.zeros(bins, np.bool_)
        self._last = np.zeros((0, bins), complex)
        self._tail = np.zeros((0, frame - self.hop))
        self.place = 0

    @property
    def channels(self) -> int:
        """Channels of the sound so far; none before it begins."""
        return self._last.shape[0]

    @property
    def empty(self) -> bool:
        """Whether nothing has been put together yet."""
        return self._last.shape[0] == 0

    def state(self) -> State:
        """The last frame's spectrum and the samples that are not complete yet."""
        return self._last.copy(), self._tail.copy(), np.array([self.place])

    def restore(self, state: State) -> None:
        """Go on from a state."""
        self._last, self._tail = (part.copy() for part in state[:2])
        self.place = int(state[2][0])

    def reset(self) -> None:
        """Begin anew: the next frame is not turned."""
        self._last, self._tail = self._last[:0], self._tail[:0]

    def lay(self, made: NDArray[np.complex128]) -> Floats:
        """Add frames by their spectra, as they are.

        Parameters
        ----------
        made : ndarray of complex128, shape (m, channels, bins)

        Returns
        -------
        ndarray of float64, shape (channels, m · hop)
            What is complete then, from the first sample of the first of these frames on.
        """
        count, channels, _ = made.shape
        frame, hop = self.frame, self.hop
        out = np.zeros((channels, count * hop + frame - hop))
        if not self.empty:
            out[:, : frame - hop] = self._tail
        _lay(fft.irfft(made, frame, axis=-1), 0, hop, self._laid, out)
        self._last = made[-1].copy()
        self._tail = out[:, count * hop :].copy()
        return out[:, : count * hop]

    def advance(
        self,
        x: Floats,
        begins: int,
        places: Ints,
        rising: list[NDArray[np.bool_] | None],
        moved: Moves | None = None,
        shape: Callable[[NDArray[np.complex128]], NDArray[np.complex128]] | None = None,
    ) -> tuple[Floats, Floats]:
        """Add frames, and yield what is complete then.

        Parameters
        ----------
        x : ndarray of float64, shape (channels, n)
            The input from sample ``begins`` on, as far as the frames reach.
        begins : int
        places : ndarray of int64, shape (m,)
            Sample of the input in the middle of each frame.
        rising : list of (ndarray of bool, shape (bins,), or None)
            Bins that begin anew in each frame.
        moved : Moves, optional
            How far frames of a voice are moved.
        shape : callable, optional
            Gives spectra, shape (m, channels, bins), another envelope.

        Returns
        -------
        out : ndarray of float64, shape (channels, m · hop)
            From the first sample of the first of these frames on.
        wanted : ndarray of float64, shape (m,)
            Energy of changes in each frame of the input, as the levels are set by.
        """
        channels = x.shape[0]
        last = np.zeros((channels, self._last.shape[1]), complex)
        if not self.empty:
            # A sound with equal sides is kept as one.
            last = np.repeat(self._last, channels // self._last.shape[0], axis=0)
        x = np.ascontiguousarray(x)
        cut = np.empty((2, places.size, channels, self.frame))
        _cut(x, places - begins, self._shape, cut[0])
        _cut(x, places - begins - self.hop, self._shape, cut[1])
        spectra = fft.rfft(cut, axis=-1)
        made = np.empty(spectra.shape[1:], complex)
        noisy = moved.noisy & noise_like(spectra[0]) if moved else np.zeros(places.size, np.bool_)
        for m in range(places.size):
            fresh = rising[m]
            if moved and (moved.voiced[m] or (noisy[m] and fresh is None)):
                own = (moved.by[m], noisy[m], moved.seeds[m])
                turn_partials(spectra[0, m], *own, self._power, made[m])
            else:
                turn(
                    spectra[0, m],
                    spectra[1, m],
                    last,
                    self._none if fresh is None else fresh,
                    made[m],
                    *self._work,
                )
            last = made[m]
        self.place = int(places[-1]) + (int(moved.by[-1]) if moved else 0)
        wanted = np.empty(places.size)
        energies_of(cut[0], wanted)
        if shape is not None:
            # The levels are those of the new envelope.
            before = _power(made)
            last, made = made[-1], shape(made)
            wanted *= _power(made) / np.maximum(before, 1e-300)
            out = self.lay(made)
            self._last = last.copy()
            return out, wanted
        return self.lay(made), wanted
