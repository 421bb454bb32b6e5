"""Reading a sound at any places between its samples.

Windowed-sinc interpolation from a table, after J. O. Smith and P. Gossett, "A flexible
sampling-rate conversion method", ICASSP 1984 (from memory); the cutoff follows the reading speed,
so that nothing folds when a sound is hurried.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.speed.latency import CROSSINGS, EDGE

PHASES = 1024
BETA = 12.0
"""Of the Kaiser window: side lobes lie about 118 dB down."""
_kernel: Any = njit(cache=True, nogil=True)


def _table() -> Floats:
    # A little beyond its end, so that rounding never reads past it.
    u = np.arange(CROSSINGS * PHASES + 4) / PHASES
    shape = np.i0(BETA * np.sqrt(np.maximum(0.0, 1.0 - (u / CROSSINGS) ** 2))) / np.i0(BETA)
    return np.asarray(np.sinc(u) * shape)


_TABLE = _table()


@_kernel
def _read(
    x: Any, begins: int, places: Any, speeds: Any, table: Any, out: Any
) -> None:  # pragma: no cover
    channels, samples = x.shape
    second = channels - 1
    for n in range(places.size):
        at = places[n]
        band = EDGE / speeds[n] if speeds[n] > 1.0 else EDGE
        reach = CROSSINGS / band
        first = max(int(np.ceil(at - reach)), begins)
        last = min(int(np.floor(at + reach)), begins + samples - 1)
        scale = band * PHASES
        left = 0.0
        right = 0.0
        for k in range(first, last + 1):
            place = abs(at - k) * scale
            low = int(place)
            weight = table[low] + (place - low) * (table[low + 1] - table[low])
            left += weight * x[0, k - begins]
            right += weight * x[second, k - begins]
        out[0, n] = band * left
        out[second, n] = band * right


def read_at(x: Floats, places: Floats, speeds: Floats, begins: int = 0) -> Floats:
    """Values of a sound at places between its samples.

    Parameters
    ----------
    x : ndarray of float64, shape (channels, n)
        The sound from sample ``begins`` on; silent beyond its ends.
    places : ndarray of float64, shape (m,)
        In samples.
    speeds : ndarray of float64, shape (m,)
        Samples of the input per sample of the output, for the cutoff.
    begins : int

    Returns
    -------
    ndarray of float64, shape (channels, m)
    """
    out = np.zeros((x.shape[0], places.size))
    x = np.ascontiguousarray(x)
    for first in range(0, x.shape[0], 2):
        _read(x[first : first + 2], begins, places, speeds, _TABLE, out[first : first + 2])
    return out
