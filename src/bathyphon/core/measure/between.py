"""The largest value between the samples, detected at 16 times the rate (ITU-R BS.1770, annex 2)."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit

FACTOR = 16
TAPS = 64
KAISER_BETA = 9.0
COARSE = 4
"""Of 16 places between two samples every fourth is looked at first: the highest lies near it."""
NEAR = 0.9
"""A sine of the highest frequency falls to cos(π/8) = 0.924 half the way between two."""


def interpolator() -> Floats:
    """Low-pass that interpolates by 16, by phases, shape (16, 64); unity at DC."""
    at = np.arange(FACTOR * TAPS + 1) - FACTOR * TAPS / 2
    # The window method, as SciPy's `signal.firwin` has it, without its import of most of a second.
    taps = np.sinc(at / FACTOR) * np.kaiser(at.size, KAISER_BETA)
    taps *= FACTOR / taps.sum()
    # The last tap is that of a place 64 samples on, which the next sample covers.
    return np.ascontiguousarray(taps[:-1].reshape(TAPS, FACTOR).T[:, ::-1])


@njit(cache=True)
def largest_between(x: Floats, phases: Floats) -> float:
    """Largest absolute value between samples, of a sound with 64 samples before it.

    Parameters
    ----------
    x : ndarray of float64, shape (64 + n,)
        The interpolation looks half of its 64 taps to either side: values up to 32 samples before
        the end are found, those behind them by the next call.
    phases : ndarray of float64, shape (16, 64)
        From :func:`interpolator`.
    """
    taps, factor = phases.shape[1], phases.shape[0]
    count = x.size - taps
    coarse = np.zeros((COARSE, count))
    top = 0.0
    for c in range(COARSE):
        row = coarse[c]
        # Along time within each tap: that runs several samples at once.
        for k in range(taps):
            tap = phases[c * factor // COARSE, k]
            later = x[1 + k : 1 + k + count]
            for i in range(count):
                row[i] += tap * later[i]
        for i in range(count):
            row[i] = abs(row[i])
            if row[i] > top:
                top = row[i]
    if top == 0.0:
        return 0.0
    floor = NEAR * top
    step = factor // COARSE
    for j in range(count * COARSE):
        if coarse[j % COARSE, j // COARSE] < floor:
            continue
        for d in range(1 - step, step):
            place = j * step + d
            if d == 0 or place < 0 or place >= count * factor:
                continue
            i, p = place // factor, place % factor
            y = 0.0
            for k in range(taps):
                y += phases[p, k] * x[i + 1 + k]
            if abs(y) > top:
                top = abs(y)
    return top
