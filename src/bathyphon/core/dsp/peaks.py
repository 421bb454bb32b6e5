"""Peaks between the samples, for a limiter: the largest of sixteen values a sample.

Twice by a half-band filter of 64 taps, then eight times by a short one, whose work is light since
half of the band is empty by then (multistage interpolation: R. E. Crochiere and L. R. Rabiner,
*Multirate Digital Signal Processing*, 1983).
"""

from __future__ import annotations

from functools import cache

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.latency import FINE_TAPS, HALF_TAPS, PEAKS

FINE = 8
DELAY = PEAKS
PAST = HALF_TAPS + FINE_TAPS


@cache
def filters() -> tuple[Floats, Floats]:
    """Taps of the value half-way between two samples, and of the eight phases after that."""
    # SciPy's signal package takes half a second to import: not before something is limited.
    from scipy.signal import firwin

    half = firwin(2 * HALF_TAPS - 1, 0.5, window=("kaiser", 9.0)) * 2.0
    fine = firwin(FINE * FINE_TAPS + 1, 1.0 / FINE, window=("kaiser", 8.0)) * FINE
    phases = np.stack([fine[p : p + FINE * FINE_TAPS : FINE] for p in range(FINE)])
    return half[0::2].copy(), phases


@njit(cache=True, nogil=True)
def between(
    x: Floats, half: Floats, phases: Floats, past: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    """Largest magnitude around each sample, of the louder side, ``DELAY`` samples late.

    Parameters
    ----------
    x : ndarray, shape (2, n)
    half, phases : ndarray
        From :func:`filters`.
    past : ndarray, shape (2, PAST)
        Samples before; updated.
    out : ndarray, shape (n,)
        Overwritten.
    """
    n = x.shape[1]
    out[:] = 0.0
    reach = FINE_TAPS // 2
    count = n + reach
    twice = np.empty(2 * count)
    row = np.empty(count)
    fine = np.empty(2 * n)
    for side in range(2):
        line = np.concatenate((past[side], x[side]))
        # Values from reach samples before the block's first, both late by half of the filter.
        first = PAST - reach
        row[:] = 0.0
        for j in range(half.size):
            tap = half[j]
            source = line[first - j : first - j + count]
            for i in range(count):
                row[i] += tap * source[i]
        middle = line[first - half.size // 2 : first - half.size // 2 + count]
        for i in range(count):
            twice[2 * i] = middle[i]
            twice[2 * i + 1] = row[i]
        for p in range(phases.shape[0]):
            fine[:] = 0.0
            for j in range(phases.shape[1]):
                tap = phases[p, j]
                source = twice[2 * reach - j : 2 * reach - j + 2 * n]
                for i in range(2 * n):
                    fine[i] += tap * source[i]
            for i in range(n):
                out[i] = max(out[i], abs(fine[2 * i]), abs(fine[2 * i + 1]))
        for i in range(n):
            out[i] = max(out[i], abs(twice[2 * i + reach]))
        past[side] = line[n:]
