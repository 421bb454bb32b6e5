"""The K-weighting at work: sections of second order, one after the other, sample by sample."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit


@njit(cache=True, nogil=True)
def _through(x: Floats, sections: Floats, memory: Floats) -> Floats:  # pragma: no cover
    out = np.empty_like(x)
    for side in range(x.shape[0]):
        for n in range(x.shape[1]):
            value = x[side, n]
            for s in range(sections.shape[0]):
                b0, b1, b2, _, a1, a2 = sections[s]
                y = b0 * value + memory[s, side, 0]
                memory[s, side, 0] = b1 * value - a1 * y + memory[s, side, 1]
                memory[s, side, 1] = b2 * value - a2 * y
                value = y
            out[side, n] = value
    return out


def weighted(sound: NDArray[np.floating], sections: Floats, memory: Floats) -> Floats:
    """A block through sections of second order (transposed direct form II).

    It gives the bits of SciPy's ``signal.sosfilt``, which takes most of a second to import.

    Parameters
    ----------
    sound : ndarray, shape (channels, n)
    sections : ndarray of float64, shape (sections, 6)
        As of :func:`bathyphon.core.measure.loudness.k_weighting`.
    memory : ndarray of float64, shape (sections, channels, 2)
        What is remembered from block to block; it is changed.

    Returns
    -------
    ndarray of float64, shape (channels, n)
    """
    return _through(np.ascontiguousarray(sound, np.float64), sections, memory)
