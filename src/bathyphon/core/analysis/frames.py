"""Fourier transforms of frames around evenly spaced moments."""

from __future__ import annotations

from functools import cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy import fft
from scipy.signal import get_window

from bathyphon.core.arrays import Floats
from bathyphon.core.measure.spectrum import one_sided

Sharpness = Literal["time", "both", "pitch"]
FRAMES_S: dict[Sharpness, float] = {"time": 0.02, "both": 0.08, "pitch": 0.32}
"""Seconds of a frame: what is sharp in time is blurred in pitch."""
AT_ONCE = 64


def frame_size(sharp: Sharpness, rate: int) -> int:
    """Samples of a frame, a power of two: 1024, 4096 or 16384 at 48 kHz."""
    return int(2 ** round(np.log2(FRAMES_S[sharp] * rate)))


def moments(columns: int, frame: int, rate: int) -> NDArray[np.int64]:
    """Middles of the frames in a second.

    As many for each column that frames overlap by half (P. D. Welch, IEEE Trans. Audio and
    Electroacoustics 15, 1967), one at least, evenly spaced.

    Returns
    -------
    ndarray of int64, shape (columns, frames a column)
        Samples from the second's beginning.
    """
    each = max(1, -(-2 * rate // (frame * columns)))
    count = columns * each
    return np.asarray(((np.arange(count) + 0.5) * rate / count).astype(np.int64).reshape(-1, each))


def both_sides(
    sound: NDArray[np.floating], at: NDArray[np.int64], frame: int
) -> NDArray[np.complex64]:
    """Spectra of both sides around some moments, Hann window.

    Parameters
    ----------
    sound : ndarray, shape (2, n)
        Holds half a frame on each side of all of them.
    at : ndarray of int64, shape (m,)
        Samples of ``sound``.
    frame : int

    Returns
    -------
    ndarray of complex64, shape (2, m, frame // 2 + 1)
        Squared, to be scaled by :func:`~bathyphon.core.measure.spectrum.one_sided`.
    """
    single = np.ascontiguousarray(sound, np.float32)
    window = window_of(frame).astype(np.float32)
    frames = np.empty((2, at.size, frame), np.float32)
    # Frame by frame: gathering them by an index takes as long as transforming them.
    for k, middle in enumerate(at):
        first = middle - frame // 2
        np.multiply(single[:, first : first + frame], window, out=frames[:, k])
    return np.asarray(fft.rfft(frames, axis=2), np.complex64)


def mean_power(sound: NDArray[np.floating], at: NDArray[np.int64], frame: int) -> Floats:
    """Mean square of each bin, of both sides together and of some moments each.

    Parameters
    ----------
    sound : ndarray, shape (2, n)
    at : ndarray of int64, shape (columns, k)
    frame : int

    Returns
    -------
    ndarray of float64, shape (columns, frame // 2 + 1)
        Mean over the ``k`` moments and over left and right.
    """
    out = np.empty((at.shape[0], frame // 2 + 1))
    columns = max(1, AT_ONCE // at.shape[1])
    for first in range(0, at.shape[0], columns):
        part = at[first : first + columns]
        turned = both_sides(sound, part.ravel(), frame).reshape(2, *part.shape, -1)
        power = np.einsum("sckf,sckf->cf", turned.real, turned.real)
        power += np.einsum("sckf,sckf->cf", turned.imag, turned.imag)
        out[first : first + columns] = power
    return one_sided(out / (2 * at.shape[1]), window_of(frame))


@cache
def window_of(frame: int) -> Floats:
    """The window that frames are seen through."""
    return np.asarray(get_window("hann", frame))
